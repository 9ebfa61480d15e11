import { useCard } from "./card";
import { setAt, type Path } from "./spec";

/** A colour of the spec, kept when the hand leaves it. */
export function ColourField({ label, at, value }: { label: string; at: Path; value: string }) {
  const { change } = useCard();
  return (
    <label className="inline-block">
      <span className="block text-[13px] text-soft">{label}</span>
      <input
        key={value}
        type="color"
        className="h-8 w-12"
        defaultValue={value}
        onBlur={({ target }) => {
          if (target.value === value) return;
          change((now) => setAt(now, at, target.value)).catch(() => {
            target.value = value;
          });
        }}
      />
    </label>
  );
}

import { useCard } from "./card";
import { setAt, type Path } from "./spec";

type Props = { label: string; at: Path; value: number; min?: number; max?: number; beside?: boolean };

/** A whole number of the spec, kept on Enter or on going elsewhere; one that is refused goes back. */
export function NumberField({ label, at, value, min = 0, max, beside = false }: Props) {
  const { change } = useCard();
  return (
    <label className={beside ? "flex items-center gap-2" : "inline-block"}>
      <span className={beside ? "" : "block text-[13px] text-soft"}>{label}</span>
      <input
        key={value}
        type="number"
        min={min}
        max={max}
        className="field w-20"
        defaultValue={value}
        onBlur={({ target }) => {
          const next = Number(target.value);
          if (next === value) return;
          change((now) => setAt(now, at, next)).catch(() => {
            target.value = String(value);
          });
        }}
        onKeyDown={(event) => {
          if (event.key === "Enter") event.currentTarget.blur();
        }}
      />
    </label>
  );
}

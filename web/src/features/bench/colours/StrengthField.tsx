import type { Swatch } from "@/shared/api";
import { useDraft } from "@/shared/ui";

type Props = { swatch: Swatch; least: number; onKeep: (percent: number) => void };

/** At what part of its full strength a swatch is laid, kept on Enter or when the hand goes elsewhere. */
export function StrengthField({ swatch, least, onKeep }: Props) {
  const [text, setText] = useDraft(String(swatch.strength));
  function keep() {
    const percent = Math.round(Number(text));
    if (!(percent >= least && percent <= 100)) setText(String(swatch.strength));
    else if (percent !== swatch.strength) onKeep(percent);
  }
  return (
    <label className="mt-1 flex items-center gap-1 text-[12px]">
      <span className="sr-only">Strength of {swatch.pen}</span>
      <input
        type="number"
        min={least}
        max={100}
        className="w-14 rounded border border-soft bg-sheet px-1 py-0.5 text-right"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === "Enter") keep();
          if (event.key === "Escape") setText(String(swatch.strength));
        }}
      />
      %
    </label>
  );
}

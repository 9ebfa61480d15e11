import type { CSSProperties } from "react";

import type { Swatch } from "@/shared/api";

export function swatchStyle(hex: string) {
  return { "--swatch": hex } as CSSProperties;
}

/** In a ramp a swatch says how it looks on the paper of the piece. */
type Chip = Swatch & { seen_hex?: string };
type RampChipsProps = { swatches: Chip[]; bare?: string | null; small?: boolean };

/** A ramp as one band of its swatches, light to dark, with their names beneath; bare paper comes first, if it ends there. */
export function RampChips({ swatches, bare = null, small = false }: RampChipsProps) {
  return (
    <span className="block min-w-0">
      <span className={`flex overflow-hidden rounded border border-line ${small ? "h-4" : "h-6"}`}>
        {bare && (
          <span
            title="bare paper"
            className="grow border-r border-dashed border-soft bg-(--swatch)"
            style={swatchStyle(bare)}
          />
        )}
        {swatches.map((swatch) => (
          <span
            key={swatch.code}
            title={`${swatch.name}, ${swatch.words}`}
            className="relative grow bg-(--swatch)"
            style={swatchStyle(swatch.seen_hex ?? swatch.hex)}
          >
            {swatch.seen_hex && areApart(swatch.seen_hex, swatch.hex) && (
              <span
                className="absolute right-0 bottom-0 size-2 bg-(--swatch) [clip-path:polygon(100%_0,100%_100%,0_100%)]"
                style={swatchStyle(swatch.hex)}
              />
            )}
          </span>
        ))}
      </span>
      {!small && (
        <span className="mt-0.5 block text-[12px] leading-tight text-soft">{rampNames(swatches, bare !== null)}</span>
      )}
    </span>
  );
}

/** Whether two colours look unlike, #rrggbb each: the paper then changes what the swatch itself shows in the corner. */
function areApart(one: string, other: string): boolean {
  const channels = (hex: string) => [1, 3, 5].map((start) => parseInt(hex.slice(start, start + 2), 16));
  const others = channels(other);
  return channels(one).some((value, index) => Math.abs(value - (others[index] ?? 0)) > 16);
}

/** "Rose 11 · 12 · 14": the family once, where all share it; "paper · Rose 13 at 24 · 100 %": the pen once. */
export function rampNames(swatches: Swatch[], toPaper = false): string {
  const paper = toPaper ? "paper · " : "";
  const pen = swatches[0]?.pen;
  if (swatches.length > 1 && swatches.every((swatch) => swatch.pen === pen)) {
    return `${paper}${pen} at ${swatches.map((swatch) => swatch.strength).join(" · ")}\u00a0%`;
  }
  const names = swatches.map(({ pen, strength }) => (strength < 100 ? `${pen} (${strength}\u00a0%)` : pen));
  const parts = names.map((name) => /^(.*?) (\d+.*)$/.exec(name));
  const family = parts[0]?.[1];
  if (family && swatches.length > 1 && parts.every((part) => part?.[1] === family)) {
    return `${paper}${family} ${parts.map((part) => part?.[2]).join(" · ")}`;
  }
  return paper + names.join(" · ");
}

/** Lightness steps as bars: even ones stand level. */
export function StepBars({ steps }: { steps: number[] }) {
  const tallest = Math.max(...steps, 1);
  return (
    <span aria-hidden className="inline-flex h-4 items-end gap-0.5">
      {steps.map((step, index) => (
        <span key={index} className="w-1.5 bg-ink" style={{ height: `${Math.max(12, (100 * step) / tallest)}%` }} />
      ))}
    </span>
  );
}

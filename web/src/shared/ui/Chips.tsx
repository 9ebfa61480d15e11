import type { CSSProperties } from "react";

import type { Swatch } from "@/shared/api";

export function swatchStyle(hex: string) {
  return { "--swatch": hex } as CSSProperties;
}

/** A ramp as one band of its swatches, light to dark, with their names beneath. */
export function RampChips({ swatches, small = false }: { swatches: Swatch[]; small?: boolean }) {
  return (
    <span className="block min-w-0">
      <span className={`flex overflow-hidden rounded border border-line ${small ? "h-4" : "h-6"}`}>
        {swatches.map((swatch) => (
          <span
            key={swatch.code}
            title={`${swatch.name}, ${swatch.words}`}
            className="grow bg-(--swatch)"
            style={swatchStyle(swatch.hex)}
          />
        ))}
      </span>
      {!small && <span className="mt-0.5 block text-[12px] leading-tight text-soft">{rampNames(swatches)}</span>}
    </span>
  );
}

/** "Rose 11 · 12 · 14": the family once, where all share it. */
function rampNames(swatches: Swatch[]): string {
  const parts = swatches.map((swatch) => /^(.*?) (\d+.*)$/.exec(swatch.name));
  const family = parts[0]?.[1];
  if (family && swatches.length > 1 && parts.every((part) => part?.[1] === family)) {
    return `${family} ${parts.map((part) => part?.[2]).join(" · ")}`;
  }
  return swatches.map((swatch) => swatch.name).join(" · ");
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

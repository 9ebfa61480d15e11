import { useMemo, useRef, type KeyboardEvent } from "react";

import type { SwatchRecord } from "@/shared/api";
import { swatchStyle } from "@/shared/ui";
import { threads } from "./threads";

const TOP = 100;
const BOTTOM = 12;
const HEIGHT = 560;
const DARK_ENOUGH = 45;

const LANE = 36;

/** Swatches by hue across and lightness down, families as threads, so that gaps and ramps can be seen. Arrow keys walk it. */
export function DrawerMap({
  swatches,
  chosen,
  onChoose,
}: {
  swatches: SwatchRecord[];
  chosen: string | null;
  onChoose: (code: string) => void;
}) {
  const families = useMemo(() => threads(swatches), [swatches]);
  const map = useRef<HTMLDivElement>(null);

  function onKeyDown(event: KeyboardEvent, column: number, row: number) {
    const [dc, dr] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key] ?? [
      0, 0,
    ];
    if (!dc && !dr) return;
    event.preventDefault();
    const family = families[column + (dc ?? 0)];
    const next = family?.swatches[Math.min(row + (dr ?? 0), (family?.swatches.length ?? 1) - 1)];
    if (!next) return;
    onChoose(next.code);
    map.current?.querySelector<HTMLElement>(`[data-code="${CSS.escape(next.code)}"]`)?.focus();
  }

  return (
    <div
      ref={map}
      role="group"
      aria-label="Swatches by hue and lightness"
      className="relative grow overflow-x-auto"
      style={{ minHeight: HEIGHT + 40 }}
    >
      {[90, 80, 70, 60, 50, 40, 30, 20].map((light) => (
        <div
          key={light}
          aria-hidden
          className="absolute inset-x-0 border-t border-ink/15 text-[12px]"
          style={{ top: at(light) }}
        >
          <span className="relative -top-2.5 bg-surround pr-1">L* {light}</span>
        </div>
      ))}
      <div
        className="absolute inset-y-0 left-12 right-2 grid"
        style={{
          gridTemplateColumns: families
            .map((family) => `minmax(${10 + LANE * family.width}px, ${family.width}fr)`)
            .join(" "),
        }}
      >
        {families.map((family, column) => (
          <div key={`${family.own} ${family.name}`} className="relative">
            {family.own && family.width === 1 && (
              <span
                aria-hidden
                className="absolute left-1/2 w-px bg-ink/45"
                style={{ top: at(family.light), height: at(family.dark) - at(family.light) }}
              />
            )}
            {family.swatches.map((swatch, row) => (
              <button
                key={swatch.code}
                type="button"
                data-code={swatch.code}
                aria-pressed={swatch.code === chosen}
                aria-label={`${swatch.name}, ${swatch.words}`}
                tabIndex={swatch.code === chosen ? 0 : -1}
                onClick={() => onChoose(swatch.code)}
                onKeyDown={(event) => onKeyDown(event, column, row)}
                className="absolute h-6 w-8 -translate-x-1/2 -translate-y-1/2 rounded-sm bg-(--swatch) aria-pressed:z-10 aria-pressed:ring-3 aria-pressed:ring-ink"
                style={{
                  ...swatchStyle(swatch.hex),
                  top: at(swatch.lab[0] ?? 0),
                  left: `calc(50% + ${((family.lanes[row] ?? 0) - (family.width - 1) / 2) * LANE}px)`,
                }}
              />
            ))}
            {family.own && family.dark > DARK_ENOUGH && (
              <span className="absolute inset-x-0 -translate-y-1/2 text-center text-[12px]" style={{ top: at(34) }}>
                <span
                  aria-hidden
                  className="mx-auto mb-0.5 block size-6 rounded-full border border-dashed border-ink"
                />
                no dark
              </span>
            )}
            <span
              className={`absolute inset-x-0 text-center text-[12px] ${family.own ? "" : "italic"}`}
              title={family.own ? undefined : "Of no family"}
              style={{ top: HEIGHT + 6 }}
            >
              {family.name}
            </span>
          </div>
        ))}
      </div>
    </div>
  );
}

function at(light: number): number {
  return ((TOP - light) / (TOP - BOTTOM)) * HEIGHT;
}

import { useCallback } from "react";

import { useSingleKeys, useSingleKeysOn } from "@/shared/ui";
import { useBenchAddress, useHand, usePiece, VIEWS, type View } from "../bench";

const NAMES: Record<(typeof VIEWS)[number], string> = {
  line: "Line",
  regions: "Regions",
  values: "Values",
  coloured: "Coloured",
  clay: "Clay",
};

/** Ways to look at the picture; keys 1 to 5 do the same unless such keys are turned off. */
export function ViewSwitch() {
  const { view, go } = useBenchAddress();
  const { width_mm, height_mm } = usePiece();
  // Beside an upright card there is room at the side, below one that lies there is room beneath.
  const upright = height_mm > 1.1 * width_mm;
  const choose = useCallback(
    (next: View) => {
      useHand.setState({ viewByHand: true });
      go({ view: next });
    },
    [go],
  );
  const keysOn = useSingleKeysOn();
  useSingleKeys(
    useCallback(
      (key) => {
        const wanted = VIEWS[Number(key) - 1];
        if (wanted) choose(wanted);
      },
      [choose],
    ),
  );

  return (
    <div
      role="group"
      aria-label="View of the picture"
      className={`absolute bottom-2 left-2 z-10 flex gap-1 ${upright ? "flex-col items-start text-[14px]" : ""}`}
    >
      {VIEWS.map((name, index) => (
        <button
          key={name}
          type="button"
          aria-pressed={view === name}
          onClick={() => choose(name)}
          className="rounded px-3 py-1.5 hover:bg-surround-light aria-pressed:bg-ink aria-pressed:text-sheet aria-pressed:hover:bg-ink"
        >
          {NAMES[name]} {keysOn && <kbd className="ml-1 font-sans text-[13px] opacity-75">{index + 1}</kbd>}
        </button>
      ))}
    </div>
  );
}

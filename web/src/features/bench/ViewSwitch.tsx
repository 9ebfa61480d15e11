import { useEffect } from "react";

import { useBench, VIEWS } from "./bench";

const NAMES: Record<(typeof VIEWS)[number], string> = { line: "Line", regions: "Regions", values: "Values", coloured: "Coloured" };

/** Ways to look at the picture; keys 1 to 4 do the same. */
export function ViewSwitch() {
  const { view, show } = useBench();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches("input:not([type=range]):not([type=checkbox]):not([type=radio]), textarea, select");
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      const wanted = VIEWS[Number(event.key) - 1];
      if (wanted) show(wanted);
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [show]);

  return (
    <div role="group" aria-label="View of the picture" className="flex justify-center gap-1 pb-3">
      {VIEWS.map((name, index) => (
        <button key={name} type="button" aria-pressed={view === name} onClick={() => show(name)}
          className="rounded px-3 py-1.5 aria-pressed:bg-ink aria-pressed:text-sheet hover:bg-surround-light aria-pressed:hover:bg-ink">
          {NAMES[name]} <kbd className="ml-1 font-sans text-[13px] opacity-75">{index + 1}</kbd>
        </button>
      ))}
    </div>
  );
}

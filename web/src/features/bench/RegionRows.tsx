import { useEffect, useRef, type ReactNode } from "react";

import type { Region } from "@/shared/api";
import { useHand, useSelected } from "./bench";

type Props = { regions: Region[]; detail: (region: Region) => ReactNode };

/** The regions as a list: the keyboard's way to take them in hand. Arrows move, Space or Enter chooses, Shift adds. */
export function RegionRows({ regions, detail }: Props) {
  const selected = useSelected();
  const list = useRef<HTMLUListElement>(null);
  const last = selected.at(-1);

  useEffect(() => {
    const row = last === undefined ? null : list.current?.querySelector<HTMLElement>(`[data-label="${last}"]`);
    if (!row || !list.current) return;
    // Only the list scrolls; the sheet stays where the reader left it.
    const top = row.offsetTop - list.current.offsetTop;
    if (top < list.current.scrollTop || top + row.offsetHeight > list.current.scrollTop + list.current.clientHeight) {
      list.current.scrollTop = top - list.current.clientHeight / 3;
    }
  }, [last]);

  function step(from: HTMLElement, by: number) {
    const rows = [...(list.current?.querySelectorAll("button") ?? [])];
    rows[rows.indexOf(from as HTMLButtonElement) + by]?.focus();
  }

  return (
    <ul ref={list} className="max-h-[46vh] overflow-y-auto border-y border-line" aria-label="Regions">
      {regions.map((region) => (
        <li key={region.label}>
          <Row region={region} chosen={selected.includes(region.label)} onStep={step}>
            {detail(region)}
          </Row>
        </li>
      ))}
    </ul>
  );
}

type RowProps = {
  region: Region;
  chosen: boolean;
  onStep: (from: HTMLElement, by: number) => void;
  children: ReactNode;
};

function Row({ region, chosen, onStep, children }: RowProps) {
  const select = useHand((hand) => hand.select);
  const hover = useHand((hand) => hand.hover);
  const hovered = useHand((hand) => hand.hovered === region.label);
  const look = chosen ? "bg-ink/10 shadow-[inset_3px_0_0_#161616]" : hovered ? "bg-faint" : "";
  return (
    <button
      type="button"
      aria-pressed={chosen}
      data-label={region.label}
      onClick={(event) => select(region.label, event.shiftKey || event.ctrlKey || event.metaKey)}
      onMouseEnter={() => hover(region.label)}
      onMouseLeave={() => hover(0)}
      onKeyDown={(event) => {
        if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
        event.preventDefault();
        onStep(event.currentTarget, event.key === "ArrowDown" ? 1 : -1);
      }}
      className={`grid w-full grid-cols-[2.2rem_minmax(0,1fr)_auto] items-center gap-2 border-b border-faint px-1 py-1 text-left outline-offset-[-3px] ${look}`}
    >
      <span className="text-right text-[13px] text-soft">{region.label}</span>
      <span className={chosen ? "truncate font-bold" : "truncate"}>{region.name}</span>
      {children}
    </button>
  );
}

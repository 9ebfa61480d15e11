import { flushSync } from "react-dom";
import { useEffect, useRef, useState, type KeyboardEvent, type ReactNode } from "react";

import { thingsOf, type Region, type Thing } from "@/shared/api";
import { useHand, usePiece, useSelected, useTake } from "../bench";
import type { Labels } from "../stage/labels";
import { pickedAbove } from "./things";
import { ThingPicture } from "../stage/ThingPicture";
import { useLabels } from "../stage/useLabels";

type Props = {
  regions: Region[];
  /** Of a thing, told by its first region, or of one region. */ detail: (region: Region, thing: Region[]) => ReactNode;
};

/**
 * The things as a list, each folding out to its regions: the keyboard's way to take them in hand. Up and down go from
 * row to row, right or Enter into a thing, left out of it; Space takes, Shift adds.
 */
export function ThingRows({ regions, detail }: Props) {
  const selected = useSelected();
  const labels = useLabels();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const list = useRef<HTMLUListElement>(null);
  const last = selected.at(-1);
  const alone = selected.length === 1 ? regions.find((region) => region.label === selected[0])?.thing : "";

  useEffect(() => {
    const row = last === undefined ? null : list.current?.querySelector<HTMLElement>(`[data-holds~="${last}"]`);
    if (!row || !list.current) return;
    // Only the list scrolls; the sheet stays where the reader left it.
    const top = row.offsetTop - list.current.offsetTop;
    if (top < list.current.scrollTop || top + row.offsetHeight > list.current.scrollTop + list.current.clientHeight) {
      list.current.scrollTop = top - list.current.clientHeight / 3;
    }
  }, [last]);

  function fold(name: string, out: boolean) {
    setOpen((now) => new Set(out ? [...now, name] : [...now].filter((other) => other !== name)));
  }

  return (
    <ul ref={list} className="max-h-[46vh] overflow-y-auto border-y border-line" aria-label="Regions">
      {thingsOf(regions).map((thing) => {
        const [first] = thing.regions;
        if (!first) return null;
        if (thing.regions.length === 1)
          return (
            <li key={first.label}>
              <RegionRow region={first} list={list} labels={labels}>
                {detail(first, [first])}
              </RegionRow>
            </li>
          );
        const out = open.has(thing.name) || alone === thing.name;
        return (
          <li key={thing.name}>
            <ThingRow thing={thing} list={list} labels={labels} out={out} onFold={(to) => fold(thing.name, to)}>
              {detail(first, thing.regions)}
            </ThingRow>
            {out && (
              <ul aria-label={`Regions of ${thing.name}`}>
                {thing.regions.map((region) => (
                  <li key={region.label}>
                    <RegionRow region={region} list={list} onLeave={() => fold(thing.name, false)}>
                      {detail(region, [region])}
                    </RegionRow>
                  </li>
                ))}
              </ul>
            )}
          </li>
        );
      })}
    </ul>
  );
}

type List = React.RefObject<HTMLUListElement | null>;
const ROW =
  "grid w-full grid-cols-[2.4rem_2.6rem_minmax(0,1fr)_auto] items-center gap-2 border-b border-faint px-1 py-1 text-left outline-offset-[-3px]";

function look(chosen: boolean, hovered: boolean): string {
  return chosen ? "bg-ink/10 shadow-[inset_3px_0_0_#161616]" : hovered ? "bg-faint" : "";
}

function adds(event: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): boolean {
  return event.shiftKey || event.ctrlKey || event.metaKey;
}

/** Moves the focus by so many rows; false if the key is not one for moving. */
function moved(list: List, event: KeyboardEvent<HTMLButtonElement>): boolean {
  const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
  if (!by) return false;
  event.preventDefault();
  const rows = [...(list.current?.querySelectorAll("button") ?? [])];
  rows[rows.indexOf(event.currentTarget) + by]?.focus();
  return true;
}

type ThingRowProps = {
  thing: Thing;
  list: List;
  labels: Labels | undefined;
  out: boolean;
  onFold: (out: boolean) => void;
  children: ReactNode;
};

function ThingRow({ thing, list, labels, out, onFold, children }: ThingRowProps) {
  const selected = useSelected();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const hover = useHand((hand) => hand.hover);
  const own = thing.regions.map((region) => region.label);
  const hovered = useHand((hand) => own.includes(hand.hovered));
  const chosen = own.every((label) => selected.includes(label));
  const row = useRef<HTMLButtonElement>(null);

  function take(add: boolean) {
    if (!add) return selectOnly(chosen && selected.length === own.length ? [] : own);
    selectOnly(chosen ? selected.filter((label) => !own.includes(label)) : [...new Set([...selected, ...own])]);
  }

  function into() {
    // Drawn at once, so that the first region is there to take the focus.
    flushSync(() => onFold(true));
    row.current?.parentElement?.querySelector<HTMLElement>(":scope > ul button")?.focus();
  }

  return (
    <button
      ref={row}
      type="button"
      aria-pressed={chosen}
      aria-expanded={out}
      data-holds={own.join(" ")}
      onClick={(event) => take(adds(event))}
      onMouseEnter={() => hover(own[0] ?? 0)}
      onMouseLeave={() => hover(0)}
      onKeyDown={(event) => {
        if (moved(list, event)) return;
        if (event.key === "ArrowRight" || event.key === "Enter") {
          event.preventDefault();
          into();
        } else if (event.key === "ArrowLeft") onFold(false);
      }}
      className={`${ROW} ${look(chosen, hovered)}`}
    >
      <span
        className="text-right text-[13px] text-soft"
        aria-hidden
        onClick={(event) => {
          event.stopPropagation();
          onFold(!out);
        }}
      >
        {own[0]} {out ? "▾" : "▸"}
      </span>
      <ThingPicture labels={labels} of={own} />
      <span className={chosen ? "truncate font-bold" : "truncate"}>
        {thing.name} <span className="text-[13px] text-soft">({own.length})</span>
      </span>
      {children}
    </button>
  );
}

type RegionRowProps = {
  region: Region;
  list: List;
  /** With its own small picture, where it stands for itself. */
  labels?: Labels | undefined;
  /** Inside of a thing: back out to it. */
  onLeave?: () => void;
  children: ReactNode;
};

function RegionRow({ region, list, labels, onLeave, children }: RegionRowProps) {
  const chosen = useSelected().includes(region.label);
  const take = useTake();
  const hover = useHand((hand) => hand.hover);
  const hovered = useHand((hand) => hand.hovered === region.label);
  return (
    <button
      type="button"
      aria-pressed={chosen}
      data-label={region.label}
      data-holds={region.label}
      onClick={(event) => take(region.label, adds(event), "region")}
      onMouseEnter={() => hover(region.label)}
      onMouseLeave={() => hover(0)}
      onKeyDown={(event) => {
        if (moved(list, event)) return;
        if (onLeave && (event.key === "ArrowLeft" || event.key === "Escape")) {
          event.preventDefault();
          event.stopPropagation();
          const thing = event.currentTarget.closest("ul")?.parentElement?.querySelector<HTMLElement>("button");
          onLeave();
          thing?.focus();
        }
      }}
      className={`${ROW} ${look(chosen, hovered)}`}
    >
      <span className="text-right text-[13px] text-soft">{region.label}</span>
      {onLeave ? <span aria-hidden /> : <ThingPicture labels={labels} of={[region.label]} />}
      <span className={chosen ? "truncate font-bold" : "truncate"}>{region.name}</span>
      {children}
    </button>
  );
}

/** Back up with Escape, wherever the focus is: from a region to its thing, from a thing to nothing. */
export function useEscape() {
  const piece = usePiece();
  useEffect(() => {
    const listen = (event: globalThis.KeyboardEvent) => {
      if (event.key !== "Escape" || event.defaultPrevented) return;
      if (event.target instanceof HTMLElement && event.target.closest("[role=dialog], input, textarea, select")) return;
      const { picked, selectOnly } = useHand.getState();
      if (picked.length) selectOnly(pickedAbove(picked, piece.regions.list));
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [piece.regions.list]);
}

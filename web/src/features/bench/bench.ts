import { createContext, useContext } from "react";

import type { Piece, Region } from "@/shared/api";

export const SECTIONS = ["stamp", "regions", "light", "colours", "order", "finish", "card"] as const;
export type Section = (typeof SECTIONS)[number];
export const VIEWS = ["line", "regions", "values", "coloured"] as const;
/** The views of the switch, and what was taken as ink, which only the Stamp section shows. */
export const ALL_VIEWS = [...VIEWS, "ink"] as const;
export type View = (typeof ALL_VIEWS)[number];

export type Tool = "hand" | "barrier" | "lasso" | "border";

/** What the parts of the bench share: the piece, and which of its regions are in hand. */
export type Bench = {
  piece: Piece;
  selected: readonly number[];
  /** Take one region in hand; `add` keeps the others, and lets go of it if it was in hand already. */
  select: (label: number, add: boolean) => void;
  selectOnly: (labels: readonly number[]) => void;
  hovered: number;
  hover: (label: number) => void;
  /** What a stroke on the picture does: take regions in hand, draw a barrier or a lasso, or turn a border round. */
  tool: Tool;
  view: View;
  show: (view: View) => void;
  takeTool: (tool: Tool) => void;
};

export const BenchContext = createContext<Bench | null>(null);

export function useBench(): Bench {
  const bench = useContext(BenchContext);
  if (!bench) throw new Error("Only for parts of the bench.");
  return bench;
}

export function chosenRegions(bench: Bench): Region[] {
  return bench.piece.regions.filter((region) => bench.selected.includes(region.label));
}

import { createContext, useCallback, useContext } from "react";
import { useSearchParams } from "react-router";
import { create } from "zustand";

import { matesOf, type Piece, type Region } from "@/shared/api";
import { pickedAfter } from "./regions/things";

export const SECTIONS = ["stamp", "regions", "light", "colours", "order", "finish", "card"] as const;
export type Section = (typeof SECTIONS)[number];
export const VIEWS = ["line", "regions", "values", "coloured", "clay"] as const;
/** The views of the switch, and what was taken as ink, which only the Stamp section shows. */
const ALL_VIEWS = [...VIEWS, "ink"] as const;
export type View = (typeof ALL_VIEWS)[number];

/** What a stroke on the picture does: take regions in hand, draw a barrier or a lasso, or turn a border round. */
export type Tool = "hand" | "barrier" | "lasso" | "border";

type Hand = {
  /** Regions in hand, in the order they were taken. Some may be gone from the piece: see `useSelected`. */
  picked: readonly number[];
  hovered: number;
  tool: Tool;
  /** Whether the view was chosen by hand; else it follows the section that is opened. */
  viewByHand: boolean;
  selectOnly: (labels: readonly number[]) => void;
  hover: (label: number) => void;
  takeTool: (tool: Tool) => void;
};

/** What the hand on the bench holds. Parts read only what they show, so that hovering redraws a line, not the bench. */
export const useHand = create<Hand>((set) => ({
  picked: [],
  hovered: 0,
  tool: "hand",
  viewByHand: false,
  selectOnly: (picked) => set({ picked }),
  hover: (hovered) => set((now) => (now.hovered === hovered ? now : { hovered })),
  takeTool: (tool) => set({ tool }),
}));

export const PieceContext = createContext<Piece | null>(null);

/** The piece on the bench. */
export function usePiece(): Piece {
  const piece = useContext(PieceContext);
  if (!piece) throw new Error("Only for parts of the bench.");
  return piece;
}

/**
 * Takes in hand what was clicked: its whole thing, and with a second click the one region in it, or the region by
 * itself where it was meant by itself.
 */
export function useTake() {
  const { regions } = usePiece();
  return useCallback(
    (label: number, add: boolean, meant: "thing" | "region" = "thing") => {
      const mates = meant === "thing" ? matesOf(regions.list, label) : [label];
      useHand.setState(({ picked }) => ({ picked: pickedAfter(picked, label, mates, add) }));
    },
    [regions.list],
  );
}

/** The regions in hand; one that was joined into another, or undone, is no longer. */
export function useChosen(): Region[] {
  const { regions } = usePiece();
  const picked = useHand((hand) => hand.picked);
  return regions.list.filter((region) => picked.includes(region.label));
}

/** Labels of the regions in hand, in the order they were taken. */
export function useSelected(): number[] {
  const { regions } = usePiece();
  const picked = useHand((hand) => hand.picked);
  return picked.filter((label) => regions.list.some((region) => region.label === label));
}

/** Section and view stand in the address, so that a reload and a link find them again. */
export function useBenchAddress() {
  const [address, setAddress] = useSearchParams();
  const takeTool = useHand((hand) => hand.takeTool);
  const piece = usePiece();
  const section = oneOf(SECTIONS, address.get("section"), piece.colours.pen_count ? "colours" : "regions");
  const view = oneOf(ALL_VIEWS, address.get("view"), "coloured");
  const go = useCallback(
    (to: { section?: Section; view?: View }) => {
      // The address itself, not the one of the last render: two quick keys must not undo each other.
      const next = new URLSearchParams(window.location.search);
      for (const [name, value] of Object.entries(to)) next.set(name, value);
      setAddress(next, { replace: true });
      takeTool("hand");
    },
    [setAddress, takeTool],
  );
  return { section, view, go };
}

function oneOf<Word extends string>(words: readonly Word[], found: string | null, otherwise: Word): Word {
  return words.includes(found as Word) ? (found as Word) : otherwise;
}

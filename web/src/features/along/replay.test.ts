import { describe, expect, it } from "vitest";

import type { RunEvent } from "@/shared/api";
import cases from "../../../../tests/cases/replay.json";
import { replay, type Planned } from "./replay";

type Case = {
  name: string;
  log: unknown[];
  cards: { laid: Record<string, number>; touched: Record<string, number>; handled: number[] }[];
  set_aside?: string[];
  pens?: Record<string, string>;
  here?: Record<string, string>;
  finished?: boolean;
};

const PLACES = [
  { number: 1, region: 1, medium: "marker" },
  { number: 2, region: 2, medium: "marker" },
  { number: 3, region: 1, medium: "marker" },
  { number: 4, region: 3, medium: "pencil" },
] as const;

/** The plan that the cases speak of. */
function planned(cards: number): Planned {
  return {
    cards,
    plan: "now",
    steps: PLACES.map((place) => ({
      ...place,
      swatch: "a",
      touch_dry_s: cases.touch_dry_s[place.medium],
      coat_dry_s: 0,
    })),
    handling: [{ kind: "lay" }, { kind: "lift" }],
    slips: [
      {
        rescues: [
          { code: "melt again", wets: true },
          { code: "fill in", wets: true },
          { code: "pencil shadow", wets: false },
        ],
      },
    ],
  } as unknown as Planned;
}

function told(run: Planned, log: RunEvent[]) {
  const progress = replay(run, log);
  const back = new Set(log.flatMap((event) => (event.kind === "undone" ? (event.event ?? []) : [])));
  const kept = new Set(progress.log.map((event) => event.id));
  const codes = (pens: Map<string, { code: string }>) =>
    Object.fromEntries([...pens].map(([key, pen]) => [key, pen.code]));
  return {
    cards: progress.cards.map((card) => ({
      laid: Object.fromEntries(card.laid),
      touched: Object.fromEntries([...card.touched].map(([region, { at_s }]) => [region, at_s])),
      handled: [...card.handled].sort(),
    })),
    set_aside: [...new Set(log.map((event) => event.id))].filter((id) => !kept.has(id) && !back.has(id)).sort(),
    pens: codes(progress.pens),
    here: codes(progress.here),
    finished: progress.finished,
  };
}

describe("the replay", () => {
  it.each((cases.cases as Case[]).map((one) => [one.name, one] as const))(
    "%s",
    (_, { log, cards, set_aside = [], pens = {}, here = {}, finished = false }) => {
      const lines = (log as RunEvent[]).map((line) => ({ ...line, card: line.card ?? 1 }));
      for (const order of [lines, [...lines].reverse(), [...lines, ...lines]])
        expect(told(planned(cards.length), order)).toEqual({ cards, set_aside, pens, here, finished });
    },
  );
});

import { describe, expect, it } from "vitest";

import type { RunEvent, RunReadout } from "@/shared/api";
import { courseOf, type CourseStep } from "./course";
import { paintLit, zoomTo, type LitMap } from "./lit";
import { beneathOf, clockOf, isDone, lastDone, nextUp } from "./progress";
import { replay } from "./replay";

const step = (number: number, region: number, more: object = {}) => ({
  number,
  region,
  name: `R${region}`,
  medium: "marker",
  swatch: "a",
  touch_dry_s: 50,
  coat_dry_s: 150,
  needs: [],
  within_s: null,
  zones: [0],
  ...more,
});

function run(more: object = {}): RunReadout {
  return {
    cards: 1,
    plan: "p",
    slips: [],
    steps: [step(1, 1), step(2, 2), step(3, 1, { within_s: 75 }), step(4, 3, { needs: [{ region: 1, coat: false }] })],
    stints: [
      { first_pass: 1, last_pass: 2, name: "Petals", count: 2 },
      { first_pass: 3, last_pass: 3, name: "R1", count: 1 },
      { first_pass: 4, last_pass: 4, name: "R3", count: 1 },
    ],
    lines: [{ first_pass: 1, last_pass: 4 }],
    handling: [],
    ...more,
  } as unknown as RunReadout;
}

const stint = (pass: number): CourseStep => ({ kind: "stint", card: 1, stints: [0], passes: [pass], key: `1-${pass}` });

let made = 0;
const line = (kind: RunEvent["kind"], at_s: number, more: object = {}): RunEvent => ({
  id: `event-${made++}`,
  kind,
  at_s,
  plan: "p",
  card: 1,
  ...more,
});

/** The box round a region. */
function wholeOf(map: LitMap, region: number) {
  const at = [...map.regions.keys()].filter((one) => map.regions[one] === region);
  const columns = at.map((one) => one % map.width);
  const rows = at.map((one) => Math.floor(one / map.width));
  return {
    left: Math.min(...columns),
    top: Math.min(...rows),
    right: Math.max(...columns),
    bottom: Math.max(...rows),
  };
}

describe("the course", () => {
  it("does every stretch on card after card", () => {
    const lines = [
      { first_pass: 1, last_pass: 2 },
      { first_pass: 3, last_pass: 4 },
    ];
    const keys = courseOf(run({ cards: 2, lines })).map((one) => one.key);
    expect(keys).toEqual(["1-1", "2-1", "1-3", "1-4", "2-3", "2-4"]);
  });

  it("has masks where the plan has them, the last one after the last pass", () => {
    const handling = [
      { kind: "lay", before_pass: 3 },
      { kind: "lift", before_pass: 5 },
    ];
    const keys = courseOf(run({ handling })).map((one) => one.key);
    expect(keys).toEqual(["1-1", "1-mask-1", "1-3", "1-4", "1-mask-2"]);
  });
});

describe("progress", () => {
  const laid = (at_s: number, ...passes: number[]) => line("laid", at_s, { passes });

  it("is the same in any order and counts every line once", () => {
    const log = [laid(1, 1, 2), laid(9, 3), line("another pen", 5, { instead_of: "a", code: "z" })];
    const forwards = replay(run(), log);
    const backwards = replay(run(), [...log, ...log].reverse());
    expect(backwards).toEqual(forwards);
    expect(forwards.pens.get("marker a")?.code).toBe("z");
  });

  it("takes together what one pen does, card by card, and no further than a mask", () => {
    const stints = [1, 1, 2, 3].map((hand, place) => ({
      first_pass: place + 1,
      last_pass: place + 1,
      name: `R${place}`,
      count: 1,
      hand,
    }));
    const handling = [{ kind: "lay", before_pass: 3, needs: [] }];
    const course = courseOf(run({ stints, handling, cards: 2 }), "pen");
    expect(course.map((one) => one.key)).toEqual(
      [1, 2].flatMap((card) => [`${card}-1`, `${card}-mask-1`, `${card}-3`, `${card}-4`]),
    );
    expect(course[0]).toMatchObject({ stints: [0, 1], passes: [1, 2] });
    expect(course.flatMap((one) => (one.kind === "stint" ? one.passes : []))).toEqual([1, 2, 3, 4, 1, 2, 3, 4]);
  });

  it("goes on with the first stint that is not done, and back over the last", () => {
    const course = courseOf(run());
    const last = laid(9, 3);
    const before = replay(run(), [laid(1, 1, 2), last]);
    expect(nextUp(before, course, 2).map((one) => one.key)).toEqual(["1-4"]);
    expect(lastDone(before)).toBe(last);
    const after = replay(run(), [laid(1, 1, 2), last, line("undone", 10, { event: last.id })]);
    expect(nextUp(after, course, 1)[0]?.key).toBe("1-3");
  });

  it("says what is still to be laid beneath a step that is taken up early", () => {
    const swatches = [{ medium: "marker", code: "a", name: "Ash 1" }];
    const early = courseOf(run())[1];
    if (early?.kind !== "stint") throw new Error("no stint");
    expect(beneathOf(run({ swatches }), replay(run(), []), early)).toBe("Ash 1");
    expect(beneathOf(run({ swatches }), replay(run(), [laid(1, 1)]), early)).toBeUndefined();
  });

  it("does not call a stint done of which one pass is missing", () => {
    const [first] = courseOf(run());
    expect(first && isDone(replay(run(), [laid(1, 1)]), first)).toBe(false);
  });

  it("tells what is wet, and how long a blend waits", () => {
    const [card] = replay(run(), [laid(100, 1)]).cards;
    if (!card) throw new Error("no card");
    expect(clockOf(run(), card, stint(4), 110)).toEqual({ words: "R1", left_s: 40, kind: "dry" });
    expect(clockOf(run(), card, stint(4), 151)).toBeNull();
    expect(clockOf(run(), card, stint(3), 110)).toEqual({ words: "R1", left_s: 65, kind: "blend" });
  });

  it("waits as long as what was laid last takes to dry, for a coat longer than beside it", () => {
    const coats = [step(1, 1), step(2, 1, { medium: "pencil", touch_dry_s: 0, needs: [{ region: 1, coat: true }] })];
    const two = run({ steps: [...coats, step(3, 2, { needs: [{ region: 1, coat: false }] })] });
    const [marker] = replay(two, [laid(100, 1)]).cards;
    const [both] = replay(two, [laid(100, 1), laid(260, 2)]).cards;
    if (!marker || !both) throw new Error("no card");
    expect(clockOf(two, marker, stint(2), 110)).toEqual({ words: "R1", left_s: 140, kind: "dry" });
    expect(clockOf(two, marker, stint(3), 110)).toEqual({ words: "R1", left_s: 40, kind: "dry" });
    expect(clockOf(two, both, stint(3), 261)).toBeNull();
  });

  it("waits for wet ink beside a mask before it is lifted", () => {
    const handling = [{ kind: "lift", before_pass: 5, needs: [{ region: 1, coat: false }] }];
    const masked = run({ handling });
    const [card] = replay(masked, [laid(100, 1)]).cards;
    const lift = courseOf(masked).at(-1);
    if (!card || !lift) throw new Error("no card");
    expect(clockOf(masked, card, lift, 101)).toEqual({ words: "R1", left_s: 49, kind: "dry" });
    expect(clockOf(masked, card, lift, 151)).toBeNull();
  });

  it("keeps pens of one code apart by their medium", () => {
    const two = run({ steps: [step(1, 1), step(2, 2, { medium: "pencil" })] });
    const event = line("another pen", 5, { instead_of: "a", code: "z", medium: "pencil" });
    expect([...replay(two, [event]).pens.keys()]).toEqual(["pencil a"]);
  });

  it("ends when somebody says so", () => {
    expect(nextUp(replay(run(), [line("finished", 3)]), courseOf(run()), 1)).toEqual([]);
  });
});

describe("the lit picture", () => {
  const map: LitMap = {
    width: 4,
    height: 2,
    colours: new Uint8ClampedArray(32).fill(40),
    regions: Uint16Array.from([1, 1, 2, 2, 1, 1, 2, 2]),
    zones: Uint8Array.from([1, 2, 1, 1, 1, 2, 1, 1]),
  };

  it("shows the zone in its colours and dims the rest", () => {
    const into = new Uint8ClampedArray(32);
    const whole = new Uint8ClampedArray(into.length);
    expect(paintLit(map, [{ region: 1, zones: [] }], new Set<number>(), whole)).toEqual(wholeOf(map, 1));
    const box = paintLit(map, [{ region: 1, zones: [0] }], new Set<number>(), into);
    expect(box).toEqual({ left: 0, top: 0, right: 0, bottom: 1 });
    expect(into[0]).toBe(40);
    expect(into[8]).toBeGreaterThan(180);
    expect(into[4]).toBeLessThan(into[8] ?? 0);
  });

  it("goes near to what is small, and never past the picture's edge", () => {
    const near = zoomTo({ left: 0, top: 0, right: 9, bottom: 9 }, 1000, 1000);
    expect(near.scale).toBeGreaterThan(2);
    expect(near.x - 0.5 / near.scale).toBeCloseTo(0);
    expect(zoomTo(null, 10, 10)).toEqual({ scale: 1, x: 0.5, y: 0.5 });
    expect(zoomTo({ left: 0, top: 0, right: 999, bottom: 999 }, 1000, 1000).scale).toBe(1);
  });
});

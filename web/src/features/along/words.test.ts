import { describe, expect, it } from "vitest";

import type { RunReadout } from "@/shared/api";
import type { Progress } from "./replay";
import { clockFace, tellStep } from "./words";

const RUN = {
  stints: [{ first_pass: 1, last_pass: 3, name: "Petals", count: 3 }],
  steps: [{ number: 1, medium: "marker", swatch: "a", zone: "shade", how: "pull outwards" }],
  swatches: [{ medium: "marker", code: "a", name: "Ash 1", hex: "#aaaaaa" }],
  handling: [{ kind: "lay", name: "Lay the mask", how: "pressed down along its line" }],
} as unknown as RunReadout;
const STINT = { key: "1-1", card: 1, kind: "stint" as const, stints: [0], passes: [1, 2, 3] };

const progress = (more: Partial<Progress> = {}) =>
  ({ pens: new Map(), here: new Map(), ...more }) as unknown as Progress;

describe("a step in words", () => {
  it("says swatch, thing and zone", () => {
    const told = tellStep(RUN, progress(), { ...STINT, passes: [...STINT.passes] });
    expect(told).toMatchObject({ title: "Ash 1", hex: "#aaaaaa", where: "Petals (3): shade", instead: "" });
  });

  it("says each thing that a pen does in one step", () => {
    const run = {
      ...RUN,
      stints: [...RUN.stints, { first_pass: 4, last_pass: 4, name: "Leaf", count: 1, hand: 1 }],
      steps: [1, 2, 3, 4].map((number) => ({ ...RUN.steps[0], number, zone: number < 4 ? "shade" : "middle" })),
    } as unknown as RunReadout;
    const told = tellStep(run, progress(), { ...STINT, stints: [0, 1], passes: [1, 2, 3, 4] });
    expect(told.where).toBe("Petals (3): shade, and 1 more");
    expect(told.lines.map((one) => one.where)).toEqual(["Petals (3): shade", "Leaf: middle"]);
    expect(tellStep(run, progress(), STINT).lines).toEqual([]);
  });

  it("says which pen is taken instead, here before from now on", () => {
    const from = new Map([["marker a", { code: "b", name: "Bay 2", hex: null }]]);
    const here = new Map([["1-1", { code: "c", name: "Clay 3", hex: "#cccccc" }]]);
    const step = { ...STINT, passes: [...STINT.passes] };
    expect(tellStep(RUN, progress({ pens: from }), step)).toMatchObject({
      title: "Bay 2",
      hex: null,
      instead: "Ash 1",
    });
    expect(tellStep(RUN, progress({ pens: from, here }), step)).toMatchObject({ title: "Clay 3", hex: "#cccccc" });
  });

  it("says what to do with a mask", () => {
    const told = tellStep(RUN, progress(), { key: "1-mask-1", card: 1, kind: "handling", handling: 1 });
    expect(told).toMatchObject({ title: "Lay the mask", hex: null });
  });
});

describe("a clock", () => {
  it.each([
    [0, "0:00"],
    [9.2, "0:10"],
    [75, "1:15"],
    [-3, "0:00"],
  ])("shows %s seconds as %s", (seconds, face) => expect(clockFace(seconds)).toBe(face));
});

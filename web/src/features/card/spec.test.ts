import { describe, expect, it } from "vitest";

import type { CardSpec, NamedSize } from "@/shared/api";
import {
  firstSpec,
  freshName,
  moved,
  nameOfSize,
  renamed,
  setAt,
  snapped,
  turned,
  withoutStock,
  withUnit,
} from "./spec";

const NOTE: NamedSize = { code: "note", name: "Note card", width: "4 1/4 in", height: "5 1/2 in", source: "" };
const FIVE: NamedSize = { code: "5x7", name: "5 by 7", width: "5 in", height: "7 in", source: "" };

const FOLDS = [
  { code: "side", name: "", turned: "top", once: true },
  { code: "top", name: "", turned: "side", once: true },
];

describe("the first card", () => {
  it("lies as the picture lies", () => {
    expect(firstSpec(NOTE, false, "in").base).toMatchObject({ width: "4 1/4 in", height: "5 1/2 in", fold: "side" });
    expect(firstSpec(NOTE, true, "in").base).toMatchObject({ width: "5 1/2 in", height: "4 1/4 in", fold: "top" });
  });

  it("is turned and turned back", () => {
    const spec = firstSpec(NOTE, false, "in");
    expect(turned(spec, FOLDS).base).toMatchObject({ width: "5 1/2 in", fold: "top" });
    expect(turned(turned(spec, FOLDS), FOLDS)).toEqual(spec);
  });

  it("is known by its size however it lies", () => {
    expect(nameOfSize(firstSpec(NOTE, true, "in"), [FIVE, NOTE])).toBe("note");
    expect(nameOfSize(setAt(firstSpec(NOTE, true, "in"), "base.width", "6 in"), [FIVE, NOTE])).toBe("");
  });
});

describe("changes", () => {
  const spec: CardSpec = setAt(firstSpec(NOTE, false, "cm"), "mats", [
    { ...firstSpec(NOTE, false, "cm").panel },
    { ...firstSpec(NOTE, false, "cm").panel, reveal: "2 mm" },
  ]);

  it("reach what they name and nothing else", () => {
    const next = setAt(spec, "mats.1.reveal", "5 mm");
    expect(next.mats[1]?.reveal).toBe("5 mm");
    expect(next.mats[0]).toBe(spec.mats[0]);
    expect(next.base).toBe(spec.base);
    expect(spec.mats[1]?.reveal).toBe("2 mm");
  });

  it("rename a paper wherever it is named, and take it away", () => {
    const named = setAt(setAt(spec, "base.stock", "Card"), "mats.0.stock", "Card");
    const next = renamed(named, "Card", "Kraft");
    expect([next.stock[0]?.name, next.base.stock, next.mats[0]?.stock, next.mats[1]?.stock]).toEqual([
      "Kraft",
      "Kraft",
      "Kraft",
      "",
    ]);
    expect(withoutStock(next, "Kraft")).toMatchObject({ stock: [], base: { stock: "" } });
  });

  it("find a name that is free", () => {
    expect(freshName(spec, "Paper")).toBe("Paper");
    expect(freshName(spec, "Card")).toBe("Card 2");
  });
});

describe("lengths", () => {
  it("get the chosen unit where none was written", () => {
    expect(withUnit("4 1/4", "in")).toBe("4 1/4 in");
    expect(withUnit("10,8", "cm")).toBe("10,8 cm");
    expect(withUnit("2", "mm")).toBe("2 mm");
    expect(withUnit('4-1/4"', "cm")).toBe('4-1/4"');
    expect(withUnit("10,8 cm", "in")).toBe("10,8 cm");
  });

  it("are put by hand to a sixteenth or to half a millimetre", () => {
    expect(snapped(25.4, "in")).toBe("16/16 in");
    expect(snapped(-3.2, "in")).toBe("-2/16 in");
    expect(snapped(10.3, "cm")).toBe("10.5 mm");
  });
});

describe("steps of making", () => {
  it("move by one and stay within the list", () => {
    expect(moved(["a", "b", "c"], "b", -1)).toEqual(["b", "a", "c"]);
    expect(moved(["a", "b", "c"], "c", 1)).toEqual(["a", "b", "c"]);
    expect(moved(["a", "b", "c"], "x", 1)).toEqual(["a", "b", "c"]);
  });
});

import { expect, it } from "vitest";

import type { SwatchRecord } from "@/shared/api";

import { threads } from "./threads";

function swatch(code: string, lab: [number, number, number], words: string, family = ""): SwatchRecord {
  return { id: 0, doubt: "", hex: "#000000", name: code, code, lab, words, family };
}

const DRAWER = [
  swatch("grey", [50, 1, 1], "mid grey"),
  swatch("leaf-1", [80, -30, 40], "light green", "Leaf"),
  swatch("leaf-2", [40, -30, 30], "dark green", "Leaf"),
  swatch("red-1", [50, 60, 40], "mid red"),
  swatch("red-2", [51, 61, 40], "mid red"),
];

it("puts families and hues into columns in the order of hue, greys last", () => {
  expect(threads(DRAWER).map((one) => [one.name, one.own])).toEqual([
    ["red", false],
    ["Leaf", true],
    ["grey", false],
  ]);
});

it("sets the lightest on top, and side by side what would hide each other", () => {
  const [red, leaf] = threads(DRAWER);
  expect(red!.swatches.map((one) => one.code)).toEqual(["red-2", "red-1"]);
  expect([red!.lanes, red!.width]).toEqual([[0, 1], 2]);
  expect([leaf!.lanes, leaf!.light, leaf!.dark]).toEqual([[0, 0], 80, 40]);
});

it("has no columns for an empty drawer", () => expect(threads([])).toEqual([]));

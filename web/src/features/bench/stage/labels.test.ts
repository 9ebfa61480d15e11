import { expect, it } from "vitest";

import { borderNear, labelAt, type Labels } from "./labels";

/** Paper, region 1 and region 2 side by side, each ten pixels wide. */
const LABELS: Labels = {
  width: 30,
  height: 10,
  data: Uint16Array.from({ length: 300 }, (_, at) => Math.floor((at % 30) / 10)),
};

it.each([
  [0.1, 0],
  [0.4, 1],
  [0.9, 2],
  [-3, 0],
  [7, 2],
])("finds at %d the region %d", (x, label) => expect(labelAt(LABELS, x, 0.5)).toBe(label));

it("names the two regions of the nearest border, the lower first", () => {
  expect(borderNear(LABELS, 18 / 30, 0.5)).toEqual([1, 2]);
  expect(borderNear(LABELS, 22 / 30, 0.5)).toEqual([1, 2]);
});

it("names none beside paper or far from any border", () => {
  expect(borderNear(LABELS, 11 / 30, 0.5)).toBeNull();
  expect(borderNear(LABELS, 29 / 30, 0.5)).toBeNull();
});

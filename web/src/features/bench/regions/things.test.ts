import { expect, it } from "vitest";

import { matesOf, thingsOf, type Region } from "@/shared/api";

import { pickedAbove, pickedAfter } from "./things";

const REGIONS = [
  { label: 1, name: "Sky", thing: "" },
  { label: 2, name: "Petal 1", thing: "Petals 1" },
  { label: 3, name: "Hill", thing: "Left over" },
  { label: 4, name: "Petal 2", thing: "Petals 1" },
  { label: 5, name: "Petal 3", thing: "Petals 1" },
] as Region[];

it("puts the regions of a thing together where the first stands; one that is left stands for itself", () => {
  expect(thingsOf(REGIONS).map((thing) => [thing.name, thing.regions.map((region) => region.label)])).toEqual([
    ["Sky", [1]],
    ["Petals 1", [2, 4, 5]],
    ["Hill", [3]],
  ]);
});

it("takes the thing with the first click, the region with the second, nothing with the third", () => {
  const mates = matesOf(REGIONS, 4);
  const once = pickedAfter([], 4, mates, false);
  expect(once).toEqual([2, 4, 5]);
  const twice = pickedAfter(once, 4, mates, false);
  expect(twice).toEqual([4]);
  expect(pickedAfter(twice, 4, mates, false)).toEqual([]);
});

it("adds whole things and lets go of them", () => {
  const mates = matesOf(REGIONS, 2);
  const both = pickedAfter([1], 2, mates, true);
  expect(both).toEqual([1, 2, 4, 5]);
  expect(pickedAfter(both, 5, mates, true)).toEqual([1]);
});

it("goes back up with Escape: from a region to its thing, then to nothing", () => {
  expect(pickedAbove([4], REGIONS)).toEqual([2, 4, 5]);
  expect(pickedAbove([2, 4, 5], REGIONS)).toEqual([]);
  expect(pickedAbove([1], REGIONS)).toEqual([]);
});

it.each([
  { picked: [], label: 3, add: false, after: [3] },
  { picked: [3], label: 3, add: false, after: [] },
  { picked: [3, 4], label: 3, add: false, after: [3] },
  { picked: [3, 4], label: 5, add: true, after: [3, 4, 5] },
  { picked: [3, 4, 5], label: 4, add: true, after: [3, 5] },
])("$picked and a click on $label, which is no part of a thing, gives $after", ({ picked, label, add, after }) =>
  expect(pickedAfter(picked, label, [label], add)).toEqual(after),
);

import { expect, it } from "vitest";

import { pickedAfter, useHand } from "./bench";

it.each([
  { picked: [], label: 3, add: false, after: [3] },
  { picked: [3], label: 3, add: false, after: [] },
  { picked: [3, 4], label: 3, add: false, after: [3] },
  { picked: [3, 4], label: 5, add: true, after: [3, 4, 5] },
  { picked: [3, 4, 5], label: 4, add: true, after: [3, 5] },
])("$picked and a click on $label gives $after", ({ picked, label, add, after }) =>
  expect(pickedAfter(picked, label, add)).toEqual(after),
);

it("tells nobody of a hover over the same region", () => {
  let told = 0;
  const stop = useHand.subscribe(() => (told += 1));
  useHand.getState().hover(7);
  useHand.getState().hover(7);
  stop();
  expect(told).toBe(1);
});

import { expect, it } from "vitest";

import { useHand } from "./bench";

it("tells nobody of a hover over the same region", () => {
  let told = 0;
  const stop = useHand.subscribe(() => (told += 1));
  useHand.getState().hover(7);
  useHand.getState().hover(7);
  stop();
  expect(told).toBe(1);
});

import { expect, it } from "vitest";

import { closer, onto, panned, WHOLE } from "./zoom";

it("keeps the place under the pointer where it is", () => {
  const at = { x: 0.25, y: 0.75 };
  const before = onto({ left: 0.3, top: 0.3, right: 0.7, bottom: 0.7 });
  const after = closer(before, 2, at);
  expect(after.left + at.x / after.times).toBeCloseTo(before.left + at.x / before.times);
  expect(after.top + at.y / after.times).toBeCloseTo(before.top + at.y / before.times);
});

it("never leaves the picture, and going back as far as can be shows the whole", () => {
  const near = closer(WHOLE, 4, { x: 1, y: 1 });
  expect(near).toEqual({ times: 4, left: 0.75, top: 0.75 });
  expect(panned(near, 1, -9)).toEqual({ times: 4, left: 0.75, top: 0 });
  expect(closer(near, 1 / 99)).toEqual(WHOLE);
  expect(panned(WHOLE, 0.5, 0.5)).toEqual(WHOLE);
});

it("goes up to a part so that it lies in the middle", () => {
  const zoom = onto({ left: 0.4, top: 0.1, right: 0.6, bottom: 0.2 });
  expect(zoom.times).toBeCloseTo(4);
  expect(zoom.left + 0.5 / zoom.times).toBeCloseTo(0.5);
});

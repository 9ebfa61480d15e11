import { expect, it } from "vitest";

import { insideLoop, placeIn, stepped } from "./place";

const L_SHAPE = [
  { x: 0, y: 0 },
  { x: 1, y: 0 },
  { x: 1, y: 0.5 },
  { x: 0.5, y: 0.5 },
  { x: 0.5, y: 1 },
  { x: 0, y: 1 },
];

it.each([
  [0.25, 0.25, true],
  [0.25, 0.75, true],
  [0.75, 0.75, false],
  [1.5, 0.25, false],
])("(%d, %d) lies inside the L: %s", (x, y, inside) => expect(insideLoop(L_SHAPE, { x, y })).toBe(inside));

it("has nothing inside a loop of no or one point", () => {
  expect(insideLoop([], { x: 0, y: 0 })).toBe(false);
  expect(insideLoop([{ x: 0, y: 0 }], { x: 0, y: 0 })).toBe(false);
});

it("steps by arrow keys and stops at the edge", () => {
  const step = { x: 0.1, y: 0.2 };
  expect(stepped("ArrowRight", { x: 0.5, y: 0.5 }, step)).toEqual({ x: 0.6, y: 0.5 });
  expect(stepped("ArrowUp", { x: 0.5, y: 0.1 }, step)).toEqual({ x: 0.5, y: 0 });
  expect(stepped("a", { x: 0.5, y: 0.5 }, step)).toBeNull();
});

it("measures places in the element's box", () => {
  const element = { getBoundingClientRect: () => ({ left: 100, top: 50, width: 200, height: 100 }) } as Element;
  expect(placeIn(element, { clientX: 150, clientY: 125 })).toEqual({ x: 0.25, y: 0.75 });
});

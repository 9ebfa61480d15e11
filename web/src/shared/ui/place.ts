/** A place on a picture: each 0..1, across and down. */
export type Place = { x: number; y: number };

/** Where a pointer stands on an element, 0..1 across and down; outside of it less than 0 or more than 1. */
export function placeIn(element: Element, pointer: { clientX: number; clientY: number }): Place {
  const box = element.getBoundingClientRect();
  return { x: (pointer.clientX - box.left) / box.width, y: (pointer.clientY - box.top) / box.height };
}

export function clamp(value: number, least: number, most: number): number {
  return Math.min(most, Math.max(least, value));
}

const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The place one step further in the direction of an arrow key, within 0..1; null for any other key. */
export function stepped(key: string, from: Place, step: Place): Place | null {
  const way = STEPS[key];
  return way ? { x: clamp(from.x + way[0] * step.x, 0, 1), y: clamp(from.y + way[1] * step.y, 0, 1) } : null;
}

/** Whether a point lies inside a closed loop, by counting the edges that a line from it crosses. */
export function insideLoop(loop: Place[], { x, y }: Place): boolean {
  let inside = false;
  loop.forEach((one, index) => {
    const other = loop[(index + 1) % loop.length] ?? one;
    const crosses = one.y > y !== other.y > y;
    if (crosses && x < ((other.x - one.x) * (y - one.y)) / (other.y - one.y) + one.x) inside = !inside;
  });
  return inside;
}

import { clamp, type Place } from "@/shared/ui";

/** How closely the picture is looked at: how many times larger, and which place of it (0..1) lies in the corner. */
export type Zoom = { times: number; left: number; top: number };

export const WHOLE: Zoom = { times: 1, left: 0, top: 0 };
const MOST = 8;
export const STEP = 1.4;

/** Within the picture and its limits. */
function kept({ times, left, top }: Zoom): Zoom {
  const room = 1 - 1 / times;
  return { times, left: clamp(left, 0, room), top: clamp(top, 0, room) };
}

/** So many times closer, with the place under `at` (0..1 across the window) staying where it is. */
export function closer(zoom: Zoom, by: number, at: Place = { x: 0.5, y: 0.5 }): Zoom {
  const times = clamp(zoom.times * by, 1, MOST);
  const shift = 1 / zoom.times - 1 / times;
  return kept({ times, left: zoom.left + at.x * shift, top: zoom.top + at.y * shift });
}

/** Moved by shares of the window. */
export function panned(zoom: Zoom, across: number, down: number): Zoom {
  return kept({ ...zoom, left: zoom.left + across / zoom.times, top: zoom.top + down / zoom.times });
}

/** A part of the picture (0..1) fills most of the window. */
export function onto(box: { left: number; top: number; right: number; bottom: number }): Zoom {
  const size = Math.max(box.right - box.left, box.bottom - box.top, 1 / MOST);
  const times = clamp(0.8 / size, 1, MOST);
  return kept({
    times,
    left: (box.left + box.right - 1 / times) / 2,
    top: (box.top + box.bottom - 1 / times) / 2,
  });
}

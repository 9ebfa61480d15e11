import { describe, expect, it } from "vitest";

import { clock, lampToPoint, pointToLamp, trackReach } from "./lampGeometry";

const TRACKS = [
  { a: 300, b: 400, inset: 40 },
  { a: 420, b: 260, inset: 60 },
  { a: 90, b: 90, inset: 20 },
];

describe("the lamp on its track", () => {
  it.each(TRACKS)("comes back from every point it stands on: %o", (track) => {
    for (let azimuth = 0; azimuth < 360; azimuth += 7) {
      for (const elevation of [10, 35, 60, 80]) {
        const { x, y } = lampToPoint(track, azimuth, elevation);
        expect(pointToLamp(track, x, y)).toEqual({ azimuth_deg: azimuth, elevation_deg: elevation });
      }
    }
  });

  it("stands straight above at noon and to the right at three", () => {
    const [track] = TRACKS;
    expect(lampToPoint(track!, 0, 10)).toEqual({ x: 0, y: -400 });
    const right = lampToPoint(track!, 90, 10);
    expect(right.x).toBeCloseTo(300);
    expect(right.y).toBeCloseTo(0);
  });

  it("stays between 10° and 80° wherever the pointer is", () => {
    const [track] = TRACKS;
    expect(pointToLamp(track!, 0, -5000).elevation_deg).toBe(10);
    expect(pointToLamp(track!, 0, -1).elevation_deg).toBe(80);
  });

  it("runs the inner track everywhere within the outer", () => {
    for (const track of TRACKS)
      for (let azimuth = 0; azimuth < 360; azimuth += 5)
        expect(trackReach(track, azimuth, 1)).toBeLessThan(trackReach(track, azimuth, 0));
  });
});

describe("the clock", () => {
  it.each([
    [0, "12:00"],
    [7.4, "12:00"],
    [7.6, "12:30"],
    [90, "3:00"],
    [315, "10:30"],
    [359, "12:00"],
  ])("says %d° as %s", (azimuth, words) => expect(clock(azimuth)).toBe(words));
});

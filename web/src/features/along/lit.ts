import { pixelsOf } from "@/shared/ui";

/** The picture as planned, with the region and the zone (from 1, 0: none) of every pixel. */
export type LitMap = {
  width: number;
  height: number;
  colours: Uint8ClampedArray;
  regions: Uint16Array;
  zones: Uint8Array;
};
/** A region with the zones of it that are laid now; none where an accent is laid. */
export type Lit = { region: number; zones: number[] };
export type Box = { left: number; top: number; right: number; bottom: number };

export async function litMapOf(picture: Blob, map: Blob): Promise<LitMap> {
  const { data, width, height } = await pixelsOf(map);
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (!context) throw new Error("This browser cannot show the picture.");
  context.drawImage(await createImageBitmap(picture), 0, 0, width, height);
  const regions = new Uint16Array(width * height);
  const zones = new Uint8Array(width * height);
  for (let at = 0; at < regions.length; at++) {
    regions[at] = (data[4 * at] ?? 0) + 256 * (data[4 * at + 1] ?? 0);
    zones[at] = data[4 * at + 2] ?? 0;
  }
  return { width, height, colours: context.getImageData(0, 0, width, height).data, regions, zones };
}

/** How much of a pixel's own colour shows: all where the hand works, some where it has been, hardly any elsewhere. */
const WHOLE = 1;
const SAME_THING = 0.42;
const LAID = 0.55;
const DIM_LEAST = 196;

/** Lights what is laid now and dims the rest; gives the box round it, in pixels. */
export function paintLit(
  map: LitMap,
  lit: Lit[],
  laid: { has(region: number): boolean },
  into: Uint8ClampedArray,
): Box | null {
  const wanted = new Map(lit.map(({ region, zones }) => [region, new Set(zones.map((zone) => zone + 1))]));
  const box = { left: map.width, top: map.height, right: -1, bottom: -1 };
  for (let at = 0; at < map.regions.length; at++) {
    const region = map.regions[at] ?? 0;
    const zones = wanted.get(region);
    // An accent follows the light, not a zone: all of its region is shown.
    const here = zones && (zones.size === 0 || zones.has(map.zones[at] ?? 0));
    const share = here ? WHOLE : zones ? SAME_THING : laid.has(region) ? LAID : 0;
    const [red, green, blue] = [map.colours[4 * at] ?? 0, map.colours[4 * at + 1] ?? 0, map.colours[4 * at + 2] ?? 0];
    const dim = DIM_LEAST + ((255 - DIM_LEAST) * (0.3 * red + 0.6 * green + 0.1 * blue)) / 255;
    into[4 * at] = red * share + dim * (1 - share);
    into[4 * at + 1] = green * share + dim * (1 - share);
    into[4 * at + 2] = blue * share + dim * (1 - share);
    into[4 * at + 3] = 255;
    if (here) {
      const column = at % map.width;
      const row = (at - column) / map.width;
      if (column < box.left) box.left = column;
      if (column > box.right) box.right = column;
      if (row < box.top) box.top = row;
      if (row > box.bottom) box.bottom = row;
    }
  }
  return box.right < 0 ? null : box;
}

const MOST_ZOOM = 2.6;
const SHARE_OF_VIEW = 0.62;

/** How far to go in, and the share of the picture that the middle of the view lies at, so that `box` is seen well. */
export function zoomTo(box: Box | null, width: number, height: number): { scale: number; x: number; y: number } {
  if (!box) return { scale: 1, x: 0.5, y: 0.5 };
  const [wide, high] = [(box.right - box.left + 1) / width, (box.bottom - box.top + 1) / height];
  const scale = Math.min(MOST_ZOOM, Math.max(1, SHARE_OF_VIEW / Math.max(wide, high)));
  const within = (middle: number) => Math.min(1 - 0.5 / scale, Math.max(0.5 / scale, middle));
  return {
    scale,
    x: within((box.left + box.right + 1) / 2 / width),
    y: within((box.top + box.bottom + 1) / 2 / height),
  };
}

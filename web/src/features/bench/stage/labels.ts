import { pixelsOf } from "@/shared/ui";

/** The region map in the browser: which region lies under a point, and the outline of some regions. */
export type Labels = { width: number; height: number; data: Uint16Array };

/** The server packs a label as red + 256 * green. */
export async function decodeLabels(png: Blob): Promise<Labels> {
  const { data, width, height } = await pixelsOf(png);
  const labels = new Uint16Array(width * height);
  for (let i = 0; i < labels.length; i++) labels[i] = (data[4 * i] ?? 0) + 256 * (data[4 * i + 1] ?? 0);
  return { width, height, data: labels };
}

/** The label at (x, y), each 0..1 across the picture; 0 is paper. */
export function labelAt(labels: Labels, x: number, y: number): number {
  const column = Math.min(labels.width - 1, Math.max(0, Math.floor(x * labels.width)));
  const row = Math.min(labels.height - 1, Math.max(0, Math.floor(y * labels.height)));
  return labels.data[row * labels.width + column] ?? 0;
}

/** Draws a double outline, dark outside and white inside, and hatches what is selected in pairs of a white and a dark
 * line, so that both show on any colour. */
export function drawOutlines(
  canvas: HTMLCanvasElement,
  labels: Labels,
  selected: readonly number[],
  hovered: readonly number[],
) {
  canvas.width = labels.width;
  canvas.height = labels.height;
  const context = canvas.getContext("2d");
  if (!context) return;
  const strength = new Uint8Array(65536);
  for (const label of hovered) strength[label] = 1;
  for (const label of selected) strength[label] = 2;
  const image = context.createImageData(labels.width, labels.height);
  const { width, height, data } = labels;
  const reach = 3;
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++) {
      const here = row * width + column;
      const own = strength[data[here] ?? 0] ?? 0;
      if (!own) continue;
      for (let d = 1; d <= reach; d++) {
        const near = [
          column >= d ? here - d : -1,
          column + d < width ? here + d : -1,
          row >= d ? here - d * width : -1,
          row + d < height ? here + d * width : -1,
        ];
        if (near.some((at) => at < 0 || data[at] !== data[here])) {
          const tone = d === 1 ? 22 : 255;
          image.data.set([tone, tone, tone, own === 2 ? 255 : 150], 4 * here);
          break;
        }
      }
      const stripe = (row + column) % 9;
      if (own === 2 && image.data[4 * here + 3] === 0 && stripe < 2)
        image.data.set(stripe ? [22, 22, 22, 90] : [255, 255, 255, 130], 4 * here);
    }
  }
  context.putImageData(image, 0, 0);
}

export type Box = { left: number; top: number; right: number; bottom: number };
const knownBoxes = new WeakMap<Labels, Map<number, Box>>();

/** The tightest box round each region, in pixels of the map; worked out once. */
export function boxesOf(labels: Labels): Map<number, Box> {
  const known = knownBoxes.get(labels);
  if (known) return known;
  const boxes = new Map<number, Box>();
  for (let row = 0; row < labels.height; row++) {
    for (let column = 0; column < labels.width; column++) {
      const label = labels.data[row * labels.width + column] ?? 0;
      if (!label) continue;
      const box = boxes.get(label);
      if (!box) boxes.set(label, { left: column, top: row, right: column, bottom: row });
      else {
        if (column < box.left) box.left = column;
        if (column > box.right) box.right = column;
        box.bottom = row;
      }
    }
  }
  knownBoxes.set(labels, boxes);
  return boxes;
}

const BORDER_REACH = 7;

/** The two regions whose border runs nearest to (x, y), lower label first; null where none is near or one is paper. */
export function borderNear(labels: Labels, x: number, y: number): [number, number] | null {
  const column = Math.floor(x * labels.width);
  const row = Math.floor(y * labels.height);
  const here = labelAt(labels, x, y);
  let best: { away: number; other: number } | null = null;
  for (let dy = -BORDER_REACH; dy <= BORDER_REACH; dy++) {
    for (let dx = -BORDER_REACH; dx <= BORDER_REACH; dx++) {
      const at = { x: column + dx, y: row + dy };
      if (at.x < 0 || at.y < 0 || at.x >= labels.width || at.y >= labels.height) continue;
      const other = labels.data[at.y * labels.width + at.x] ?? 0;
      const away = dx * dx + dy * dy;
      if (other !== here && away <= BORDER_REACH ** 2 && (!best || away < best.away)) best = { away, other };
    }
  }
  if (!best || !here || !best.other) return null;
  return here < best.other ? [here, best.other] : [best.other, here];
}

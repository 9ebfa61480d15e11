import { useEffect, useRef } from "react";

import { boxesOf, type Labels } from "./labels";

const SIZE = { width: 40, height: 30 };

/** A small picture of some regions as they lie together, what is around them in pale grey. */
export function ThingPicture({ labels, of }: { labels: Labels | undefined; of: readonly number[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const names = of.join();
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (labels && context) draw(context, labels, names.split(",").map(Number));
  }, [labels, names]);
  return <canvas ref={canvas} width={SIZE.width} height={SIZE.height} className="h-[30px] w-10" aria-hidden />;
}

function draw(context: CanvasRenderingContext2D, labels: Labels, wanted: number[]) {
  const boxes = boxesOf(labels);
  const own = wanted.map((label) => boxes.get(label)).filter((box) => box !== undefined);
  if (!own.length) return;
  const left = Math.min(...own.map((box) => box.left));
  const top = Math.min(...own.map((box) => box.top));
  const width = Math.max(...own.map((box) => box.right)) - left + 1;
  const height = Math.max(...own.map((box) => box.bottom)) - top + 1;
  const step = Math.max(width / (SIZE.width - 4), height / (SIZE.height - 4));
  const image = context.createImageData(SIZE.width, SIZE.height);
  const shown = new Set(wanted);
  for (let y = 0; y < SIZE.height; y++) {
    for (let x = 0; x < SIZE.width; x++) {
      const column = Math.round(left + width / 2 + (x - SIZE.width / 2) * step);
      const row = Math.round(top + height / 2 + (y - SIZE.height / 2) * step);
      const inside = column >= 0 && row >= 0 && column < labels.width && row < labels.height;
      const label = inside ? (labels.data[row * labels.width + column] ?? 0) : 0;
      const tone = shown.has(label) ? 40 : label ? 214 : 255;
      image.data.set([tone, tone, tone, 255], 4 * (y * SIZE.width + x));
    }
  }
  context.putImageData(image, 0, 0);
}

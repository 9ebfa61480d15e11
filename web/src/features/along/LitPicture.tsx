import { useEffect, useRef, useState } from "react";

import { tell } from "@/shared/ui";
import { litMapOf, paintLit, zoomTo, type Lit, type LitMap } from "./lit";
import type { KeptRun } from "@/shared/api/runStore";

type Props = { kept: KeptRun; passes: number[]; touched: ReadonlyMap<number, unknown>; words: string };

/** The card: what is laid now in its colours and near, all else dimmed. A click shows the whole of it. */
export function LitPicture({ kept, passes, touched, words }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [map, setMap] = useState<LitMap | null>(null);
  const [whole, setWhole] = useState(false);
  const { picture, map: packed } = kept;
  const { steps } = kept.run;
  useEffect(() => {
    if (picture && packed)
      litMapOf(picture, packed).then(setMap, () =>
        tell("The picture cannot be shown; the list is complete without it."),
      );
  }, [picture, packed]);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!map || !canvas.current || !context) return;
    canvas.current.width = map.width;
    canvas.current.height = map.height;
    const image = context.createImageData(map.width, map.height);
    const lit = passes.flatMap<Lit>((number) => steps[number - 1] ?? []);
    const box = paintLit(map, lit, touched, image.data);
    context.putImageData(image, 0, 0);
    const { scale, x, y } = zoomTo(whole ? null : box, map.width, map.height);
    canvas.current.style.transform = `scale(${scale}) translate(${(0.5 - x) * 100}%, ${(0.5 - y) * 100}%)`;
  }, [map, steps, passes, touched, whole]);
  const { width_px, height_px } = kept.run;
  return (
    <button
      type="button"
      aria-label={whole ? "Go near" : "Show the whole card"}
      aria-pressed={whole}
      onClick={() => setWhole(!whole)}
      className="relative block max-h-full max-w-full overflow-hidden bg-sheet shadow-xl outline-offset-4"
      style={{ aspectRatio: `${width_px} / ${height_px}`, height: width_px > height_px ? "auto" : "100%" }}
    >
      <canvas
        ref={canvas}
        role="img"
        aria-label={words}
        className="block size-full"
        data-ready={map ? "" : undefined}
      />
    </button>
  );
}

import { useEffect, useRef, useState } from "react";

import { api, type PhotoCheck } from "@/shared/api";
import { pixelsOf } from "@/shared/ui";
import { pictureUrl } from "./api";

type Props = { check: PhotoCheck; against: number | null; lit: number[]; difference: boolean };

/** Photo and plan (or another card's photo) laid on each other, parted by a slider; what is found is lit. */
export function Beside({ check, against, lit, difference }: Props) {
  const [part, setPart] = useState(50);
  const other = against === null ? "the plan" : "the other card";
  const under = against === null ? pictureUrl(check.id, "plan") : pictureUrl(against, "flat");
  return (
    <div>
      <div
        className="relative mx-auto max-h-[74vh] max-w-full overflow-hidden bg-sheet shadow-xl"
        style={{ aspectRatio: `${check.width_px} / ${check.height_px}` }}
      >
        {difference ? (
          <img
            src={pictureUrl(check.id, "difference", against)}
            alt="How far each part is off: white as planned, black far off"
            className="absolute inset-0 size-full"
          />
        ) : (
          <>
            {/* Seen until the picture covers it. */}
            <p aria-hidden className="absolute inset-y-0 right-0 grid w-1/2 place-items-center text-soft">
              Painting {other}…
            </p>
            <img src={under} alt={`On the right: ${other}`} className="absolute inset-0 size-full" />
            <img
              src={pictureUrl(check.id, "flat")}
              alt="On the left: the photo, laid flat"
              className="absolute inset-0 size-full"
              style={{ clipPath: `inset(0 ${100 - part}% 0 0)` }}
            />
            <span aria-hidden className="absolute inset-y-0 w-0.5 bg-sheet shadow" style={{ left: `${part}%` }} />
          </>
        )}
        <Lit id={check.id} regions={lit} />
      </div>
      {!difference && (
        <label className="mt-3 grid grid-cols-[auto_1fr_auto] items-center gap-3">
          Photo
          <input
            type="range"
            min={0}
            max={100}
            value={part}
            onChange={(event) => setPart(Number(event.target.value))}
            className="h-7 accent-ink"
            aria-label={`Photo on the left, ${other} on the right`}
            aria-valuetext={`${part} % photo`}
          />
          {against === null ? "Plan" : "Other card"}
        </label>
      )}
    </div>
  );
}

/** A ring round the regions of a finding; all else is dimmed a little. */
function Lit({ id, regions }: { id: number; regions: number[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [labels, setLabels] = useState<ImageData | null>(null);
  useEffect(() => {
    let gone = false;
    api
      .blob(`/photo-checks/${id}/labels/`)
      .then(pixelsOf)
      .then(
        (pixels) => !gone && setLabels(pixels),
        () => undefined,
      );
    return () => {
      gone = true;
    };
  }, [id]);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!labels || !canvas.current || !context) return;
    const { width, height, data } = labels;
    canvas.current.width = width;
    canvas.current.height = height;
    if (regions.length === 0) return;
    const wanted = new Set(regions);
    const image = context.createImageData(width, height);
    const at = (place: number) => wanted.has((data[4 * place] ?? 0) + 256 * (data[4 * place + 1] ?? 0));
    for (let y = 0; y < height; y += 1)
      for (let x = 0; x < width; x += 1) {
        const place = y * width + x;
        const inside = at(place);
        const edge =
          inside &&
          (x < 2 ||
            y < 2 ||
            x > width - 3 ||
            y > height - 3 ||
            !at(place - 2) ||
            !at(place + 2) ||
            !at(place - 2 * width) ||
            !at(place + 2 * width));
        const value = edge ? 255 : 20;
        image.data.set([value, value, value, edge ? 255 : inside ? 0 : 120], 4 * place);
      }
    context.putImageData(image, 0, 0);
  }, [labels, regions]);
  return <canvas ref={canvas} aria-hidden className="pointer-events-none absolute inset-0 size-full" />;
}

import type { KeyboardEvent } from "react";

import { closer, panned, STEP, WHOLE, type Zoom } from "./zoom";

type Props = { zoom: Zoom; onZoom: (zoom: Zoom) => void };

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-0.2, 0],
  ArrowRight: [0.2, 0],
  ArrowUp: [0, -0.2],
  ArrowDown: [0, 0.2],
};

/** Closer, back, and the whole again; the arrow keys move what is looked at closely. */
export function ZoomButtons({ zoom, onZoom }: Props) {
  function onKeyDown(event: KeyboardEvent) {
    const way = ARROWS[event.key];
    if (!way || zoom.times === 1) return;
    event.preventDefault();
    onZoom(panned(zoom, ...way));
  }
  const look = "size-9 rounded text-lg leading-none hover:bg-surround-light disabled:opacity-40";
  return (
    // The keys are those of the buttons within, which have the focus.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <div
      role="group"
      aria-label="Look closely"
      onKeyDown={onKeyDown}
      className="absolute bottom-2 right-2 z-10 flex items-center"
    >
      <button type="button" aria-label="Zoom out" className={look} onClick={() => onZoom(closer(zoom, 1 / STEP))}>
        −
      </button>
      <button
        type="button"
        className="h-9 min-w-14 rounded px-1 text-[14px] hover:bg-surround-light"
        title="Show the whole picture"
        onClick={() => onZoom(WHOLE)}
      >
        {Math.round(zoom.times * 100)} %
      </button>
      <button type="button" aria-label="Zoom in" className={look} onClick={() => onZoom(closer(zoom, STEP))}>
        +
      </button>
    </div>
  );
}

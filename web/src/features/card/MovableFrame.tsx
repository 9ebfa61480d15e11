import type { ReactNode } from "react";

import { useHandle, type Place } from "@/shared/ui";

export type Box = { left: number; top: number; width: number; height: number };

type Props = {
  /** In shares of what it lies on, 0..1. */
  box: Box;
  step: Place;
  label: string;
  /** Where its top left corner came to. */
  onKeep: (corner: Place) => Promise<unknown>;
  className: string;
  children?: ReactNode;
};

/** A frame on a picture that is moved by its grip, with the pointer or with the arrow keys. */
export function MovableFrame({ box, step, label, onKeep, className, children }: Props) {
  // The grip sits on the corner, where it covers least, and stays in reach where the corner does not.
  const { shown, handleProps } = useHandle({ at: { x: box.left, y: box.top }, step, shift: 4, onKeep });
  return (
    <>
      <div
        className={`pointer-events-none absolute ${className}`}
        style={{
          left: `${100 * shown.x}%`,
          top: `${100 * shown.y}%`,
          width: `${100 * box.width}%`,
          height: `${100 * box.height}%`,
        }}
      >
        {children}
      </div>
      <button
        type="button"
        aria-label={label}
        title={label}
        className="absolute grid size-8 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none place-items-center rounded-full border-2 border-sheet bg-ink/85 text-sheet shadow active:cursor-grabbing"
        {...handleProps}
        style={{ left: inReach(shown.x), top: inReach(shown.y) }}
      >
        <svg viewBox="0 0 20 20" className="size-4" aria-hidden>
          <path
            d="M10 2v16M2 10h16M10 2l-2 2M10 2l2 2M10 18l-2-2M10 18l2-2M2 10l2-2M2 10l2 2M18 10l-2-2M18 10l-2 2"
            stroke="currentColor"
            strokeWidth="1.5"
            fill="none"
          />
        </svg>
      </button>
    </>
  );
}

/** A place across or down for the grip, no nearer to an edge than half of it. */
function inReach(share: number): string {
  return `clamp(1rem, ${100 * share}%, calc(100% - 1rem))`;
}

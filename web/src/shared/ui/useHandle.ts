import { useRef, useState, type KeyboardEvent, type PointerEvent } from "react";

import { useAtRest } from "./useAtRest";
import { clamp, placeIn, stepped, type Place } from "./place";

type Options = {
  /** Where the handle stands, as it is kept. */
  at: Place;
  /** How far an arrow key moves it, and how many times farther with Shift. */
  step: Place;
  shift?: number;
  /** While it moves. */
  onMove?: (place: Place) => void;
  /** Once the hand lets go of it, or once its keys rest. What it gives back is waited for before the handle lets go too. */
  onKeep?: (place: Place) => Promise<unknown> | void;
};

/**
 * Something on a picture that is dragged by pointer or moved by arrow keys. The element that gets `handleProps` lies
 * directly in the picture's own box, which is what places are measured in. Until what `onKeep` does is done, `shown`
 * stays where the hand left it.
 */
export function useHandle({ at, step, shift = 5, onMove, onKeep }: Options) {
  const [held, setHeld] = useState<Place | null>(null);
  const latest = useRef<Place | null>(null);
  const shown = held ?? at;

  function hold(place: Place | null) {
    latest.current = place;
    setHeld(place);
  }

  function move(place: Place) {
    hold(place);
    onMove?.(place);
  }

  function keep(place: Place) {
    void Promise.resolve(onKeep?.(place))
      .catch(() => undefined)
      .finally(() => {
        // A newer move is not taken back by the answer to an older one.
        if (latest.current === place) hold(null);
      });
  }

  const { later, now } = useAtRest(keep);

  function follow(event: PointerEvent): Place {
    const box = event.currentTarget.parentElement;
    if (!box) return shown;
    const place = placeIn(box, event);
    return { x: clamp(place.x, 0, 1), y: clamp(place.y, 0, 1) };
  }

  const handleProps = {
    style: { left: `${100 * shown.x}%`, top: `${100 * shown.y}%` },
    onClick: (event: { stopPropagation: () => void }) => event.stopPropagation(),
    onPointerDown: (event: PointerEvent) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      hold(shown);
    },
    onPointerMove: (event: PointerEvent) => {
      if (event.currentTarget.hasPointerCapture(event.pointerId)) move(follow(event));
    },
    onPointerUp: (event: PointerEvent) => {
      if (!latest.current) return;
      const place = follow(event);
      move(place);
      keep(place);
    },
    onPointerCancel: () => hold(null),
    onKeyDown: (event: KeyboardEvent) => {
      const times = event.shiftKey ? shift : 1;
      const place = stepped(event.key, shown, { x: step.x * times, y: step.y * times });
      if (!place) return;
      event.preventDefault();
      move(place);
      later(place);
    },
    onBlur: now,
  };
  return { shown, handleProps };
}

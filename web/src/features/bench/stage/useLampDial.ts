import { useCallback, useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from "react";

import type { Lamp } from "@/shared/api";
import { pointToLamp, type Track } from "./lampGeometry";

const SETTLE_MS = 450;

type Options = {
  lamp: Lamp;
  track: Track;
  centre: () => { x: number; y: number } | null;
  onTurn: (lamp: Lamp) => Promise<unknown>;
};

/**
 * Turning the lamp by pointer and by keys. While it moves, `shown` is the lamp under the hand; once it rests the
 * new place is kept. `dialProps` belong on the track and the drawn lamp, `inputProps` on the range input beneath.
 */
export function useLampDial({ lamp, track, centre, onTurn }: Options) {
  const [draft, setDraft] = useState<Lamp | null>(null);
  const settle = useRef<number>(undefined);
  const latest = useRef<Lamp | null>(null);

  const keep = useCallback(() => {
    window.clearTimeout(settle.current);
    const wanted = latest.current;
    if (!wanted) return;
    latest.current = null;
    void onTurn(wanted)
      .catch(() => undefined)
      .finally(() => {
        if (!latest.current) setDraft(null);
      });
  }, [onTurn]);

  const move = useCallback(
    (next: Partial<Lamp>, rest: boolean) => {
      const from = latest.current ?? draft ?? lamp;
      const wanted = { ...from, ...next };
      latest.current = wanted;
      setDraft(wanted);
      window.clearTimeout(settle.current);
      if (rest) settle.current = window.setTimeout(keep, SETTLE_MS);
    },
    [draft, lamp, keep],
  );

  useEffect(() => () => window.clearTimeout(settle.current), []);

  const follow = (event: PointerEvent) => {
    const middle = centre();
    if (middle) move(pointToLamp(track, event.clientX - middle.x, event.clientY - middle.y), false);
  };
  const shown = draft ?? lamp;
  const dialProps = {
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      if (event.button !== 0) return;
      event.currentTarget.setPointerCapture(event.pointerId);
      follow(event);
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      if (event.currentTarget.hasPointerCapture(event.pointerId)) follow(event);
    },
    onPointerUp: keep,
    onPointerCancel: keep,
  };
  const inputProps = {
    min: 0,
    max: 359,
    value: Math.round(shown.azimuth_deg) % 360,
    onChange: (event: { target: { value: string } }) => move({ azimuth_deg: Number(event.target.value) }, true),
    onBlur: keep,
    onKeyDown: (event: KeyboardEvent) => {
      const step = event.shiftKey ? 15 : 1;
      const turn = { ArrowRight: step, ArrowLeft: -step }[event.key];
      const lift = { ArrowUp: event.shiftKey ? 5 : 1, ArrowDown: event.shiftKey ? -5 : -1 }[event.key];
      if (turn === undefined && lift === undefined) return;
      event.preventDefault();
      if (turn !== undefined) move({ azimuth_deg: (Math.round(shown.azimuth_deg) + turn + 360) % 360 }, true);
      if (lift !== undefined)
        move({ elevation_deg: Math.min(90, Math.max(0, Math.round(shown.elevation_deg) + lift)) }, true);
    },
  };
  return { shown, moving: draft !== null, move, dialProps, inputProps };
}

import { useState, type KeyboardEvent, type PointerEvent } from "react";

import { useSetGlows, type Glow } from "./api";
import { useBench } from "./bench";

const STEP_MM = 1;

/** The lights inside the picture, as small lamps on the card; drag them, or move them with the arrow keys. */
export function GlowMarkers() {
  const { piece } = useBench();
  const setGlows = useSetGlows(piece.id);
  const [held, setHeld] = useState<{ index: number; glow: Glow } | null>(null);
  // Until the server has answered, the marker stays where the hand left it.
  const shown = piece.glows.map((glow, index) => (held?.index === index ? held.glow : glow));

  function keep(index: number, glow: Glow) {
    setGlows.mutate((glows) => glows.map((old, place) => (place === index ? { ...old, x_mm: glow.x_mm, y_mm: glow.y_mm } : old)), { onSettled: () => setHeld(null) });
  }

  function place(event: PointerEvent<HTMLButtonElement>, glow: Glow): Glow {
    const card = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!card) return glow;
    return { ...glow,
      x_mm: within(((event.clientX - card.left) / card.width) * piece.width_mm, piece.width_mm),
      y_mm: within(((event.clientY - card.top) / card.height) * piece.height_mm, piece.height_mm) };
  }

  function onKeyDown(event: KeyboardEvent, index: number, glow: Glow) {
    const step = event.shiftKey ? 5 * STEP_MM : STEP_MM;
    const [dx, dy] = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key] ?? [0, 0];
    if (!dx && !dy) return;
    event.preventDefault();
    const moved = { ...glow, x_mm: within(glow.x_mm + (dx ?? 0), piece.width_mm), y_mm: within(glow.y_mm + (dy ?? 0), piece.height_mm) };
    setHeld({ index, glow: moved });
    keep(index, moved);
  }

  return shown.map((glow, index) => (
    <button key={index} type="button" aria-label={`Glow ${index + 1}, ${Math.round(glow.x_mm)} mm from the left, ${Math.round(glow.y_mm)} mm from the top`}
      className="absolute size-6 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full border-2 border-ink bg-lamp shadow active:cursor-grabbing"
      style={{ left: `${(100 * glow.x_mm) / piece.width_mm}%`, top: `${(100 * glow.y_mm) / piece.height_mm}%` }}
      onKeyDown={(event) => onKeyDown(event, index, glow)} onClick={(event) => event.stopPropagation()}
      onPointerDown={(event) => { event.currentTarget.setPointerCapture(event.pointerId); setHeld({ index, glow }); }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && setHeld({ index, glow: place(event, glow) })}
      onPointerUp={(event) => held && keep(index, place(event, glow))} onPointerCancel={() => setHeld(null)}>
      <span aria-hidden className="text-[12px] font-bold">{index + 1}</span>
    </button>
  ));
}

function within(value: number, most: number): number {
  return Math.round(Math.min(most, Math.max(0, value)) * 10) / 10;
}

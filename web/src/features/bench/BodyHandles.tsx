import { useState, type KeyboardEvent, type PointerEvent } from "react";

import { useChangeRegions } from "./api";
import { chosenRegions, useBench } from "./bench";

const WITH_BASE = ["cone", "petal", "leaf"];
const AXIS_MM = 9;
type Point = [number, number];

/** Handles on the body in hand: its base, the tucked end; for a tube the direction it runs in. */
export function BodyHandles() {
  const bench = useBench();
  const { piece } = bench;
  const chosen = chosenRegions(bench);
  const first = chosen[0];
  const oneBody = first && chosen.every((region) => region === first || (region.body > 0 && region.body === first.body));
  if (!first || !oneBody) return null;
  const middle: Point = [first.anchor_x * piece.width_mm, first.anchor_y * piece.height_mm];
  const base = first.base_mm as Point | null;
  const labels = chosen.map((region) => region.label);
  return (
    <>
      {(base || WITH_BASE.includes(first.form)) && (
        <Handle key={`base ${first.label}`} kind="base" name={`Base of ${first.name}`} from={middle} at={base ?? [middle[0], Math.min(piece.height_mm, middle[1] + 6)]} labels={labels} />
      )}
      {first.form === "tube" && (
        <Handle key={`axis ${first.label}`} kind="axis" name={`Direction of ${first.name}`} from={middle} at={onAxis(middle, first.axis_deg ?? 0)} labels={labels} />
      )}
    </>
  );
}

function onAxis([x, y]: Point, degrees: number): Point {
  const angle = (degrees * Math.PI) / 180;
  return [x + AXIS_MM * Math.sin(angle), y - AXIS_MM * Math.cos(angle)];
}

function Handle({ kind, name, from, at, labels }: { kind: "base" | "axis"; name: string; from: Point; at: Point; labels: number[] }) {
  const { piece } = useBench();
  const change = useChangeRegions(piece.id);
  const [held, setHeld] = useState<Point | null>(null);
  const shown = held ?? at;

  function keep(point: Point) {
    const turn = (Math.atan2(point[0] - from[0], from[1] - point[1]) * 180) / Math.PI;
    const changes = kind === "base" ? { base_mm: point } : { axis_deg: Math.round((turn + 360) % 180) };
    change.mutate({ labels, changes }, { onSettled: () => setHeld(null) });
  }

  function place(event: PointerEvent<HTMLButtonElement>): Point {
    const card = event.currentTarget.parentElement?.getBoundingClientRect();
    if (!card) return shown;
    return [within(((event.clientX - card.left) / card.width) * piece.width_mm, piece.width_mm), within(((event.clientY - card.top) / card.height) * piece.height_mm, piece.height_mm)];
  }

  function onKeyDown(event: KeyboardEvent) {
    const step = event.shiftKey ? 5 : 1;
    const [dx, dy] = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key] ?? [0, 0];
    if (!dx && !dy) return;
    event.preventDefault();
    const moved: Point = [within(shown[0] + (dx ?? 0), piece.width_mm), within(shown[1] + (dy ?? 0), piece.height_mm)];
    setHeld(moved);
    keep(moved);
  }

  const percent = ([x, y]: Point) => ({ left: `${(100 * x) / piece.width_mm}%`, top: `${(100 * y) / piece.height_mm}%` });
  return (
    <>
      <svg aria-hidden className="pointer-events-none absolute inset-0 size-full" viewBox={`0 0 ${piece.width_mm} ${piece.height_mm}`}>
        <line x1={from[0]} y1={from[1]} x2={shown[0]} y2={shown[1]} stroke="#fff" strokeWidth="1.1" />
        <line x1={from[0]} y1={from[1]} x2={shown[0]} y2={shown[1]} stroke="#161616" strokeWidth="0.5" strokeDasharray={kind === "axis" ? "1.6 1" : undefined} />
      </svg>
      <button type="button" aria-label={`${name}, ${Math.round(shown[0])} mm from the left, ${Math.round(shown[1])} mm from the top`} style={percent(shown)}
        className={`absolute size-6 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none border-2 border-sheet bg-ink shadow active:cursor-grabbing ${kind === "base" ? "rotate-45" : "rounded-full"}`}
        onKeyDown={onKeyDown} onClick={(event) => event.stopPropagation()}
        onPointerDown={(event) => { event.currentTarget.setPointerCapture(event.pointerId); setHeld(shown); }}
        onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && setHeld(place(event))}
        onPointerUp={(event) => held && keep(place(event))} onPointerCancel={() => setHeld(null)} />
    </>
  );
}

function within(value: number, most: number): number {
  return Math.round(Math.min(most, Math.max(0, value)) * 10) / 10;
}

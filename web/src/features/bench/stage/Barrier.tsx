import { useState, type PointerEvent } from "react";

import { placeIn, tell } from "@/shared/ui";
import { useSplitRegion } from "../api";
import { useHand, usePiece } from "../bench";
import { labelAt, type Labels } from "./labels";

const CLOSEST_MM = 0.4;
/** White below, dark above: the line shows on any colour. */
const STROKES = [
  ["#fff", 1.3],
  ["#161616", 0.6],
] as const;

/** A sheet of glass over the card: a stroke on it is a barrier that parts the region it mostly runs through. */
export function Barrier({ labels }: { labels: Labels | undefined }) {
  const piece = usePiece();
  const takeTool = useHand((hand) => hand.takeTool);
  const selectOnly = useHand((hand) => hand.selectOnly);
  const split = useSplitRegion(piece.id);
  const [line, setLine] = useState<[number, number][]>([]);

  function point(event: PointerEvent<SVGSVGElement>): [number, number] {
    const { x, y } = placeIn(event.currentTarget, event);
    return [x * piece.width_mm, y * piece.height_mm];
  }

  function finish() {
    const label =
      labels &&
      mostRunThrough(
        labels,
        line.map(([x, y]) => [x / piece.width_mm, y / piece.height_mm]),
      );
    setLine([]);
    if (!label || line.length < 2) return tell("Draw the barrier across a region, from outline to outline.", "problem");
    split.mutate(
      { label, line },
      {
        onSuccess: (after) => {
          takeTool("hand");
          selectOnly([
            label,
            ...after.regions.list
              .filter((region) => !piece.regions.list.some((old) => old.label === region.label))
              .map((region) => region.label),
          ]);
        },
      },
    );
  }

  return (
    <svg
      className="absolute inset-0 size-full cursor-crosshair touch-none"
      viewBox={`0 0 ${piece.width_mm} ${piece.height_mm}`}
      data-testid="barrier"
      aria-hidden
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setLine([point(event)]);
      }}
      onPointerMove={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        const next = point(event);
        const last = line.at(-1);
        if (!last || Math.hypot(next[0] - last[0], next[1] - last[1]) > CLOSEST_MM)
          setLine([...line, next].slice(-200));
      }}
      onPointerUp={finish}
      onPointerCancel={() => setLine([])}
      onClick={(event) => event.stopPropagation()}
    >
      {STROKES.map(([stroke, width]) => (
        <polyline
          key={stroke}
          points={line.map((one) => one.join(" ")).join(", ")}
          fill="none"
          stroke={stroke}
          strokeWidth={width}
          strokeLinecap="round"
        />
      ))}
    </svg>
  );
}

/** The region that most points of a line lie in; 0 if that is the paper. */
function mostRunThrough(labels: Labels, line: [number, number][]): number {
  const votes = new Map<number, number>();
  for (const [x, y] of line) {
    const label = labelAt(labels, x, y);
    if (label) votes.set(label, (votes.get(label) ?? 0) + 1);
  }
  return [...votes].sort((one, other) => other[1] - one[1])[0]?.[0] ?? 0;
}

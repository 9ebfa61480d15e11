import { useQuery } from "@tanstack/react-query";

import { tradeQuery } from "@/shared/api";
import { useHandle, type Place } from "@/shared/ui";
import { useChangeRegions } from "../api";
import { useChosen, usePiece } from "../bench";

const AXIS_MM = 9;
const BASE_BELOW_MM = 6;
type Point = [number, number];

/** Handles on the body in hand: its base, the tucked end; the direction it runs in where that can be set. */
export function BodyHandles() {
  const piece = usePiece();
  const chosen = useChosen();
  const { data: trade } = useQuery(tradeQuery);
  const first = chosen[0];
  const oneBody = first && chosen.every((one) => one === first || (one.body > 0 && one.body === first.body));
  if (!first || !oneBody) return null;
  const form = trade?.forms.find((one) => one.code === first.form);
  const middle: Point = [first.anchor_x * piece.width_mm, first.anchor_y * piece.height_mm];
  const base = first.base_mm as Point | null;
  const usual: Point = [middle[0], Math.min(piece.height_mm, middle[1] + BASE_BELOW_MM)];
  const labels = chosen.map((region) => region.label);
  return (
    <>
      {(base || form?.has_base) && (
        <Handle
          key={`base ${first.label}`}
          kind="base"
          name={`Base of ${first.name}`}
          from={middle}
          at={base ?? usual}
          labels={labels}
        />
      )}
      {form?.turns && (
        <Handle
          key={`axis ${first.label}`}
          kind="axis"
          name={`Direction of ${first.name}`}
          from={middle}
          at={onAxis(middle, first.axis_deg ?? 0)}
          labels={labels}
        />
      )}
    </>
  );
}

function onAxis([x, y]: Point, degrees: number): Point {
  const angle = (degrees * Math.PI) / 180;
  return [x + AXIS_MM * Math.sin(angle), y - AXIS_MM * Math.cos(angle)];
}

type HandleProps = { kind: "base" | "axis"; name: string; from: Point; at: Point; labels: number[] };

function Handle({ kind, name, from, at, labels }: HandleProps) {
  const piece = usePiece();
  const change = useChangeRegions(piece.id);
  const inMm = ({ x, y }: Place): Point => [rounded(x * piece.width_mm), rounded(y * piece.height_mm)];
  const { shown, handleProps } = useHandle({
    at: { x: at[0] / piece.width_mm, y: at[1] / piece.height_mm },
    step: { x: 1 / piece.width_mm, y: 1 / piece.height_mm },
    onKeep: (place) => {
      const point = inMm(place);
      const turn = (Math.atan2(point[0] - from[0], from[1] - point[1]) * 180) / Math.PI;
      const changes = kind === "base" ? { base_mm: point } : { axis_deg: Math.round((turn + 360) % 180) };
      return change.mutateAsync({ labels, changes });
    },
  });
  const [x, y] = inMm(shown);
  const line = { x1: from[0], y1: from[1], x2: x, y2: y };
  return (
    <>
      <svg
        aria-hidden
        className="pointer-events-none absolute inset-0 size-full"
        viewBox={`0 0 ${piece.width_mm} ${piece.height_mm}`}
      >
        <line {...line} stroke="#fff" strokeWidth="1.1" />
        <line {...line} stroke="#161616" strokeWidth="0.5" strokeDasharray={kind === "axis" ? "1.6 1" : undefined} />
      </svg>
      <button
        type="button"
        aria-label={`${name}, ${Math.round(x)} mm from the left, ${Math.round(y)} mm from the top`}
        className={`absolute size-6 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none border-2 border-sheet bg-ink shadow active:cursor-grabbing ${kind === "base" ? "rotate-45" : "rounded-full"}`}
        {...handleProps}
      />
    </>
  );
}

function rounded(mm: number): number {
  return Math.round(mm * 10) / 10;
}

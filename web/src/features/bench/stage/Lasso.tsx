import { useState } from "react";

import { counted, insideLoop, placeIn, tell, type Place } from "@/shared/ui";
import { useHand, usePiece, useSelected } from "../bench";

const MOST_POINTS = 800;

/** A sheet of glass over the card: everything whose middle lies inside the drawn loop comes into the hand. */
export function Lasso() {
  const piece = usePiece();
  const selected = useSelected();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const takeTool = useHand((hand) => hand.takeTool);
  const [loop, setLoop] = useState<Place[]>([]);

  function finish(add: boolean) {
    const inside = piece.regions.list
      .filter((region) => insideLoop(loop, { x: region.anchor_x, y: region.anchor_y }))
      .map((region) => region.label);
    setLoop([]);
    selectOnly(add ? [...new Set([...selected, ...inside])] : inside);
    takeTool("hand");
    tell(`${counted(inside.length, "region")} in hand.`);
  }

  return (
    <svg
      className="absolute inset-0 size-full cursor-crosshair touch-none"
      viewBox="0 0 1 1"
      preserveAspectRatio="none"
      data-testid="lasso"
      aria-hidden
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        setLoop([placeIn(event.currentTarget, event)]);
      }}
      onPointerMove={(event) => {
        if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
        setLoop([...loop, placeIn(event.currentTarget, event)].slice(-MOST_POINTS));
      }}
      onPointerUp={(event) => finish(event.shiftKey)}
      onPointerCancel={() => setLoop([])}
      onClick={(event) => event.stopPropagation()}
    >
      <polygon
        points={loop.map(({ x, y }) => `${x} ${y}`).join(", ")}
        fill="rgb(22 22 22 / 0.15)"
        stroke="#161616"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
        strokeDasharray="5 4"
      />
    </svg>
  );
}

import { useState, type PointerEvent } from "react";

import { counted, tell } from "@/shared/ui";
import { useBench } from "./bench";

/** A sheet of glass over the card: everything whose middle lies inside the drawn loop comes into the hand. */
export function Lasso() {
  const { piece, selected, selectOnly, takeTool } = useBench();
  const [loop, setLoop] = useState<[number, number][]>([]);

  function point(event: PointerEvent<SVGSVGElement>): [number, number] {
    const box = event.currentTarget.getBoundingClientRect();
    return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
  }

  function finish(add: boolean) {
    const inside = piece.regions.filter((region) => within(loop, region.anchor_x, region.anchor_y)).map((region) => region.label);
    setLoop([]);
    if (inside.length === 0) return tell("No region has its middle inside that loop.", "problem");
    selectOnly(add ? [...new Set([...selected, ...inside])] : inside);
    takeTool("hand");
    tell(`${counted(inside.length, "region")} in hand.`);
  }

  return (
    <svg className="absolute inset-0 size-full cursor-crosshair touch-none" viewBox="0 0 1 1" preserveAspectRatio="none" data-testid="lasso" aria-hidden
      onPointerDown={(event) => { event.currentTarget.setPointerCapture(event.pointerId); setLoop([point(event)]); }}
      onPointerMove={(event) => event.currentTarget.hasPointerCapture(event.pointerId) && setLoop([...loop, point(event)].slice(-800))}
      onPointerUp={(event) => finish(event.shiftKey)} onPointerCancel={() => setLoop([])} onClick={(event) => event.stopPropagation()}>
      <polygon points={loop.map((one) => one.join(" ")).join(", ")} fill="rgb(22 22 22 / 0.15)" stroke="#161616" strokeWidth="2" vectorEffect="non-scaling-stroke" strokeDasharray="5 4" />
    </svg>
  );
}

/** Whether (x, y) lies inside a closed loop, by counting crossings. */
function within(loop: [number, number][], x: number, y: number): boolean {
  let inside = false;
  loop.forEach(([x1, y1], index) => {
    const [x2, y2] = loop[(index + 1) % loop.length] ?? [x1, y1];
    if (y1 > y !== y2 > y && x < ((x2 - x1) * (y - y1)) / (y2 - y1) + x1) inside = !inside;
  });
  return inside;
}

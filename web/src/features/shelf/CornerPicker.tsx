import { useRef, type KeyboardEvent, type PointerEvent } from "react";

export type Corners = [number, number][];
export const WHOLE: Corners = [[0, 0], [1, 0], [1, 1], [0, 1]];
const NAMES = ["Top left", "Top right", "Bottom right", "Bottom left"];

/** Whether the corners go round a part of the picture, clockwise and without crossing. */
export function goRound(corners: Corners): boolean {
  return corners.every(([x, y], index) => {
    const [x1, y1] = corners[(index + 1) % 4] ?? [0, 0];
    const [x2, y2] = corners[(index + 2) % 4] ?? [0, 0];
    return (x1 - x) * (y2 - y1) - (y1 - y) * (x2 - x1) > 0.0005;
  });
}

export function isWhole(corners: Corners): boolean {
  return corners.every(([x, y], index) => Math.abs(x - (WHOLE[index]?.[0] ?? 0)) < 0.004 && Math.abs(y - (WHOLE[index]?.[1] ?? 0)) < 0.004);
}

/** The picture with four corners to drag, or to move with the arrow keys. */
export function CornerPicker({ preview, corners, onChange }: { preview: string; corners: Corners; onChange: (corners: Corners) => void }) {
  const frame = useRef<HTMLDivElement>(null);
  const fine = goRound(corners);

  function put(index: number, x: number, y: number) {
    const within = (value: number) => Math.min(1, Math.max(0, value));
    onChange(corners.map((corner, place) => (place === index ? [within(x), within(y)] : corner)));
  }

  function drag(event: PointerEvent<HTMLButtonElement>, index: number) {
    const box = frame.current?.getBoundingClientRect();
    if (box && event.currentTarget.hasPointerCapture(event.pointerId)) put(index, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  }

  function onKeyDown(event: KeyboardEvent, index: number) {
    const step = event.shiftKey ? 0.03 : 0.004;
    const [dx, dy] = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key] ?? [0, 0];
    const [x, y] = corners[index] ?? [0, 0];
    if (!dx && !dy) return;
    event.preventDefault();
    put(index, x + (dx ?? 0), y + (dy ?? 0));
  }

  return (
    <div className="flex justify-center bg-surround p-3">
      <div ref={frame} className="relative" data-testid="corners">
        <img src={preview} alt="The picture as it was read" className="max-h-[36vh] select-none" draggable={false} />
        <svg aria-hidden className="pointer-events-none absolute inset-0 size-full" viewBox="0 0 1 1" preserveAspectRatio="none">
          <path d={`M0 0H1V1H0Z M${corners.map((corner) => corner.join(" ")).join(" L")}Z`} fill="rgb(22 22 22 / 0.45)" fillRule="evenodd" />
          <polygon points={corners.map((corner) => corner.join(" ")).join(", ")} fill="none" stroke={fine ? "#fff" : "#161616"} strokeWidth="2" strokeDasharray={fine ? undefined : "6 5"} vectorEffect="non-scaling-stroke" />
        </svg>
        {corners.map(([x, y], index) => (
          <button key={NAMES[index]} type="button" aria-label={`${NAMES[index]} corner, ${Math.round(x * 100)} % across, ${Math.round(y * 100)} % down`}
            className="absolute size-7 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full border-2 border-ink bg-sheet/85 active:cursor-grabbing"
            style={{ left: `${x * 100}%`, top: `${y * 100}%` }}
            onKeyDown={(event) => onKeyDown(event, index)}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)} onPointerMove={(event) => drag(event, index)} />
        ))}
      </div>
    </div>
  );
}

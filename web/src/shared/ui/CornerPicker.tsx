import type { Place } from "./place";
import { useHandle } from "./useHandle";

type PickerProps = { preview: string; corners: Corners; onChange: (corners: Corners) => void };
export type Corners = [number, number][];
export const WHOLE: Corners = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];
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
  return corners.every(
    ([x, y], index) => Math.abs(x - (WHOLE[index]?.[0] ?? 0)) < 0.004 && Math.abs(y - (WHOLE[index]?.[1] ?? 0)) < 0.004,
  );
}

/** The picture with four corners to drag, or to move with the arrow keys. */
export function CornerPicker({ preview, corners, onChange }: PickerProps) {
  const fine = goRound(corners);
  const outline = corners.map((corner) => corner.join(" "));
  const put = (index: number, { x, y }: Place) =>
    onChange(corners.map((corner, place) => (place === index ? [x, y] : corner)));

  return (
    <div className="flex justify-center bg-surround p-3">
      <div className="relative" data-testid="corners">
        <img src={preview} alt="As it was read" className="max-h-[36vh] select-none" draggable={false} />
        <svg
          aria-hidden
          className="pointer-events-none absolute inset-0 size-full"
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
        >
          <path d={`M0 0H1V1H0Z M${outline.join(" L")}Z`} fill="rgb(22 22 22 / 0.45)" fillRule="evenodd" />
          <polygon
            points={outline.join(", ")}
            fill="none"
            stroke={fine ? "#fff" : "#161616"}
            strokeWidth="2"
            strokeDasharray={fine ? undefined : "6 5"}
            vectorEffect="non-scaling-stroke"
          />
        </svg>
        {corners.map(([x, y], index) => (
          <Corner key={NAMES[index]} name={NAMES[index] ?? ""} at={{ x, y }} onMove={(place) => put(index, place)} />
        ))}
      </div>
    </div>
  );
}

const STEP = { x: 0.004, y: 0.004 };

function Corner({ name, at, onMove }: { name: string; at: Place; onMove: (place: Place) => void }) {
  const { handleProps } = useHandle({ at, step: STEP, shift: 7.5, onMove });
  return (
    <button
      type="button"
      aria-label={`${name} corner, ${Math.round(at.x * 100)} % across, ${Math.round(at.y * 100)} % down`}
      className="absolute size-7 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full border-2 border-ink bg-sheet/85 active:cursor-grabbing"
      {...handleProps}
    />
  );
}

import type { Region } from "@/shared/api";
import { useHandle, type Place } from "@/shared/ui";
import { useChangeRegions, useMoveHorizonHandle } from "../api";
import { useChosen, usePiece } from "../bench";

type Point = [number, number];

/** Handles on the ground in hand: the point it fades round, and those of its horizon. */
export function GroundHandles() {
  const piece = usePiece();
  const first = useChosen().find((region) => region.fade);
  if (!first) return null;
  const line = piece.regions.horizons.find((one) => one.label === first.label || one.below === first.label);
  return (
    <>
      {first.fade?.kind === "point" && <FadePoint key={first.label} ground={first} />}
      {line?.handles.map((handle, place) => (
        <HorizonHandle key={place} label={line.label} place={place} at={handle as Point} />
      ))}
    </>
  );
}

const BUTTON =
  "absolute size-6 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none border-2 border-sheet bg-ink shadow active:cursor-grabbing";

function FadePoint({ ground }: { ground: Region }) {
  const piece = usePiece();
  const change = useChangeRegions(piece.id);
  const fade = ground.fade as NonNullable<Region["fade"]>;
  const { shown, handleProps } = useHandle({
    at: { x: (fade.x_mm ?? 0) / piece.width_mm, y: (fade.y_mm ?? 0) / piece.height_mm },
    step: { x: 1 / piece.width_mm, y: 1 / piece.height_mm },
    onKeep: (place) => {
      const [x_mm, y_mm] = inMm(place, piece);
      return change.mutateAsync({
        labels: [ground.label],
        changes: ([now]) => ({ fade: { ...(now?.fade ?? fade), x_mm, y_mm } }),
      });
    },
  });
  const [x, y] = inMm(shown, piece);
  return (
    <button
      type="button"
      aria-label={`${ground.name} fades round a point ${Math.round(x)} mm from the left, ${Math.round(y)} mm from the top`}
      className={`${BUTTON} rounded-full`}
      {...handleProps}
    />
  );
}

type HandleProps = { label: number; place: number; at: Point };

function HorizonHandle({ label, place, at }: HandleProps) {
  const piece = usePiece();
  const move = useMoveHorizonHandle(piece.id);
  const { shown, handleProps } = useHandle({
    at: { x: at[0] / piece.width_mm, y: at[1] / piece.height_mm },
    step: { x: 1 / piece.width_mm, y: 1 / piece.height_mm },
    onKeep: (to) => move.mutateAsync({ label, place, to: inMm(to, piece) }),
  });
  const [x, y] = inMm(shown, piece);
  return (
    <button
      type="button"
      aria-label={`Horizon, handle ${place + 1}, ${Math.round(x)} mm from the left, ${Math.round(y)} mm from the top`}
      className={BUTTON}
      {...handleProps}
    />
  );
}

function inMm({ x, y }: Place, { width_mm, height_mm }: { width_mm: number; height_mm: number }): Point {
  return [Math.round(x * width_mm * 10) / 10, Math.round(y * height_mm * 10) / 10];
}

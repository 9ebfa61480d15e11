import type { Glow } from "@/shared/api";
import { useHandle } from "@/shared/ui";
import { useSetGlows } from "../api";
import { usePiece } from "../bench";

/** The lights inside the picture, as small lamps on the card; drag them, or move them with the arrow keys. */
export function GlowMarkers() {
  const { light } = usePiece();
  return light.glows.map((glow, index) => <Marker key={index} glow={glow} index={index} />);
}

function Marker({ glow, index }: { glow: Glow; index: number }) {
  const piece = usePiece();
  const setGlows = useSetGlows(piece.id);
  const { shown, handleProps } = useHandle({
    at: { x: glow.x_mm / piece.width_mm, y: glow.y_mm / piece.height_mm },
    step: { x: 1 / piece.width_mm, y: 1 / piece.height_mm },
    onKeep: ({ x, y }) => {
      const moved = { x_mm: rounded(x * piece.width_mm), y_mm: rounded(y * piece.height_mm) };
      return setGlows.mutateAsync((glows) => glows.map((old, at) => (at === index ? { ...old, ...moved } : old)));
    },
  });
  const across = Math.round(shown.x * piece.width_mm);
  const down = Math.round(shown.y * piece.height_mm);
  return (
    <button
      type="button"
      aria-label={`Glow ${index + 1}, ${across} mm from the left, ${down} mm from the top`}
      className="absolute size-6 -translate-x-1/2 -translate-y-1/2 cursor-grab touch-none rounded-full border-2 border-ink bg-lamp shadow active:cursor-grabbing"
      {...handleProps}
    >
      <span aria-hidden className="text-[12px] font-bold">
        {index + 1}
      </span>
    </button>
  );
}

function rounded(mm: number): number {
  return Math.round(mm * 10) / 10;
}

import type { CardPlace, Piece } from "@/shared/api";
import { useUnit } from "@/shared/ui";
import { useCard } from "./card";
import { CardProvider } from "./CardProvider";
import { MovableFrame, type Box } from "./MovableFrame";
import { NUDGE_MM, setAt, snapped } from "./spec";

/** On the picture: what of it comes onto the card, where the greeting lies, and what is cut out. */
export function CropOnPicture({ piece }: { piece: Piece }) {
  return (
    <CardProvider piece={piece} otherwise={null}>
      <Outlines />
      <Panel />
      <GreetingSpot />
    </CardProvider>
  );
}

function boxOf(place: CardPlace, piece: Piece, right = 0, down = 0): Box {
  return {
    left: (place.x.at_mm + right) / piece.width_mm,
    top: (place.y.at_mm + down) / piece.height_mm,
    width: place.width.at_mm / piece.width_mm,
    height: place.height.at_mm / piece.height_mm,
  };
}

function Panel() {
  const { piece, laid, change } = useCard();
  const { unit } = useUnit();
  const step = NUDGE_MM[unit];
  return (
    <MovableFrame
      box={boxOf(laid.crop, piece)}
      step={{ x: step / piece.width_mm, y: step / piece.height_mm }}
      label="Panel on the picture: move it by dragging or with the arrow keys"
      className="border-2 border-ink outline-2 outline-sheet shadow-[0_0_0_4000px_rgb(0_0_0/0.38)]"
      onKeep={({ x, y }) =>
        change((spec) =>
          setAt(
            setAt(spec, "panel.crop_x", snapped(x * piece.width_mm, unit)),
            "panel.crop_y",
            snapped(y * piece.height_mm, unit),
          ),
        )
      }
    />
  );
}

function GreetingSpot() {
  const { piece, spec, laid, change } = useCard();
  const { unit } = useUnit();
  const panel = laid.layers.at(-1);
  if (!laid.greeting || !spec.greeting || !panel) return null;
  const right = laid.crop.x.at_mm - panel.place.x.at_mm;
  const down = laid.crop.y.at_mm - panel.place.y.at_mm;
  const step = NUDGE_MM[unit];
  return (
    <MovableFrame
      box={boxOf(laid.greeting.place, piece, right, down)}
      step={{ x: step / piece.width_mm, y: step / piece.height_mm }}
      label="Greeting: move it by dragging or with the arrow keys"
      className={`grid place-items-center overflow-hidden border border-ink ${spec.greeting.strip ? "bg-sheet/90" : "border-dashed"}`}
      onKeep={({ x, y }) =>
        change((now) =>
          setAt(
            setAt(now, "greeting.x", snapped(x * piece.width_mm - right, unit)),
            "greeting.y",
            snapped(y * piece.height_mm - down, unit),
          ),
        )
      }
    >
      <span className="truncate px-1 font-bold">{spec.greeting.text}</span>
    </MovableFrame>
  );
}

function Outlines() {
  const { piece, laid } = useCard();
  return (
    <svg
      aria-hidden
      viewBox={`0 0 ${piece.width_mm} ${piece.height_mm}`}
      className="pointer-events-none absolute inset-0 size-full"
    >
      {laid.outlines.map((one, place) => (
        <polygon
          key={place}
          points={one.points.map((point) => point.join()).join(" ")}
          fill="none"
          stroke="#161616"
          strokeDasharray="1.4 1"
          strokeWidth="0.5"
        />
      ))}
    </svg>
  );
}

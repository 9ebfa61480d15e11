import { Size, Sizes } from "@/shared/ui";
import { useCard } from "./card";
import { LengthField } from "./LengthField";

const ROOM = { width: 520, height: 400 };

/** The card laid open, to scale: where it is scored, and where one writes. */
export function InsideDrawing() {
  const { spec, laid } = useCard();
  const base = laid.layers[0];
  const wide = laid.open_width.at_mm;
  const high = laid.open_height.at_mm;
  const scale = Math.min(ROOM.width / wide, ROOM.height / high);
  const side = laid.score_down;
  const at = (laid.scores[0]?.at_mm ?? 0) * scale;
  return (
    <figure aria-label="The card laid open, to scale" className="flex flex-col items-center gap-2">
      <p>
        <Size of={laid.open_width} bare /> by <Size of={laid.open_height} />
        {laid.scores.length > 0 && (
          <>
            , scored at <Sizes of={laid.scores} /> from the {side ? "left" : "top"}
          </>
        )}
      </p>
      {laid.inside && (
        <p className="flex items-center gap-1.5">
          Round the panel shows{" "}
          <LengthField label="Shows round the panel inside" at="inside.reveal" hideLabel className="w-16" />
          each side
        </p>
      )}
      <div
        className="relative shadow-lg"
        style={{ width: wide * scale, height: high * scale, backgroundColor: base?.hex }}
      >
        {laid.scores.map((score) => (
          <span
            key={score.exact}
            className={`absolute border-dashed border-ink ${side ? "inset-y-0 border-l" : "inset-x-0 border-t"}`}
            style={side ? { left: score.at_mm * scale } : { top: score.at_mm * scale }}
          />
        ))}
        {laid.inside && (
          <span
            className="absolute grid place-items-center border border-soft p-2 text-center text-[13px]"
            style={{
              left: (side ? at : 0) + laid.inside.place.x.at_mm * scale,
              top: (side ? 0 : at) + laid.inside.place.y.at_mm * scale,
              width: laid.inside.place.width.at_mm * scale,
              height: laid.inside.place.height.at_mm * scale,
              backgroundColor: laid.inside.hex,
            }}
          >
            <span>
              <span className="block whitespace-pre-line">{spec.inside?.text}</span>
              <span className="text-soft">
                <Size of={laid.inside.place.width} bare /> by <Size of={laid.inside.place.height} />
              </span>
            </span>
          </span>
        )}
        {!laid.inside && spec.inside?.text && (
          <span
            className="absolute grid place-items-center whitespace-pre-line p-2 text-center text-[13px]"
            style={side ? { left: at, right: 0, top: 0, bottom: 0 } : { left: 0, right: 0, top: at, bottom: 0 }}
          >
            {spec.inside.text}
          </span>
        )}
      </div>
    </figure>
  );
}

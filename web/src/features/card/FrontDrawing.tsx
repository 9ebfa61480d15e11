import { useQuery } from "@tanstack/react-query";

import { api, pictureOf, tradeQuery, type Laid } from "@/shared/api";
import { Size, Sizes, useUnit } from "@/shared/ui";
import { useCard } from "./card";
import { LengthField } from "./LengthField";
import { MovableFrame } from "./MovableFrame";
import { nameOfSize, NUDGE_MM, setAt, snapped } from "./spec";

/** The room a drawing takes, in pixels: the card is drawn to scale in it. */
const ROOM = { width: 400, height: 430 };

export function scaleOf(width: number, height: number): number {
  return Math.min(ROOM.width / width, ROOM.height / height);
}

/** The front to scale, with its measures where they belong; every one of them can be typed over. */
export function FrontDrawing() {
  const { laid } = useCard();
  const front = laid.layers[0];
  if (!front) return null;
  const scale = scaleOf(front.place.width.at_mm, front.place.height.at_mm);
  const size = { width: front.place.width.at_mm * scale, height: front.place.height.at_mm * scale };
  return (
    <figure aria-label="Front of the card, to scale" className="flex flex-col items-center gap-2">
      <LengthField label="Width of the card" at="base.width" hideLabel />
      <Rule length={size.width} />
      <div className="flex items-center gap-2">
        <LengthField label="Height of the card" at="base.height" hideLabel className="w-20" />
        <Rule length={size.height} upright />
        <div className="relative shadow-lg" style={size} data-testid="front">
          {laid.layers.map((layer) => (
            <LayerOn key={layer.name} layer={layer} scale={scale} />
          ))}
          {laid.foams.map((foam) => (
            <span
              key={foam.name}
              className="pointer-events-none absolute border border-dashed border-soft"
              style={placed(foam, scale)}
            />
          ))}
          <GreetingOn size={size} scale={scale} />
        </div>
      </div>
      <Measures />
    </figure>
  );
}

function placed({ place }: Laid, scale: number) {
  return {
    left: place.x.at_mm * scale,
    top: place.y.at_mm * scale,
    width: place.width.at_mm * scale,
    height: place.height.at_mm * scale,
  };
}

function LayerOn({ layer, scale }: { layer: Laid; scale: number }) {
  const { piece, laid } = useCard();
  const raised = layer.foam.at_mm > 0 ? "shadow-[2px_3px_6px_rgb(0_0_0/0.45)]" : "shadow-[0_0_1px_rgb(0_0_0/0.6)]";
  return (
    <span
      className={`absolute overflow-hidden ${raised}`}
      style={{ ...placed(layer, scale), backgroundColor: layer.hex }}
    >
      {layer.kind === "panel" && (
        <img
          src={api.url(pictureOf.kept(piece.id, piece.version, "coloured"))}
          alt=""
          className="absolute max-w-none"
          style={{
            left: -laid.crop.x.at_mm * scale,
            top: -laid.crop.y.at_mm * scale,
            width: piece.width_mm * scale,
            height: piece.height_mm * scale,
          }}
        />
      )}
    </span>
  );
}

function GreetingOn({ size, scale }: { size: { width: number; height: number }; scale: number }) {
  const { spec, laid, change } = useCard();
  const { unit } = useUnit();
  const front = laid.layers[0];
  if (!laid.greeting || !spec.greeting || !front) return null;
  const { place, hex } = laid.greeting;
  const step = NUDGE_MM[unit] * scale;
  return (
    <MovableFrame
      box={{
        left: place.x.at_mm / front.place.width.at_mm,
        top: place.y.at_mm / front.place.height.at_mm,
        width: place.width.at_mm / front.place.width.at_mm,
        height: place.height.at_mm / front.place.height.at_mm,
      }}
      step={{ x: step / size.width, y: step / size.height }}
      label="Greeting on the front: move it by dragging or with the arrow keys"
      className={`grid place-items-center overflow-hidden ${spec.greeting.strip ? "shadow" : "border border-dashed border-ink"}`}
      onKeep={({ x, y }) =>
        change((now) =>
          setAt(
            setAt(now, "greeting.x", snapped((x * size.width) / scale, unit)),
            "greeting.y",
            snapped((y * size.height) / scale, unit),
          ),
        )
      }
    >
      <span
        className="grid size-full place-items-center truncate font-bold"
        style={{
          color: spec.greeting.colour,
          backgroundColor: spec.greeting.strip ? hex : undefined,
          fontSize: Math.max(9, place.height.at_mm * scale * 0.5),
        }}
      >
        {spec.greeting.text}
      </span>
    </MovableFrame>
  );
}

/** A measure's line with its ends. */
function Rule({ length, upright = false }: { length: number; upright?: boolean }) {
  return upright ? (
    <span
      aria-hidden
      className="w-2 border-y border-r-0 border-ink bg-[linear-gradient(#161616,#161616)] bg-[length:1px_100%] bg-center bg-no-repeat"
      style={{ height: length }}
    />
  ) : (
    <span
      aria-hidden
      className="h-2 border-x border-ink bg-[linear-gradient(#161616,#161616)] bg-[length:100%_1px] bg-center bg-no-repeat"
      style={{ width: length, marginLeft: 106 }}
    />
  );
}

/** What every layer measures, and what shows of the one below. */
function Measures() {
  const { spec, laid } = useCard();
  const sizes = useQuery(tradeQuery).data?.cards ?? [];
  const name = sizes.find((one) => one.code === nameOfSize(spec, sizes))?.name;
  return (
    <table className="w-full text-[14px]">
      <caption className="sr-only">Layers from the base up</caption>
      <tbody>
        {laid.layers.map((layer, place) => (
          <tr key={layer.name} className="border-t border-line">
            <th scope="row" className="py-1 text-left font-bold">
              {layer.name}
              {place === 0 && name ? `, ${name.toLowerCase()}` : ""}
            </th>
            <td>
              <Size of={layer.place.width} bare /> by <Size of={layer.place.height} />
            </td>
            <td>
              {place > 0 && own(spec, place) === null && (
                <span className="flex items-center gap-1.5">
                  shows
                  <LengthField
                    label={`Shows round ${layer.name.toLowerCase()}`}
                    at={place > spec.mats.length ? "panel.reveal" : `mats.${place - 1}.reveal`}
                    hideLabel
                    className="w-16"
                  />
                  each side
                </span>
              )}
              {place === 0 && (
                <>
                  from <Size of={laid.open_width} bare /> by <Size of={laid.open_height} />
                  {laid.scores.length > 0 && (
                    <>
                      , scored at <Sizes of={laid.scores} />
                    </>
                  )}
                </>
              )}
            </td>
          </tr>
        ))}
        {spec.greeting && (
          <tr className="border-t border-line">
            <th scope="row" className="py-1 text-left font-bold">
              Greeting
            </th>
            <td colSpan={2}>
              <span className="flex flex-wrap items-center gap-1.5">
                <LengthField label="Width of the greeting" at="greeting.width" hideLabel className="w-16" />
                by
                <LengthField label="Height of the greeting" at="greeting.height" hideLabel className="w-16" />
                from the left
                <LengthField label="Greeting from the left" at="greeting.x" hideLabel className="w-16" />
                and the top
                <LengthField label="Greeting from the top" at="greeting.y" hideLabel className="w-16" />
              </span>
            </td>
          </tr>
        )}
        <tr className="border-t border-line">
          <th scope="row" className="py-1 text-left font-bold">
            Picture, before trimming
          </th>
          <td colSpan={2}>
            <Size of={laid.rough.width} bare /> by <Size of={laid.rough.height} />
          </td>
        </tr>
        <tr className="border-t border-line">
          <th scope="row" className="py-1 text-left font-bold">
            Thickest place
          </th>
          <td colSpan={2}>{laid.thickness.mm} mm</td>
        </tr>
      </tbody>
    </table>
  );
}

/** The width a layer was given of its own; null where it follows from what shows of the one below. */
function own(spec: ReturnType<typeof useCard>["spec"], place: number): string | null {
  const layer = place > spec.mats.length ? spec.panel : spec.mats[place - 1];
  return layer?.width ?? null;
}

import { useCard } from "./card";
import { LengthField } from "./LengthField";

const WIDTH = 480;
/** Paper is too thin to be seen to scale. */
const THICKER = 10;

/** The card seen from its lower edge: widths to scale, thickness ten times as large. */
export function SideDrawing() {
  const { laid } = useCard();
  const front = laid.layers[0]?.place;
  if (!front) return null;
  const scale = WIDTH / front.width.at_mm;
  const slabs = laid.side.map((one, place) => ({
    ...one,
    key: `${one.name} ${place}`,
    left: one.x_mm * scale,
    width: one.width_mm * scale,
    thick: one.thick_mm * scale * THICKER,
    top: (one.lift_mm + one.thick_mm) * scale * THICKER,
  }));
  const height = Math.max(...slabs.map((slab) => slab.top));
  return (
    <figure aria-label="The card from the side" className="flex flex-col items-center gap-3">
      <svg viewBox={`0 0 ${WIDTH} ${height + 2}`} className="w-full max-w-[480px]" role="img" aria-label="Side view">
        {slabs.map((slab) => (
          <rect
            key={slab.key}
            x={slab.left + 0.5}
            y={height - slab.top + 0.5}
            width={Math.max(1, slab.width - 1)}
            height={Math.max(1, slab.thick)}
            fill={slab.hex}
            stroke="#161616"
            strokeDasharray={slab.foam ? "4 3" : undefined}
          />
        ))}
      </svg>
      <figcaption className="text-[14px]">
        {laid.thickness.mm} mm at its thickest. Widths to scale, thickness drawn ten times as large. From below:{" "}
        {slabs.map((slab) => slab.name.toLowerCase()).join(", ")}.
      </figcaption>
      <Foams />
    </figure>
  );
}

/** What stands on foam, and how thick that is. */
function Foams() {
  const { spec, laid } = useCard();
  const layers = laid.layers.slice(1).map((layer, place) => ({
    name: layer.name,
    at: place < spec.mats.length ? `mats.${place}.foam` : "panel.foam",
  }));
  const raised = [
    ...(spec.greeting?.strip ? [{ name: "Greeting strip", at: "greeting.foam" }] : []),
    ...spec.cutouts.map((one, place) => ({ name: one.name, at: `cutouts.${place}.foam` })),
  ];
  return (
    <ul aria-label="Foam" className="flex flex-wrap gap-x-5 gap-y-1">
      {[...layers, ...raised].map((one) => (
        <li key={one.at}>
          <LengthField label={`Foam: ${one.name.toLowerCase()}`} at={one.at} metric className="w-16" />
        </li>
      ))}
    </ul>
  );
}

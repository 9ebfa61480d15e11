import type { Form, Piece, Region } from "@/shared/api";
import { Button, Slider, Tick } from "@/shared/ui";
import { useChangeRegions } from "../api";
import { usePiece } from "../bench";
import { BorderList } from "../regions/Borders";

const FORMS: { form: Form; name: string; path: string }[] = [
  { form: "flat", name: "Flat", path: "M4 16H36" },
  { form: "dome", name: "Dome", path: "M4 20A16 16 0 0 1 36 20" },
  { form: "tube", name: "Tube", path: "M9 5H33a3.5 7 0 0 1 0 14H9a3.5 7 0 0 1 0-14a3.5 7 0 0 1 0 14" },
  { form: "cone", name: "Cone", path: "M20 3L31 19a11 3 0 0 1-22 0Z" },
  { form: "petal", name: "Petal", path: "M20 22C8 17 9 5 20 2C31 5 32 17 20 22M20 21V11" },
  { form: "leaf", name: "Leaf", path: "M4 19C9 5 25 3 36 5C33 17 17 21 4 19L30 8" },
  { form: "hollow", name: "Hollow", path: "M4 8A16 14 0 0 0 36 8" },
  { form: "ground", name: "Ground", path: "M3 21L12 10H28L37 21ZM7 16H33" },
];
const AXES = [
  { name: "as it lies", value: null },
  { name: "upright", value: 0 },
  { name: "lying", value: 90 },
] as const;

/** How the chosen regions bulge, and which of them stand nearer. */
export function FormFields({ regions }: { regions: Region[] }) {
  const piece = usePiece();
  const change = useChangeRegions(piece.id);
  const labels = regions.map((region) => region.label);
  const first = regions[0];
  if (!first) return null;
  const same = <Key extends keyof Region>(key: Key) =>
    regions.every((region) => region[key] === first[key]) ? first[key] : undefined;
  const form = same("form");
  return (
    <div className="mt-2 flex flex-col gap-2">
      {regions.every((region) => region.guessed) && (
        <p className="text-[13px] text-soft">Form and depth are Paleta’s first guess. Change one and it is yours.</p>
      )}
      <div role="group" aria-label="Form" className="grid grid-cols-4 gap-1">
        {FORMS.map((one) => (
          <button
            key={one.form}
            type="button"
            aria-pressed={form === one.form}
            onClick={() => change.mutate({ labels, changes: { form: one.form } })}
            className="flex flex-col items-center rounded border border-line bg-sheet py-1 text-[13px] hover:border-ink aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
          >
            <svg viewBox="0 0 40 24" className="h-5 w-9" aria-hidden>
              <path d={one.path} fill="none" stroke="currentColor" strokeWidth="2" />
            </svg>
            {one.name}
          </button>
        ))}
      </div>
      {form !== undefined && form !== "flat" && (
        <Slider
          label="Bulge"
          unit=""
          min={0.2}
          max={2}
          step={0.1}
          value={same("bulge") ?? first.bulge}
          onKeep={(bulge) => change.mutate({ labels, changes: { bulge } })}
        />
      )}
      {form === "tube" && (
        <label className="flex items-center gap-2 text-[13px]">
          Runs
          <select
            className="rounded border border-soft px-1 py-0.5"
            value={AXES.findIndex((axis) => axis.value === (same("axis_deg") ?? null))}
            onChange={(event) =>
              change.mutate({ labels, changes: { axis_deg: AXES[Number(event.target.value)]?.value ?? null } })
            }
          >
            {AXES.map((axis, index) => (
              <option key={axis.name} value={index}>
                {axis.name}
              </option>
            ))}
            {same("axis_deg") !== null && !AXES.some((axis) => axis.value === same("axis_deg")) && (
              <option value={-1}>{same("axis_deg") ?? "different"}°</option>
            )}
          </select>
        </label>
      )}
      {form !== undefined && form !== "flat" && form !== "ground" && (
        <div className="flex items-center gap-2 text-[13px]">
          <span>{same("base_mm") ? "Dark at its base" : "No base set by hand"}</span>
          {first.base_mm ? (
            <Button kind="quiet" onClick={() => change.mutate({ labels, changes: { base_mm: null } })}>
              Take the base off
            </Button>
          ) : (
            <Button
              kind="quiet"
              title="The tucked end; drag its handle on the picture"
              onClick={() => change.mutate({ labels, changes: { base_mm: lowEnd(first, piece) } })}
            >
              Set a base
            </Button>
          )}
        </div>
      )}
      <Slider
        label="Own light"
        unit="°"
        min={-180}
        max={180}
        step={5}
        value={Math.round(same("turn_deg") ?? 0)}
        onKeep={(turn_deg) => change.mutate({ labels, changes: { turn_deg } })}
      />
      <div className="flex flex-wrap items-center gap-x-4 text-[13px]">
        <Button
          kind="quiet"
          onClick={() =>
            change.mutate({
              labels,
              changes: ([now]) => ({ turn_deg: Math.abs(now?.turn_deg ?? 0) === 180 ? 0 : 180 }),
            })
          }
        >
          Swap light and shade
        </Button>
        <Tick
          className="py-1"
          checked={regions.every((region) => region.bare_highlight)}
          onKeep={(bare_highlight) => change.mutateAsync({ labels, changes: { bare_highlight } })}
        >
          Leave the highlight bare
        </Tick>
      </div>
      <div className="flex items-center gap-2 text-[13px]">
        <span>{same("depth") === undefined ? "At different depths" : `Depth ${same("depth")}`}, higher is nearer</span>
        <Button
          kind="quiet"
          onClick={() =>
            change.mutate({ labels, changes: ([now]) => ({ depth: Math.min(99, (now ?? first).depth + 1) }) })
          }
        >
          Bring nearer
        </Button>
        <Button
          kind="quiet"
          onClick={() =>
            change.mutate({ labels, changes: ([now]) => ({ depth: Math.max(-99, (now ?? first).depth - 1) }) })
          }
        >
          Move back
        </Button>
      </div>
      {regions.length === 1 && <BorderList label={first.label} />}
    </div>
  );
}

/** Where a base is put at first: below the middle, towards the lower end. */
function lowEnd(region: Region, piece: Piece): [number, number] {
  const reach = Math.sqrt(region.area_mm2) / 2;
  const round = (value: number) => Math.round(value * 10) / 10;
  return [
    round(region.anchor_x * piece.width_mm),
    round(Math.min(piece.height_mm, region.anchor_y * piece.height_mm + reach)),
  ];
}

import { useQuery } from "@tanstack/react-query";

import { tradeQuery, type Piece, type Region, type RegionChanges } from "@/shared/api";
import { Button, Slider, Tick } from "@/shared/ui";
import { useChangeRegions } from "../api";
import { usePiece } from "../bench";
import { BorderList } from "../regions/Borders";

const AXES = [
  { name: "as it lies", value: null },
  { name: "upright", value: 0 },
  { name: "lying", value: 90 },
] as const;
const FARTHEST = 99;

type Keep = (changes: RegionChanges | ((now: Region[]) => RegionChanges)) => Promise<unknown>;
type FieldProps = { regions: Region[]; first: Region; keep: Keep };

/** What all regions have alike in one field, or undefined where they differ. */
function same<Key extends keyof Region>(regions: Region[], key: Key): Region[Key] | undefined {
  const [first, ...rest] = regions;
  return first && rest.every((region) => region[key] === first[key]) ? first[key] : undefined;
}

/** How the chosen regions bulge, and which of them stand nearer. */
export function FormFields({ regions }: { regions: Region[] }) {
  const piece = usePiece();
  const change = useChangeRegions(piece.id);
  const { data: trade } = useQuery(tradeQuery);
  const first = regions[0];
  if (!first) return null;
  const keep: Keep = (changes) => change.mutateAsync({ labels: regions.map((region) => region.label), changes });
  const code = same(regions, "form");
  const form = trade?.forms.find((one) => one.code === code);
  const fields = { regions, first, keep };
  return (
    <div className="mt-2 flex flex-col gap-2">
      {regions.every((region) => region.guessed) && (
        <p className="text-[13px] text-soft">Form and depth are Paleta’s first guess. Change one and it is yours.</p>
      )}
      <div role="group" aria-label="Form" className="grid grid-cols-4 gap-1">
        {trade?.forms.map((one) => (
          <button
            key={one.code}
            type="button"
            aria-pressed={code === one.code}
            onClick={() => void keep({ form: one.code })}
            className="flex flex-col items-center rounded border border-line bg-sheet py-1 text-[13px] hover:border-ink aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
          >
            <svg viewBox="0 0 40 24" className="h-5 w-9" aria-hidden>
              <path d={one.icon} fill="none" stroke="currentColor" strokeWidth="2" />
            </svg>
            {one.name}
          </button>
        ))}
      </div>
      {form?.bulges && (
        <Slider
          label="Bulge"
          unit=""
          min={0.2}
          max={2}
          step={0.1}
          value={same(regions, "bulge") ?? first.bulge}
          onKeep={(bulge) => void keep({ bulge })}
        />
      )}
      {form?.turns && <AxisField {...fields} />}
      {form?.takes_base && <BaseField {...fields} piece={piece} />}
      <OwnLight {...fields} />
      <DepthField {...fields} />
      {regions.length === 1 && <BorderList label={first.label} />}
    </div>
  );
}

/** The direction a tube runs in. */
function AxisField({ regions, keep }: FieldProps) {
  const axis = same(regions, "axis_deg");
  return (
    <label className="flex items-center gap-2 text-[13px]">
      Runs
      <select
        className="rounded border border-soft px-1 py-0.5"
        value={AXES.findIndex((one) => one.value === (axis ?? null))}
        onChange={(event) => void keep({ axis_deg: AXES[Number(event.target.value)]?.value ?? null })}
      >
        {AXES.map((one, index) => (
          <option key={one.name} value={index}>
            {one.name}
          </option>
        ))}
        {axis !== null && !AXES.some((one) => one.value === axis) && (
          <option value={-1}>{axis === undefined ? "different" : `${axis}°`}</option>
        )}
      </select>
    </label>
  );
}

/** The tucked end, which darkens. */
function BaseField({ regions, first, keep, piece }: FieldProps & { piece: Piece }) {
  return (
    <div className="flex items-center gap-2 text-[13px]">
      <span>{same(regions, "base_mm") ? "Dark at its base" : "No base set by hand"}</span>
      {first.base_mm ? (
        <Button kind="quiet" onClick={() => void keep({ base_mm: null })}>
          Take the base off
        </Button>
      ) : (
        <Button
          kind="quiet"
          title="The tucked end; drag its handle on the picture"
          onClick={() => void keep({ base_mm: lowEnd(first, piece) })}
        >
          Set a base
        </Button>
      )}
    </div>
  );
}

/** Light turned by hand against the lamp's, and the highlight. */
function OwnLight({ regions, keep }: FieldProps) {
  return (
    <>
      <Slider
        label="Own light"
        unit="°"
        min={-180}
        max={180}
        step={5}
        value={Math.round(same(regions, "turn_deg") ?? 0)}
        onKeep={(turn_deg) => void keep({ turn_deg })}
      />
      <div className="flex flex-wrap items-center gap-x-4 text-[13px]">
        <Button
          kind="quiet"
          onClick={() => void keep(([now]) => ({ turn_deg: Math.abs(now?.turn_deg ?? 0) === 180 ? 0 : 180 }))}
        >
          Swap light and shade
        </Button>
        <Tick
          className="py-1"
          checked={regions.every((region) => region.bare_highlight)}
          onKeep={(bare_highlight) => keep({ bare_highlight })}
        >
          Leave the highlight bare
        </Tick>
      </div>
    </>
  );
}

/** Which stands nearer. */
function DepthField({ regions, first, keep }: FieldProps) {
  const depth = same(regions, "depth");
  const moved =
    (by: number) =>
    ([now]: Region[]) => ({ depth: Math.max(-FARTHEST, Math.min(FARTHEST, (now ?? first).depth + by)) });
  return (
    <div className="flex items-center gap-2 text-[13px]">
      <span>{depth === undefined ? "At different depths" : `Depth ${depth}`}, higher is nearer</span>
      <Button kind="quiet" onClick={() => void keep(moved(1))}>
        Bring nearer
      </Button>
      <Button kind="quiet" onClick={() => void keep(moved(-1))}>
        Move back
      </Button>
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

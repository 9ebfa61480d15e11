import type { Form, Region } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useChangeRegions } from "./api";
import { useBench } from "./bench";

const FORMS: { form: Form; name: string; path: string }[] = [
  { form: "flat", name: "Flat", path: "M4 16H36" },
  { form: "dome", name: "Dome", path: "M4 20A16 16 0 0 1 36 20" },
  { form: "tube", name: "Tube", path: "M9 5H33a3.5 7 0 0 1 0 14H9a3.5 7 0 0 1 0-14a3.5 7 0 0 1 0 14" },
  { form: "hollow", name: "Hollow", path: "M4 8A16 14 0 0 0 36 8" },
];
const AXES = [{ name: "as it lies", value: null }, { name: "upright", value: 0 }, { name: "lying", value: 90 }] as const;

/** How the chosen regions bulge, and which of them stand nearer. */
export function FormFields({ regions }: { regions: Region[] }) {
  const { piece } = useBench();
  const change = useChangeRegions(piece.id);
  const labels = regions.map((region) => region.label);
  const first = regions[0];
  if (!first) return null;
  const same = <Key extends keyof Region>(key: Key) => (regions.every((region) => region[key] === first[key]) ? first[key] : undefined);
  const form = same("form");
  return (
    <div className="mt-2 flex flex-col gap-2">
      <div role="group" aria-label="Form" className="grid grid-cols-4 gap-1">
        {FORMS.map((one) => (
          <button key={one.form} type="button" aria-pressed={form === one.form} onClick={() => change.mutate({ labels, changes: { form: one.form } })}
            className="flex flex-col items-center rounded border border-line bg-sheet py-1 text-[13px] hover:border-ink aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet">
            <svg viewBox="0 0 40 24" className="h-5 w-9" aria-hidden><path d={one.path} fill="none" stroke="currentColor" strokeWidth="2" /></svg>
            {one.name}
          </button>
        ))}
      </div>
      {form !== undefined && form !== "flat" && (
        <label className="flex items-center gap-2 text-[13px]">Bulge
          <input key={String(same("bulge"))} type="range" min={0.2} max={2} step={0.1} defaultValue={same("bulge") ?? 1} className="h-7 grow accent-ink"
            onPointerUp={(event) => change.mutate({ labels, changes: { bulge: Number(event.currentTarget.value) } })}
            onKeyUp={(event) => event.key.startsWith("Arrow") && change.mutate({ labels, changes: { bulge: Number(event.currentTarget.value) } })} />
          <span className="w-8 text-right">{same("bulge")?.toFixed(1) ?? "–"}</span>
        </label>
      )}
      {form === "tube" && (
        <label className="flex items-center gap-2 text-[13px]">Runs
          <select className="rounded border border-soft px-1 py-0.5" value={AXES.findIndex((axis) => axis.value === (same("axis_deg") ?? null))}
            onChange={(event) => change.mutate({ labels, changes: { axis_deg: AXES[Number(event.target.value)]?.value ?? null } })}>
            {AXES.map((axis, index) => <option key={axis.name} value={index}>{axis.name}</option>)}
            {same("axis_deg") !== null && !AXES.some((axis) => axis.value === same("axis_deg")) && <option value={-1}>{same("axis_deg") ?? "different"}°</option>}
          </select>
        </label>
      )}
      <div className="flex items-center gap-2 text-[13px]">
        <span>{same("depth") === undefined ? "At different depths" : `Depth ${same("depth")}`}, higher is nearer</span>
        <Button kind="quiet" onClick={() => change.mutate({ labels, changes: { depth: Math.min(99, first.depth + 1) } })}>Bring nearer</Button>
        <Button kind="quiet" onClick={() => change.mutate({ labels, changes: { depth: Math.max(-99, first.depth - 1) } })}>Move back</Button>
      </div>
    </div>
  );
}

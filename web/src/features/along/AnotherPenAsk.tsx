import { useQuery } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";

import { api, drawerQueries, type Likeness, type Medium, type RunReadout } from "@/shared/api";
import { Ask, Button, swatchStyle } from "@/shared/ui";
import type { CourseStep } from "./course";
import { plannedPen } from "./progress";

type Pen = { instead_of: string; medium: Medium; code: string; name: string; hex: string; passes: number[] };
type Props = {
  open: boolean;
  onClose: () => void;
  run: RunReadout;
  step: CourseStep & { kind: "stint" };
  /** One for every strength of the pen in the step. */
  onTake: (pens: Pen[]) => void;
};

const NEAREST = 6;

/** Which pen was taken instead, and for how long. */
export function AnotherPenAsk({ open, onClose, run, step, onTake }: Props) {
  const pass = run.steps[(step.passes[0] ?? 1) - 1];
  const planned = pass && plannedPen(run, pass);
  const [onwards, setOnwards] = useState(true);
  const [typed, setTyped] = useState("");
  const drawers = useQuery({ ...drawerQueries.list, enabled: open });
  const drawer = drawers.data?.find((one) => one.medium === planned?.medium);
  const detail = useQuery({ ...drawerQueries.detail(drawer?.id ?? 0), enabled: open && drawer !== undefined });
  const like = useQuery({
    queryKey: ["drawers", drawer?.id, "like", planned?.hex] as const,
    queryFn: ({ signal }) =>
      api.get<Likeness[]>(`/drawers/${drawer?.id}/like/?hex=${encodeURIComponent(planned?.hex ?? "")}`, { signal }),
    enabled: open && drawer !== undefined && planned !== undefined,
  });
  if (!planned) return null;
  function take(code: string, name: string, hex: string) {
    if (!planned) return;
    const passesOf = new Map<string, number[]>();
    for (const number of step.passes) {
      const own = run.steps[number - 1]?.swatch ?? planned.code;
      passesOf.set(own, [...(passesOf.get(own) ?? []), number]);
    }
    const pen = { medium: planned.medium, code, name, hex };
    onTake([...passesOf].map(([own, passes]) => ({ ...pen, instead_of: own, passes: onwards ? [] : passes })));
    onClose();
  }
  function submit(event: FormEvent) {
    event.preventDefault();
    if (typed.trim()) take(typed.trim().slice(0, 40), typed.trim(), "");
  }
  const nearest = (like.data ?? [])
    .flatMap(({ code, difference }) => {
      const swatch = code !== planned.code && detail.data?.swatches.find((one) => one.code === code);
      return swatch ? [{ ...swatch, difference }] : [];
    })
    .slice(0, NEAREST);
  return (
    <Ask open={open} onClose={onClose} title={`Another pen for ${planned.name}`}>
      <fieldset className="mb-3 flex flex-wrap gap-x-5">
        <legend className="sr-only">For how long</legend>
        {[true, false].map((all) => (
          <label key={String(all)} className="flex min-h-12 items-center gap-2">
            <input
              type="radio"
              name="how-long"
              className="size-5 accent-ink"
              checked={onwards === all}
              onChange={() => setOnwards(all)}
            />
            {all ? "From now on" : "Here only"}
          </label>
        ))}
      </fieldset>
      {nearest.length > 0 && (
        <ul aria-label="Nearest in your drawer" className="mb-3 grid gap-1.5">
          {nearest.map((one) => (
            <li key={one.code}>
              <button
                type="button"
                onClick={() => take(one.code, one.name, one.hex)}
                className="flex min-h-12 w-full items-center gap-3 rounded border border-line px-2 text-left hover:bg-faint"
              >
                <span className="h-8 w-12 rounded-sm border border-line bg-(--swatch)" style={swatchStyle(one.hex)} />
                <span className="grow font-bold">{one.name}</span>
                <span className="text-[13px] text-soft">{one.difference.toFixed(1)} away</span>
              </button>
            </li>
          ))}
        </ul>
      )}
      <form onSubmit={submit} className="flex items-end gap-2">
        <label className="grow">
          Or what stands on its cap
          <input
            className="field mt-1 min-h-12"
            maxLength={40}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <Button type="submit" className="min-h-12 shrink-0" disabled={!typed.trim()}>
          Take it
        </Button>
      </form>
    </Ask>
  );
}

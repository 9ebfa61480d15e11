import type { RunEvent, RunReadout, RunStep } from "@/shared/api";
import type { CourseStep } from "./course";
import type { CardProgress, Planned, Progress } from "./replay";

export function isDone(progress: Progress, step: CourseStep): boolean {
  const card = progress.cards[step.card - 1];
  if (!card) return true;
  return step.kind === "handling"
    ? card.handled.has(step.handling)
    : step.passes.every((number) => card.laid.has(number));
}

/** The name of a swatch that is still to be laid beneath this step, where somebody took it up out of its order. */
export function beneathOf(
  run: Pick<RunReadout, "steps" | "swatches">,
  progress: Progress,
  step: CourseStep & { kind: "stint" },
): string | undefined {
  const laid = progress.cards[step.card - 1]?.laid;
  const regions = new Set(step.passes.map((number) => run.steps[number - 1]?.region));
  const first = run.steps.find(
    (one) => one.number < (step.passes[0] ?? 0) && regions.has(one.region) && !laid?.has(one.number),
  );
  return first && plannedPen(run, first)?.name;
}

/** The swatch that the plan lays in a pass. */
export function plannedPen(run: Pick<RunReadout, "swatches">, step: Pick<RunStep, "medium" | "swatch">) {
  return run.swatches.find((one) => one.code === step.swatch && one.medium === step.medium);
}

/** The first of `course` that is not done, and what follows it. */
export function nextUp(progress: Progress, course: CourseStep[], many: number): CourseStep[] {
  if (progress.finished) return [];
  const found: CourseStep[] = [];
  for (const step of course) {
    if (isDone(progress, step)) continue;
    found.push(step);
    if (found.length === many) break;
  }
  return found;
}

/** The line that Back takes away: the last that laid or handled something. */
export function lastDone(progress: Progress): RunEvent | undefined {
  return progress.log.findLast((event) => ["laid", "handled", "extra coat", "finished"].includes(event.kind));
}

export type Clock = { words: string; left_s: number; kind: "dry" | "blend" };

/** What the hand waits for before `step`, and how long a blend still waits for the hand; seconds at `now_s`. */
export function clockOf(run: Planned, card: CardProgress, step: CourseStep, now_s: number): Clock | null {
  const open = (step.kind === "stint" ? step.passes : []).flatMap((number) =>
    card.laid.has(number) ? [] : (run.steps[number - 1] ?? []),
  );
  const needs =
    step.kind === "stint" ? open.flatMap((one) => one.needs) : (run.handling[step.handling - 1]?.needs ?? []);
  let dry: Clock | null = null;
  for (const need of needs) {
    const touched = card.touched.get(need.region);
    const dry_s = (need.coat ? touched?.coat_dry_s : touched?.touch_dry_s) ?? 0;
    const left_s = touched === undefined ? 0 : touched.at_s + dry_s - now_s;
    if (left_s > (dry?.left_s ?? 0)) dry = { words: nameOf(run.steps, need.region), left_s, kind: "dry" };
  }
  if (dry) return dry;
  const first = open[0];
  const touched = first && card.touched.get(first.region);
  if (!first || first.within_s === null || first.within_s === undefined || touched === undefined) return null;
  return { words: first.name, left_s: touched.at_s + first.within_s - now_s, kind: "blend" };
}

function nameOf(steps: RunStep[], region: number): string {
  return steps.find((step) => step.region === region)?.name ?? "";
}

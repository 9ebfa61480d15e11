import type { RunEvent, RunReadout, RunStep } from "@/shared/api";
import type { Step } from "./course";

/** When a region was last wetted, and how long what was laid there takes to dry. */
export type Touched = { at_s: number; touch_dry_s: number; coat_dry_s: number };
/** What the log adds up to on one card: passes by number, regions by number and how they were last wetted. */
export type CardProgress = { laid: Map<number, number>; touched: Map<number, Touched>; handled: Set<number> };
/** A swatch that was taken instead of the planned one; `hex` where it is known how it looks. */
export type Pen = { code: string; name: string; hex: string | null };
export type Progress = {
  cards: CardProgress[];
  /** Swatches taken from now on instead of planned ones. */
  pens: Map<string, Pen>;
  /** The same for single passes of one card, by `card-pass`. */
  here: Map<string, Pen>;
  /** Lines that count, by time. */
  log: RunEvent[];
  finished: boolean;
};

type Planned = Pick<RunReadout, "cards" | "steps">;

/**
 * The state of a run, from any lines in any order; each counts once. The server's replay has the last word; this is
 * as much of it as working on without a server needs.
 */
export function progressOf(run: Planned, events: Iterable<RunEvent>): Progress {
  const known = new Map<string, RunEvent>();
  for (const event of events) if (!known.has(event.id)) known.set(event.id, event);
  const sorted = [...known.values()].sort((a, b) => a.at_s - b.at_s || (a.id < b.id ? -1 : 1));
  const back = new Set(sorted.filter((event) => event.kind === "undone").map((event) => event.event));
  const log = sorted.filter((event) => !back.has(event.id));
  const cards = Array.from({ length: run.cards }, () => ({
    laid: new Map<number, number>(),
    touched: new Map<number, Touched>(),
    handled: new Set<number>(),
  }));
  const progress: Progress = { cards, pens: new Map(), here: new Map(), log, finished: false };
  for (const event of log) take(run, progress, event);
  return progress;
}

function take(run: Planned, progress: Progress, event: RunEvent) {
  const card = progress.cards[event.card - 1];
  if (!card) return;
  const pen = { code: event.code ?? "", name: event.name || (event.code ?? ""), hex: event.hex || null };
  switch (event.kind) {
    case "laid":
    case "extra coat":
      for (const number of event.passes ?? []) {
        const step = run.steps[number - 1];
        if (!step) continue;
        if (event.kind === "laid" && !card.laid.has(number)) card.laid.set(number, event.at_s);
        if (event.at_s >= (card.touched.get(step.region)?.at_s ?? 0))
          card.touched.set(step.region, {
            at_s: event.at_s,
            touch_dry_s: step.touch_dry_s,
            coat_dry_s: step.coat_dry_s,
          });
      }
      break;
    case "handled":
      if (event.step) card.handled.add(event.step);
      break;
    case "another pen":
      if (event.passes?.length) for (const number of event.passes) progress.here.set(`${event.card}-${number}`, pen);
      else if (event.instead_of)
        for (const step of run.steps)
          if (step.swatch === event.instead_of && (!event.medium || event.medium === step.medium))
            progress.pens.set(penKey(step), pen);
      break;
    case "finished":
      progress.finished = true;
  }
}

/** A swatch of the plan: drawers of two media may use the same codes. */
export function penKey({ medium, swatch }: Pick<RunStep, "medium" | "swatch">): string {
  return `${medium} ${swatch}`;
}

export function isDone(progress: Progress, step: Step): boolean {
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
  step: Step & { kind: "stint" },
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
export function nextUp(progress: Progress, course: Step[], many: number): Step[] {
  if (progress.finished) return [];
  const found: Step[] = [];
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

/** What the hand waits for before `passes`, and how long a blend still waits for the hand; seconds at `now_s`. */
export function clockOf(run: Planned, card: CardProgress, passes: number[], now_s: number): Clock | null {
  let dry: Clock | null = null;
  for (const number of passes) {
    const step = run.steps[number - 1];
    if (!step || card.laid.has(number)) continue;
    for (const need of step.needs) {
      const touched = card.touched.get(need.region);
      const dry_s = (need.coat ? touched?.coat_dry_s : touched?.touch_dry_s) ?? 0;
      const left_s = touched === undefined ? 0 : touched.at_s + dry_s - now_s;
      if (left_s > (dry?.left_s ?? 0)) dry = { words: nameOf(run.steps, need.region), left_s, kind: "dry" };
    }
  }
  if (dry) return dry;
  const first = run.steps[(passes.find((number) => !card.laid.has(number)) ?? 0) - 1];
  const touched = first && card.touched.get(first.region);
  if (!first || first.within_s === null || first.within_s === undefined || touched === undefined) return null;
  return { words: first.name, left_s: touched.at_s + first.within_s - now_s, kind: "blend" };
}

function nameOf(steps: RunStep[], region: number): string {
  return steps.find((step) => step.region === region)?.name ?? "";
}

import type { RunEvent, RunReadout, RunStep } from "@/shared/api";

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

/** What is known of a run before its log is read. */
export type Planned = Pick<RunReadout, "cards" | "plan" | "steps" | "handling" | "slips">;

/** Pass numbers of a plan that was followed once, and what they are in the plan that is followed now. */
type Numbers = Map<number, number> | "same";

/**
 * What the lines of a log add up to, in any order; each counts once. The server's `paleta.run.replay` follows the same
 * rules: tests/cases/replay.json holds both of them to it.
 */
export function replay(run: Planned, events: Iterable<RunEvent>): Progress {
  const known = new Map<string, RunEvent>();
  for (const event of events) if (!known.has(event.id)) known.set(event.id, event);
  const sorted = [...known.values()].sort((a, b) => a.at_s - b.at_s || (a.id < b.id ? -1 : 1));
  const takenBack = new Set(sorted.filter((event) => event.kind === "undone").map((event) => event.event));
  // How many cards there are and which plan is followed is no slip of the finger.
  const counting = sorted.filter(
    (event) => !takenBack.has(event.id) || event.kind === "started" || event.kind === "moved",
  );
  return new Replay(run, counting).progress;
}

class Replay {
  readonly progress: Progress;
  private readonly numbers: Map<string, Numbers>;
  private readonly steps: Map<number, RunStep>;
  private readonly slips: Map<string, RunEvent>;
  private readonly wetting: Set<string>;

  constructor(
    private readonly run: Planned,
    log: RunEvent[],
  ) {
    this.numbers = numbersByPlan(run.plan, log);
    this.steps = new Map(run.steps.map((step) => [step.number, step]));
    this.slips = new Map(log.filter((event) => event.kind === "slip").map((event) => [event.id, event]));
    this.wetting = new Set(run.slips.flatMap((slip) => slip.rescues).flatMap((one) => (one.wets ? one.code : [])));
    const cards = Array.from({ length: run.cards }, () => ({
      laid: new Map<number, number>(),
      touched: new Map<number, Touched>(),
      handled: new Set<number>(),
    }));
    this.progress = { cards, pens: new Map(), here: new Map(), log: [], finished: false };
    for (const event of log) if (this.counts(event)) this.progress.log.push(event);
  }

  /** Passes that the line speaks of, as they are numbered in the plan that is followed now. */
  private passesOf(event: RunEvent): number[] {
    const numbers = this.numbers.get(event.plan) ?? new Map<number, number>();
    const passes = event.passes ?? [];
    const mine = numbers === "same" ? passes : passes.flatMap((number) => numbers.get(number) ?? []);
    return mine.filter((number) => this.steps.has(number));
  }

  /** Take one line in; false if it does not count. */
  private counts(event: RunEvent): boolean {
    const card = this.progress.cards[event.card - 1];
    if (!card || !this.numbers.has(event.plan)) return false;
    const current = event.plan === this.run.plan;
    const passes = this.passesOf(event);
    switch (event.kind) {
      case "laid":
      case "extra coat":
        if (current && passes.length < (event.passes ?? []).length) return false;
        for (const number of passes) this.lay(card, event, number);
        return true;
      case "handled": {
        const step = event.step ?? 0;
        if (current && step > this.run.handling.length) return false;
        if (current) card.handled.add(step);
        return true;
      }
      case "another pen":
        this.take(event, passes);
        return true;
      case "rescued": {
        const slip = this.slips.get(event.event ?? "");
        if (!slip) return false;
        if (this.wetting.has(event.rescue ?? "") && this.numbers.has(slip.plan))
          for (const number of this.passesOf(slip)) this.wet(card, number, event.at_s);
        return true;
      }
      case "finished":
        this.progress.finished = true;
        return true;
      default:
        return true;
    }
  }

  private lay(card: CardProgress, event: RunEvent, number: number) {
    if (event.kind === "laid") {
      // Ticked on two devices: laid once, when it was first said.
      if (card.laid.has(number)) return;
      card.laid.set(number, event.at_s);
    }
    this.wet(card, number, event.at_s);
  }

  private wet(card: CardProgress, number: number, at_s: number) {
    const step = this.steps.get(number);
    if (step && at_s >= (card.touched.get(step.region)?.at_s ?? 0))
      card.touched.set(step.region, { at_s, touch_dry_s: step.touch_dry_s, coat_dry_s: step.coat_dry_s });
  }

  private take(event: RunEvent, passes: number[]) {
    const pen = { code: event.code ?? "", name: event.name || (event.code ?? ""), hex: event.hex || null };
    for (const number of passes) this.progress.here.set(`${event.card}-${number}`, pen);
    if (event.passes?.length) return;
    for (const step of this.run.steps)
      if (step.swatch === event.instead_of && (!event.medium || event.medium === step.medium))
        this.progress.pens.set(penKey(step), pen);
  }
}

/** For every plan that the run ever followed, what its passes are in the plan that it follows now. */
function numbersByPlan(plan: string, log: RunEvent[]): Map<string, Numbers> {
  const numbers = new Map<string, Numbers>([[plan, "same"]]);
  for (const event of log.filter((one) => one.kind === "moved").reverse()) {
    const onwards = numbers.get(event.plan);
    if (!onwards || !event.from_plan || numbers.has(event.from_plan)) continue;
    const pairs = (event.pairs ?? []).flatMap(([from, to]): [number, number][] => {
      const now = to !== undefined && onwards !== "same" ? onwards.get(to) : to;
      return from !== undefined && now !== undefined ? [[from, now]] : [];
    });
    numbers.set(event.from_plan, new Map(pairs));
  }
  return numbers;
}

/** A swatch of the plan: drawers of two media may use the same codes. */
export function penKey({ medium, swatch }: Pick<RunStep, "medium" | "swatch">): string {
  return `${medium} ${swatch}`;
}

import type { RunReadout } from "@/shared/api";

/** How large a step is: one thing with one swatch, or all that a pen does before the next one is taken up. */
export type StepSize = "thing" | "pen";
/**
 * One thing to do: stints with one pen (their places), or a mask to lay or lift, on one card. `passes` are those it
 * ticks off.
 */
export type CourseStep = { key: string; card: number } & (
  { kind: "stint"; stints: number[]; passes: number[] } | { kind: "handling"; handling: number }
);

type Laying = Pick<RunReadout, "cards" | "lines" | "stints" | "handling" | "steps">;

/**
 * All there is to do, in order: every stretch of the plan on card after card, masks where the plan has them, and what
 * comes after the last pass once all cards are coloured.
 */
export function courseOf(run: Laying, size: StepSize = "thing"): CourseStep[] {
  const steps: CourseStep[] = [];
  const masks = (card: number, from: number, to: number) => {
    run.handling.forEach((one, place) => {
      if (one.before_pass >= from && one.before_pass <= to)
        steps.push({ kind: "handling", card, handling: place + 1, key: `${card}-mask-${place + 1}` });
    });
  };
  for (const line of run.lines) {
    for (let card = 1; card <= run.cards; card++) {
      let hand = 0;
      run.stints.forEach((stint, place) => {
        if (stint.first_pass < line.first_pass || stint.last_pass > line.last_pass) return;
        const passes = Array.from(
          { length: stint.last_pass - stint.first_pass + 1 },
          (_, more) => stint.first_pass + more,
        );
        const before = steps.at(-1);
        if (size === "pen" && hand === stint.hand && before?.kind === "stint") {
          before.stints.push(place);
          before.passes.push(...passes);
          return;
        }
        hand = stint.hand;
        masks(card, stint.first_pass, stint.last_pass);
        steps.push({ kind: "stint", card, stints: [place], passes, key: `${card}-${stint.first_pass}` });
      });
    }
  }
  for (let card = 1; card <= run.cards; card++) masks(card, run.steps.length + 1, Infinity);
  return steps;
}

import type { KeptRun } from "@/shared/api/runStore";
import { counted, swatchStyle } from "@/shared/ui";
import type { CourseStep, StepSize } from "./course";
import { beneathOf, clockOf } from "./progress";
import type { Progress } from "./replay";
import { chooseStepSize, useSeconds, useStepSize } from "./surroundings";
import { clockFace, tellStep, type StepWords } from "./words";

type ClockProps = { run: KeptRun["run"]; card: Progress["cards"][number]; step: CourseStep };

/** What is still wet, or how long a blend waits. Only this redraws every second. */
export function ClockFace({ run, card, step }: ClockProps) {
  const now = useSeconds();
  const clock = clockOf(run, card, step, now);
  if (!clock) return <p className="ml-auto text-[17px]">ready</p>;
  const late = clock.kind === "blend" && clock.left_s < 0;
  return (
    <p className="ml-auto text-right leading-tight" data-clock={clock.kind}>
      <span className="text-[16px]">{clock.words}</span>
      <br />
      <strong className="figure font-display text-[26px]">
        {late
          ? "has dried: soften the step"
          : clock.kind === "dry"
            ? `dry in ${clockFace(clock.left_s)}`
            : `still blends ${clockFace(clock.left_s)}`}
      </strong>
    </p>
  );
}

type HintProps = { run: KeptRun["run"]; progress: Progress; course: CourseStep[]; step: CourseStep };

/** What the trade would remind of now: at a pen's first pass, and at half time. */
export function Hint({ run, progress, course, step }: HintProps) {
  if (step.kind !== "stint") return null;
  const beneath = beneathOf(run, progress, step);
  if (beneath)
    return (
      <p role="status" className="mt-3 text-[17px]">
        Out of its order: {beneath} comes before it on the same place.
      </p>
    );
  const half = course[Math.floor(course.length / 2)];
  if (course.length > 12 && half?.key === step.key)
    return <p className="mt-3 text-[17px]">Half way: look at it in grey, or from a metre away, before you go on.</p>;
  const { swatch, medium } = run.steps[(step.passes[0] ?? 1) - 1] ?? {};
  const used = progress.cards.some((card) =>
    [...card.laid.keys()].some((number) => run.steps[number - 1]?.swatch === swatch),
  );
  if (used) return null;
  return (
    <p className="mt-3 text-[17px]">
      The first pass with it: try it on scrap. {medium === "pencil" ? "Is its point sharp?" : "Is it wet enough?"}
    </p>
  );
}

const MOST_LINES = 6;

/** All that one pen does now, in its order. */
export function StepLines({ told }: { told: StepWords }) {
  if (told.lines.length === 0) return null;
  const rest = told.lines.length - MOST_LINES;
  return (
    <ol aria-label="With this pen" className="mt-2 ml-7 list-decimal text-[18px] leading-snug">
      {told.lines.slice(0, MOST_LINES).map((line, place) => (
        <li key={place}>
          <strong>{line.where}</strong>
          {line.swatch !== told.lines[0]?.swatch && `, ${line.swatch}`}
          {line.how !== told.lines[place - 1]?.how && place > 0 && `, ${line.how}`}
        </li>
      ))}
      {rest > 0 && <li>{counted(rest, "more, lit on the card", "more, lit on the card")}</li>}
    </ol>
  );
}

/** How much one press ticks off. */
export function StepSizeChoice() {
  const size = useStepSize();
  return (
    <label className="flex min-h-12 items-center gap-2">
      Step
      <select
        className="min-h-10 rounded border border-soft bg-sheet px-2"
        value={size}
        onChange={(event) => chooseStepSize(event.target.value as StepSize)}
      >
        <option value="thing">thing by thing</option>
        <option value="pen">pen by pen</option>
      </select>
    </label>
  );
}

/** The next two steps. */
export function NextLine({ run, progress, steps }: { run: KeptRun["run"]; progress: Progress; steps: CourseStep[] }) {
  const told = steps.slice(0, 2).map((step) => ({ step, ...tellStep(run, progress, step) }));
  if (told.length === 0) return null;
  return (
    <ol aria-label="Then" className="mt-4 flex flex-wrap items-center gap-x-5 gap-y-2 text-[17px]">
      {told.map(({ step, title, hex, where }, place) => (
        <li key={step.key} className="flex items-center gap-2">
          {place === 0 && <span>then</span>}
          {hex && <span className="h-9 w-14 rounded bg-(--swatch) shadow-sm" style={swatchStyle(hex)} aria-hidden />}
          <span>
            <strong>{title}</strong>
            <span className="block text-[15px]">
              {where.split(":")[0]}
              {run.cards > 1 && `, card ${step.card}`}
            </span>
          </span>
        </li>
      ))}
    </ol>
  );
}

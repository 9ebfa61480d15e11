import { useQuery } from "@tanstack/react-query";

import { api, type RunChoice, type RunReadout } from "@/shared/api";
import { Button } from "@/shared/ui";
import type { CourseStep } from "./course";
import { clockOf } from "./progress";
import type { CardProgress, Progress } from "./replay";
import { useSeconds } from "./surroundings";

type Props = {
  run: RunReadout;
  online: boolean;
  card: CardProgress;
  current: CourseStep;
  course: CourseStep[];
  progress: Progress;
  onPick: (step: CourseStep) => void;
};

const SHOWN = 2;
/** A shorter wait is not worth another pen. */
const WORTH_S = 8;

/** While the paper dries: what may be laid now instead, by the server's word. */
export function Meanwhile({ run, online, card, current, course, progress, onPick }: Props) {
  const clock = clockOf(run, card, current, useSeconds());
  const waiting = clock?.kind === "dry" && clock.left_s > WORTH_S;
  const choices = useQuery({
    queryKey: ["runs", run.id, "choices", progress.log.length] as const,
    queryFn: ({ signal }) =>
      api.get<RunChoice[]>(`/runs/${run.id}/choices/?now=${(Date.now() / 1000).toFixed(1)}`, { signal }),
    enabled: waiting && online,
    staleTime: 5_000,
  });
  if (!waiting || !choices.data) return null;
  const offers = choices.data
    .flatMap((choice) => {
      const step = course.find(
        (one) =>
          one.card === choice.card &&
          (one.kind === "stint"
            ? choice.kind === "pass" && one.passes.includes(choice.number)
            : choice.kind !== "pass" && one.handling === choice.number),
      );
      return step && step.key !== current.key ? [{ choice, step }] : [];
    })
    .slice(0, SHOWN);
  if (offers.length === 0) return null;
  return (
    <div className="mt-4 text-[16px]" role="group" aria-label="While this dries">
      <p>While this dries you could</p>
      <div className="mt-1 flex flex-wrap gap-2">
        {offers.map(({ choice, step }) => (
          <Button key={step.key} kind="bar" className="min-h-12" onClick={() => onPick(step)}>
            {choice.swatch_name ? `${choice.swatch_name} on ${choice.name}` : choice.name}
            {run.cards > 1 && `, card ${choice.card}`}
          </Button>
        ))}
      </div>
    </div>
  );
}

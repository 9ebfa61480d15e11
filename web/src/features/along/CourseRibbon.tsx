import { useEffect, useRef } from "react";

import type { RunReadout } from "@/shared/api";
import { swatchStyle } from "@/shared/ui";
import type { CourseStep } from "./course";
import { isDone } from "./progress";
import type { Progress } from "./replay";
import { tellStep } from "./words";

type Props = {
  run: RunReadout;
  course: CourseStep[];
  progress: Progress;
  current: CourseStep;
  onPick: (step: CourseStep) => void;
};

const AROUND = 60;

/** What is done and what is to come, as chips; a chip that is not done can be taken up. */
export function CourseRibbon({ run, course, progress, current, onPick }: Props) {
  const band = useRef<HTMLOListElement>(null);
  const place = course.findIndex((step) => step.key === current.key);
  useEffect(() => {
    band.current?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest", inline: "center" });
  }, [place]);
  // A batch has thousands of steps: only those around the one in hand are drawn.
  const from = Math.max(0, place - AROUND);
  const shown = course.slice(from, place + AROUND);
  return (
    <nav aria-label="The course" className="on-dark hidden h-[4.9rem] shrink-0 bg-ink p-3 md:block">
      <ol ref={band} className="flex h-full gap-1 overflow-x-auto p-0.5">
        {shown.map((step) => {
          const told = tellStep(run, progress, step);
          const done = isDone(progress, step);
          const here = step.key === current.key;
          const words = `${told.title}${told.where && ` on ${told.where}`}${run.cards > 1 ? `, card ${step.card}` : ""}`;
          return (
            <li key={step.key} className="h-full shrink-0">
              <button
                type="button"
                tabIndex={here ? 0 : -1}
                disabled={done}
                aria-current={here ? "step" : undefined}
                aria-label={done ? `${words}, done` : words}
                title={words}
                onClick={() => onPick(step)}
                className={`h-full w-12 rounded-sm ${done ? "opacity-35" : ""} ${here ? "outline-3 outline-sheet outline-offset-1" : ""} ${step.kind === "handling" ? "border-2 border-dashed border-sheet" : "bg-(--swatch)"}`}
                style={told.hex ? swatchStyle(told.hex) : step.kind === "stint" ? swatchStyle("#8a8a8a") : undefined}
              />
            </li>
          );
        })}
      </ol>
    </nav>
  );
}

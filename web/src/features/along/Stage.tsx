import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";

import { Ask, Button, swatchStyle, tell, useSingleKeys } from "@/shared/ui";
import { AnotherPenAsk } from "./AnotherPenAsk";
import { CourseRibbon } from "./CourseRibbon";
import type { CourseStep } from "./course";
import { LitPicture } from "./LitPicture";
import { Meanwhile } from "./Meanwhile";
import { MoveAsk } from "./MoveAsk";
import { NoteAsk } from "./NoteAsk";
import { isDone, lastDone, nextUp } from "./progress";
import type { Progress } from "./replay";
import { SlipAsk } from "./SlipAsk";
import { ClockFace, Hint, NextLine, StepLines, StepSizeChoice } from "./StageParts";
import type { KeptRun } from "@/shared/api/runStore";
import { turnAloud, useAloud, useAloudOn } from "./surroundings";
import { UnsentLine } from "./Unsent";
import type { SyncedRun } from "./useRunSync";
import { namesOf, tellStep } from "./words";

type Asking = "pen" | "slip" | "note" | "move" | "end" | null;
const SHOWN_NEXT = 3;
const NONE: number[] = [];
const ACTION = "min-h-12 px-2 text-[16px] leading-tight";

/** While colouring: the stint in hand, very large; what comes next; what is wet. */
export function Stage({ at, kept }: { at: SyncedRun & { progress: Progress }; kept: KeptRun }) {
  const { sync, state, course, progress } = at;
  const run = kept.run;
  const [picked, setPicked] = useState<CourseStep | null>(null);
  const [asking, setAsking] = useState<Asking>(null);
  const busy = useRef(false);
  const following = nextUp(progress, course, SHOWN_NEXT);
  const step = picked && !isDone(progress, picked) ? picked : following[0];
  const told = step ? tellStep(run, progress, step) : null;
  const here = progress.cards[(step?.card ?? 1) - 1];
  /** What of the step is not laid yet: it may have been begun in smaller steps. */
  const open = step?.kind === "stint" ? step.passes.filter((number) => !here?.laid.has(number)) : NONE;
  const aloud = useAloudOn();
  useAloud(told ? `${told.title}. ${told.where}. ${told.how}.` : "");

  /** A pedal that bounces must not tick off two stints. */
  async function write(work: () => Promise<unknown>) {
    if (busy.current) return;
    busy.current = true;
    try {
      await work();
    } finally {
      busy.current = false;
    }
  }
  function done() {
    if (!step) return;
    setPicked(null);
    void write(() =>
      step.kind === "handling"
        ? sync.write({ kind: "handled", card: step.card, step: step.handling })
        : sync.write({ kind: "laid", card: step.card, passes: open }),
    );
  }
  const last = lastDone(progress);
  function back() {
    setPicked(null);
    if (last) void write(() => sync.write({ kind: "undone", card: last.card, event: last.id }));
  }
  // Space on a button presses that button; anywhere else it is the big one.
  useSingleKeys((key) => {
    if (asking) return;
    if (key === "PageDown" || (key === " " && !document.activeElement?.matches("button, a, input"))) done();
    if (key === "PageUp") back();
  });
  const doneButton = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!asking) doneButton.current?.focus();
  }, [asking]);
  /** A dialog gives the focus back to what had it before: the big button, or Space would open the dialog again. */
  function ask(what: Asking) {
    doneButton.current?.focus();
    setAsking(what);
  }
  function coatAgain() {
    const passes = last?.passes ?? [];
    if (!last || passes.length === 0) return;
    void write(async () => {
      await sync.write({ kind: "extra coat", card: last.card, passes });
      tell(`One more coat: ${namesOf(run, passes)}. Back takes it away.`);
    });
  }

  const card = here;
  if (!step || !told || !card) return null;
  const total = run.steps.length;
  const number = step.kind === "stint" ? (step.passes[0] ?? 1) : card.laid.size;
  const lastNumber = step.kind === "stint" ? (step.passes.at(-1) ?? 1) : number;

  return (
    <>
      <main className="grid grow grid-rows-[minmax(0,36dvh)_auto] gap-4 p-3 sm:p-6 md:grid-cols-[minmax(0,5fr)_minmax(0,7fr)] md:grid-rows-1 md:gap-8 md:pb-4">
        <div className="grid min-h-0 min-w-0 place-items-center md:h-[calc(100dvh-8.8rem)]">
          <LitPicture
            kept={kept}
            passes={step.kind === "stint" ? step.passes : NONE}
            touched={card.touched}
            words={`${told.where}, lit on the card`}
          />
        </div>
        <div className="flex min-w-0 flex-col">
          <div className="flex flex-wrap items-start justify-between gap-x-6">
            <h1 className="sr-only">Colouring along: {run.title}</h1>
            <p className="figure text-[17px] font-bold text-ink/80">
              {lastNumber > number ? `Passes ${number}–${lastNumber}` : `Pass ${number}`} of {total}
              {run.cards > 1 && `, card ${step.card} of ${run.cards}`}
            </p>
            <ClockFace run={run} card={card} step={step} />
          </div>
          <div aria-live="polite">
            <p
              data-swatch
              className="font-display text-[clamp(2.4rem,5.2vw,4.2rem)] font-extrabold leading-[1.05] tracking-tight"
            >
              {told.title}
            </p>
            {told.hex && (
              <div
                className="mt-3 flex h-[clamp(3rem,7dvh,8rem)] md:h-[clamp(3.5rem,13dvh,8rem)] rounded bg-(--swatch) shadow"
                style={swatchStyle(told.hex)}
                aria-hidden
              />
            )}
            {told.instead && <p className="mt-3 text-[17px]">instead of {told.instead}, as you chose</p>}
            <p className="mt-3 text-[clamp(1.25rem,2vw,1.6rem)] leading-snug">
              {told.lines.length === 0 && told.where && <strong>{told.where}. </strong>}
              {told.how.charAt(0).toUpperCase() + told.how.slice(1)}.
            </p>
            <StepLines told={told} />
          </div>
          <Hint run={run} progress={progress} course={course} step={step} />
          <NextLine run={run} progress={progress} steps={following.filter((one) => one.key !== step.key)} />
          <Meanwhile
            run={run}
            online={state.online}
            card={card}
            current={step}
            course={course}
            progress={progress}
            onPick={setPicked}
          />
          <div className="mt-auto mb-1 min-h-6 pt-4 text-[15px]">
            <UnsentLine state={state} sync={sync} />
          </div>
          <div className="mb-3 grid grid-cols-2 max-md:order-2 max-md:mt-3 gap-2.5 sm:grid-cols-3 lg:grid-cols-5">
            <Button kind="bar" className={ACTION} onClick={back} disabled={!last}>
              Back <span className="pointer-coarse:hidden">(Page Up)</span>
            </Button>
            <Button kind="bar" className={ACTION} onClick={() => ask("pen")} disabled={step.kind !== "stint"}>
              Another pen
            </Button>
            <Button kind="bar" className={ACTION} disabled={!last?.passes?.length} onClick={coatAgain}>
              One more coat
            </Button>
            <Button kind="bar" className={ACTION} onClick={() => ask("slip")}>
              A slip
            </Button>
            <Button kind="bar" className={ACTION} onClick={() => ask("note")}>
              Note or photo
            </Button>
          </div>
          <Button
            ref={doneButton}
            kind="main"
            className="sticky bottom-2 z-10 min-h-16 shrink-0 max-md:order-1 w-full text-[22px] font-bold md:static"
            onClick={done}
            autoFocus
          >
            Done, next <span className="pointer-coarse:hidden">(Space)</span>
          </Button>
          <div className="mt-2 flex flex-wrap items-center justify-between gap-x-4 text-[15px] max-md:order-3">
            <StepSizeChoice />
            <label className="flex min-h-12 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-ink"
                checked={aloud}
                onChange={(event) => turnAloud(event.target.checked)}
              />
              Read aloud
            </label>
            {state.online && (run.newest_recipe ?? 0) > (run.recipe_number ?? 0) && (
              <Button kind="quiet" className="min-h-12" onClick={() => ask("move")}>
                Version {run.newest_recipe} is newer
              </Button>
            )}
            <Button kind="quiet" className="min-h-12" onClick={() => ask("end")}>
              Call it finished
            </Button>
            <Link
              to={`/pieces/${run.piece_id}`}
              className="grid min-h-12 place-items-center underline underline-offset-4"
            >
              Stop for now
            </Link>
          </div>
        </div>
      </main>
      <CourseRibbon run={run} course={course} progress={progress} current={step} onPick={setPicked} />
      {step.kind === "stint" && (
        <AnotherPenAsk
          key={step.key}
          open={asking === "pen"}
          onClose={() => setAsking(null)}
          run={run}
          step={step}
          onTake={(pens) =>
            void write(async () => {
              for (const pen of pens) await sync.write({ kind: "another pen", card: step.card, ...pen });
            })
          }
        />
      )}
      <SlipAsk
        open={asking === "slip"}
        onClose={() => setAsking(null)}
        run={run}
        last={last}
        onSlip={(slip, rescue) =>
          void write(async () => {
            const where = { card: last?.card ?? step.card };
            const id = await sync.write({ kind: "slip", ...where, slip, passes: last?.passes ?? [] });
            if (rescue && id) await sync.write({ kind: "rescued", ...where, event: id, rescue });
          })
        }
      />
      <MoveAsk open={asking === "move"} onClose={() => setAsking(null)} run={run} sync={sync} />
      <Ask open={asking === "end"} onClose={() => setAsking(null)} title="Call it finished?">
        <p className="mb-5">What is not laid is left out, and the record says so.</p>
        <div className="flex justify-end gap-3 [&>*]:min-h-12">
          <Button onClick={() => setAsking(null)}>Go on colouring</Button>
          <Button kind="main" onClick={() => void write(() => sync.write({ kind: "finished" }))}>
            It is finished
          </Button>
        </div>
      </Ask>
      <NoteAsk
        open={asking === "note"}
        onClose={() => setAsking(null)}
        onNote={(text) => void write(() => sync.write({ kind: "noted", card: step.card, text }))}
        onPhoto={(file, text) => void write(() => sync.writePhoto(file, step.card, text))}
      />
    </>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { Link } from "react-router";

import { LIMITS, pieceQueries, type Plan } from "@/shared/api";
import { Button, minutes, timesFrom } from "@/shared/ui";
import { useForgetRun, useLogRun } from "../api";
import { usePiece } from "../bench";

/** How long the card took, each time it was made: the times that Paleta plans with from then on. */
export function RunsBox({ plan }: { plan: Plan | undefined }) {
  const piece = usePiece();
  const runs = useQuery(pieceQueries.runs(piece.id));
  const logRun = useLogRun(piece.id);
  const forget = useForgetRun(piece.id);
  const [took, setTook] = useState("");
  const [note, setNote] = useState("");
  const ready = Number(took) > 0 && (plan?.passes.length ?? 0) > 0;

  function log(event: FormEvent) {
    event.preventDefault();
    if (ready)
      logRun.mutate(
        { minutes: Number(took), note },
        {
          onSuccess: () => {
            setTook("");
            setNote("");
          },
        },
      );
  }

  return (
    <section aria-label="Times" className="mb-4 border-t border-line pt-3">
      <p className="mb-3">
        <Link to={`/pieces/${piece.id}/photo-check`} className="underline underline-offset-4">
          Check a card by photo, or stamp it again
        </Link>
      </p>
      <form onSubmit={log} className="flex flex-wrap items-end gap-3">
        <label>
          Colouring took
          <span className="flex items-center gap-2">
            <input
              className="field w-20"
              type="number"
              min={LIMITS.RunFormRequest.minutes.minimum}
              max={LIMITS.RunFormRequest.minutes.maximum}
              step="any"
              value={took}
              onChange={(event) => setTook(event.target.value)}
            />
            minutes
          </span>
        </label>
        <label className="grow">
          What to change next time
          <input
            className="field w-full"
            maxLength={LIMITS.RunFormRequest.note.maxLength}
            value={note}
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        <Button type="submit" disabled={!ready || logRun.isPending}>
          Note it
        </Button>
      </form>
      {plan && plan.passes.length > 0 && (
        <p className="mt-1 text-[13px] text-soft">
          Planned: about {minutes(plan.duration_s)}, {timesFrom(plan)}.
        </p>
      )}
      {plan?.passes.length === 0 && (
        <p className="mt-1 text-[13px] text-soft">Once regions have colours, the time they took can be noted here.</p>
      )}
      {runs.error && <p role="alert">{runs.error.message}</p>}
      {runs.data && runs.data.length > 0 && (
        <ol aria-label="Times noted" className="mt-2">
          {runs.data.map((run) => (
            <li key={run.id} className="flex items-baseline gap-3 border-t border-faint py-1">
              <span>{new Date(run.made_at).toLocaleDateString()}</span>
              <span className="grow">
                <strong>{minutes(run.seconds)}</strong>
                {typeof run.planned_s === "number" && `, planned ${minutes(run.planned_s)}`}
                {run.note && <span className="block text-[13px] text-soft">{run.note}</span>}
              </span>
              <Button
                kind="quiet"
                onClick={() => forget.mutate(run.id)}
                aria-label={`Forget the time of ${minutes(run.seconds)}`}
              >
                Forget
              </Button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { LIMITS, runQueries, useStartRun } from "@/shared/api";
import { Button, counted } from "@/shared/ui";
import { usePiece } from "../bench";

/** From the plan to the card: start to colour along, or go on with what was begun. */
export function AlongBox({ ready }: { ready: boolean }) {
  const piece = usePiece();
  const [cards, setCards] = useState(1);
  const start = useStartRun(piece);
  const navigate = useNavigate();
  const open = useQuery(runQueries.list({ piece: piece.id, open: true })).data?.results ?? [];
  const begun = open.filter((run) => run.passes_laid > 0);
  return (
    <section aria-label="Colour along" className="mb-3 rounded border border-ink p-3">
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex items-center gap-2">
          Cards
          <input
            type="number"
            min={LIMITS.StartRunRequest.cards.minimum}
            max={LIMITS.StartRunRequest.cards.maximum}
            className="field w-16"
            value={cards}
            onChange={(event) =>
              setCards(Math.min(LIMITS.StartRunRequest.cards.maximum, Math.max(1, Number(event.target.value) || 1)))
            }
          />
        </label>
        <Button
          kind="main"
          className="grow py-2"
          busy={start.isPending}
          disabled={!ready}
          onClick={() => start.mutate(cards, { onSuccess: (run) => void navigate(`/runs/${run.id}`) })}
        >
          Colour along
        </Button>
      </div>
      <p className="mt-1 text-[13px] text-soft">
        {piece.changed_since_recipe
          ? "The sheet is kept as a version first; every pass is logged."
          : `Along version ${piece.latest_recipe}; every pass is logged.`}{" "}
        <Link to={`/logbook?piece=${piece.id}`} className="underline underline-offset-4">
          Logbook of this piece
        </Link>
      </p>
      {begun.map((run) => (
        <p key={run.id} className="mt-2">
          <Link to={`/runs/${run.id}`} className="font-bold underline underline-offset-4">
            Go on
          </Link>{" "}
          with version {run.recipe_number}: {run.passes_laid} of {counted(run.passes, "pass", "passes")} laid
          {run.cards > 1 && ` on ${run.cards} cards`}
        </p>
      ))}
    </section>
  );
}

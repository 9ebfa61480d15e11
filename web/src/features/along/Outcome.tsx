import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { api, runQueries } from "@/shared/api";
import { Button, counted, MakingList, minutes, tell } from "@/shared/ui";
import { NoteAsk } from "./NoteAsk";
import { lastDone } from "./progress";
import type { Progress } from "./replay";
import type { KeptRun } from "@/shared/api/runStore";
import { UnsentLine } from "./Unsent";
import type { SyncedRun } from "./useRunSync";

type Kept = { number: number; changes: string[] };

/** After the last pass: the time beside the plan, what differed, and what of it is kept. */
export function Outcome({ at, kept }: { at: SyncedRun & { progress: Progress }; kept: KeptRun }) {
  const { sync, state, progress } = at;
  const run = kept.run;
  const [noting, setNoting] = useState(false);
  const navigate = useNavigate();
  const sent = state.unsent.length === 0;
  const detail = useQuery({ ...runQueries.detail(run.id, progress.log.length), enabled: sent && state.online });
  const keep = useMutation({
    mutationFn: () => api.post<Kept>(`/runs/${run.id}/keep/`),
    onSuccess: ({ number }) => {
      tell(`Kept as version ${number}.`);
      void navigate(`/pieces/${run.piece_id}`);
    },
  });
  const last = lastDone(progress);
  const done = detail.data;
  const photos = progress.log.filter((event) => event.kind === "photographed");
  return (
    <main className="mx-auto w-full max-w-[860px] grow px-4 py-6">
      <div className="rounded-sm bg-sheet p-5 shadow-xl sm:p-8">
        <h1 className="text-3xl">{run.cards > 1 ? `${run.cards} cards are coloured` : "The card is coloured"}</h1>
        <p className="mb-4 text-soft">
          {run.title}, version {run.recipe_number}
        </p>
        <UnsentLine state={state} sync={sync} />
        {done?.seconds ? (
          <p className="mb-4 text-xl">
            <strong>{minutes(done.seconds)}</strong>, planned {minutes(done.planned_s ?? 0)}.
          </p>
        ) : (
          <p className="mb-4">
            {done
              ? "Nothing was laid, so no time is counted."
              : state.online
                ? "Adding up …"
                : "The sum follows once Paleta answers again."}
          </p>
        )}
        {done && (
          <>
            <h2 className="mb-1 text-lg">What differed from the plan</h2>
            {done.differed.length === 0 ? (
              <p className="mb-4">Nothing. It was coloured as planned.</p>
            ) : (
              <ul className="mb-4 ml-5 list-disc" aria-label="What differed">
                {done.differed.map((one, place) => (
                  <li key={place}>{one.sentence}</li>
                ))}
              </ul>
            )}
          </>
        )}
        {run.after.length > 0 && (
          <>
            <h2 className="mb-1 text-lg">Still to do</h2>
            <ol className="mb-4 ml-5 list-decimal">
              {run.after.map((one) => (
                <li key={one.code}>
                  {one.wait_s > 0 && `Wait ${minutes(one.wait_s)}. `}
                  {one.name}: {one.how}. {one.caution}
                </li>
              ))}
            </ol>
          </>
        )}
        {run.making.length > 0 && (
          <div className="mb-4">
            <MakingList steps={run.making} />
          </div>
        )}
        {photos.length > 0 && (
          <ul className="mb-4 flex flex-wrap gap-2" aria-label="Photos">
            {photos.map((photo) => (
              <li key={photo.id}>
                <img
                  src={api.url(`/runs/${run.id}/photos/${photo.sha256}/`)}
                  alt={photo.text || `Card ${photo.card}`}
                  className="h-40 border border-line"
                />
              </li>
            ))}
          </ul>
        )}
        <div className="flex flex-wrap gap-3 [&>*]:min-h-12">
          <Button kind="main" onClick={() => setNoting(true)}>
            Photo of the card, or a note
          </Button>
          {done?.differed.some((one) => one.lays || one.kind === "pen") && (
            <Button busy={keep.isPending} onClick={() => keep.mutate()}>
              Keep what I did as version {(done.newest_recipe ?? 0) + 1}
            </Button>
          )}
          {last && (
            <Button onClick={() => void sync.write({ kind: "undone", card: last.card, event: last.id })}>
              {last.kind === "finished" ? "It is not finished" : "Back one pass"}
            </Button>
          )}
          <Link to="/logbook" className="grid place-items-center px-2 underline underline-offset-4">
            To the logbook
          </Link>
          <Link
            to={`/pieces/${run.piece_id}/photo-check?run=${run.id}`}
            className="grid place-items-center px-2 underline underline-offset-4"
          >
            Check a card by photo
          </Link>
          <Link to={`/pieces/${run.piece_id}`} className="grid place-items-center px-2 underline underline-offset-4">
            To the bench
          </Link>
        </div>
        {done && <p className="mt-4 text-[13px] text-soft">{counted(progress.log.length, "line")} in the log.</p>}
      </div>
      <NoteAsk
        open={noting}
        onClose={() => setNoting(false)}
        onNote={(text) => void sync.write({ kind: "noted", text })}
        onPhoto={(file, text) => void sync.writePhoto(file, 1, text)}
      />
    </main>
  );
}

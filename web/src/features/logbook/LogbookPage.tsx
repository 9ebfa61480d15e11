import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link, useSearchParams } from "react-router";

import { api, tradeQuery, type Page, type RunLine } from "@/shared/api";
import { Ask, Button, counted, Failed, minutes, Waiting } from "@/shared/ui";
import { SideBySide } from "./SideBySide";

const MOST_BESIDE = 4;

/** Every time something was coloured, newest first; two to four of them side by side. */
export function LogbookPage() {
  const [search, setSearch] = useSearchParams();
  const piece = search.get("piece") ?? "";
  const version = search.get("version") ?? "";
  const [medium, setMedium] = useState("");
  const [swatch, setSwatch] = useState("");
  const [beside, setBeside] = useState<number[]>([]);
  const [shown, setShown] = useState(false);
  const [doomed, setDoomed] = useState<RunLine | null>(null);
  const filter = useDeferredValue(new URLSearchParams({ piece, version, medium, swatch: swatch.trim() }).toString());
  const media = useQuery(tradeQuery).data?.media ?? [];
  const client = useQueryClient();
  const logbook = useInfiniteQuery({
    queryKey: ["runs", "logbook", filter] as const,
    queryFn: ({ signal, pageParam }) => {
      const asked = new URLSearchParams(filter);
      for (const [name, value] of [...asked]) if (!value) asked.delete(name);
      return api.get<Page<RunLine>>(`/runs/?${asked}&page=${pageParam}`, { signal });
    },
    initialPageParam: 1,
    getNextPageParam: (last: Page<RunLine>, _all, at: number) => (last.next ? at + 1 : undefined),
  });
  const forget = useMutation({
    mutationFn: (id: number) => api.delete(`/runs/${id}/`),
    onSettled: () => {
      setDoomed(null);
      void client.invalidateQueries({ queryKey: ["runs"] });
    },
  });
  const runs = logbook.data?.pages.flatMap((page) => page.results);
  const count = logbook.data?.pages[0]?.count ?? 0;
  const filtered = Boolean(piece || version || medium || swatch.trim());
  function tick(id: number, on: boolean) {
    setBeside(on ? [...beside, id].slice(-MOST_BESIDE) : beside.filter((one) => one !== id));
  }
  return (
    <div className="mx-auto flex w-full max-w-[1180px] grow flex-col px-5 pb-10 pt-2">
      <div className="mb-3 flex flex-wrap items-end gap-x-5 gap-y-2">
        <h1 className="text-[26px]">Logbook</h1>
        <p className="grow pb-1">{runs && counted(count, "run")}</p>
        <label>
          Medium
          <select className="field mt-0.5" value={medium} onChange={(event) => setMedium(event.target.value)}>
            <option value="">any</option>
            {media.map((one) => (
              <option key={one.code} value={one.code}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label>
          With the swatch
          <input
            type="search"
            className="field mt-0.5"
            maxLength={60}
            value={swatch}
            onChange={(event) => setSwatch(event.target.value)}
          />
        </label>
        {(piece || version) && (
          <Button kind="bar" onClick={() => setSearch({})}>
            Runs of every piece
          </Button>
        )}
        <Button kind="main" disabled={beside.length < 2} onClick={() => setShown(true)}>
          Side by side{beside.length > 1 && ` (${beside.length})`}
        </Button>
      </div>
      {shown && (
        <SideBySide onClose={() => setShown(false)} runs={(runs ?? []).filter((run) => beside.includes(run.id))} />
      )}
      {!shown && runs && runs.length > 0 && (
        <table className="w-full bg-sheet shadow">
          <thead>
            <tr className="border-b border-ink text-left text-[13px] text-soft [&>th]:px-2 [&>th]:py-1.5 [&>th]:font-normal">
              <th>Beside</th>
              <th>Card</th>
              <th>When</th>
              <th>Took</th>
              <th>Planned</th>
              <th>What differed</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {runs.map((run) => (
              <Row
                key={run.id}
                run={run}
                ticked={beside.includes(run.id)}
                onTick={(on) => tick(run.id, on)}
                onForget={() => setDoomed(run)}
              />
            ))}
          </tbody>
        </table>
      )}
      {runs?.length === 0 && (
        <p className="m-auto max-w-md rounded-sm bg-sheet p-8 text-center shadow-lg">
          {filtered
            ? "No run is like that."
            : "Nothing has been coloured along yet. Open a piece, section Order, and press Colour along."}
        </p>
      )}
      {!runs && logbook.isError && <Failed error={logbook.error} onRetry={() => void logbook.refetch()} />}
      {!runs && !logbook.isError && <Waiting what="Opening the logbook" />}
      {!shown && logbook.hasNextPage && (
        <Button
          kind="bar"
          className="mx-auto mt-6"
          busy={logbook.isFetchingNextPage}
          onClick={() => void logbook.fetchNextPage()}
        >
          Show more
        </Button>
      )}
      <Ask open={doomed !== null} onClose={() => setDoomed(null)} title="Forget this run?">
        <p className="mb-5">Its log, its photos and the times it taught go for good.</p>
        <div className="flex justify-end gap-3">
          <Button onClick={() => setDoomed(null)}>Keep it</Button>
          <Button kind="main" busy={forget.isPending} onClick={() => doomed && forget.mutate(doomed.id)}>
            Forget it
          </Button>
        </div>
      </Ask>
    </div>
  );
}

type RowProps = { run: RunLine; ticked: boolean; onTick: (on: boolean) => void; onForget: () => void };

function Row({ run, ticked, onTick, onForget }: RowProps) {
  const name = `${run.title || "A piece no longer on the shelf"}${run.recipe_number ? `, version ${run.recipe_number}` : ""}`;
  return (
    <tr className="border-b border-line align-top [&>td]:px-2 [&>td]:py-2">
      <td>
        {run.along && (
          <label className="grid min-h-6 min-w-6 place-items-center">
            <input
              type="checkbox"
              className="size-5 accent-ink"
              checked={ticked}
              onChange={(event) => onTick(event.target.checked)}
              aria-label={`Put ${name} beside others`}
            />
          </label>
        )}
      </td>
      <td>
        <span className="flex gap-3">
          {run.photo && (
            <img
              src={api.url(`/runs/${run.id}/photos/${run.photo}/`)}
              alt=""
              className="h-14 w-12 border border-line object-cover"
            />
          )}
          <span>
            {run.piece_id && run.recipe_number ? (
              <Link
                to={`/logbook?piece=${run.piece_id}&version=${run.recipe_number}`}
                className="font-bold hover:underline"
                title="Only runs of this version"
              >
                {name}
              </Link>
            ) : (
              <strong>{name}</strong>
            )}
            {run.cards > 1 && <span className="block text-[13px]">{run.cards} cards</span>}
            {!run.along && <span className="block text-[13px] text-soft">noted by the clock</span>}
          </span>
        </span>
      </td>
      <td className="whitespace-nowrap">{new Date(run.made_at).toLocaleDateString()}</td>
      <td className="whitespace-nowrap">
        {run.seconds ? <strong>{minutes(run.seconds)}</strong> : `${run.passes_laid} of ${run.passes} passes`}
      </td>
      <td className="whitespace-nowrap">{run.planned_s ? minutes(run.planned_s) : ""}</td>
      <td className="text-[14px]">
        {run.differed.slice(0, 2).map((one, place) => (
          <span key={place} className="block">
            {one.sentence}
          </span>
        ))}
        {run.differed.length > 2 && <span className="text-soft">and {run.differed.length - 2} more</span>}
        {run.note && <span className="block">{run.note}</span>}
      </td>
      <td className="whitespace-nowrap text-right">
        {run.along && run.piece_id !== null && (
          <Link to={`/runs/${run.id}`} className="mr-3 underline underline-offset-4">
            {run.open ? "Go on" : "Look"}
          </Link>
        )}
        {run.along && run.piece_id !== null && (
          <Link to={`/pieces/${run.piece_id}/photo-check?run=${run.id}`} className="mr-3 underline underline-offset-4">
            Check a card
          </Link>
        )}
        <Button kind="quiet" onClick={onForget} aria-label={`Forget the run of ${name}`}>
          Forget
        </Button>
      </td>
    </tr>
  );
}

import { useQueries, useQuery } from "@tanstack/react-query";

import { Link } from "react-router";

import { api, checksOfPiece, runQueries, type RunLine, type RunReadout } from "@/shared/api";
import { Button, minutes, swatchStyle, ThingStrip } from "@/shared/ui";

type Props = { onClose: () => void; runs: RunLine[] };

/** Two to four runs beside each other: photos, times stint by stint, what differed, what was noted. */
export function SideBySide({ onClose, runs }: Props) {
  const details = useQueries({
    queries: runs.map((run) => runQueries.detail(run.id)),
  });
  const ready = details.flatMap((one) => one.data ?? []);
  const failed = details.find((one) => one.error)?.error;
  return (
    <section aria-label="Side by side" className="rounded-sm bg-sheet p-5 shadow">
      <div className="mb-3 flex items-baseline justify-between">
        <h2 className="text-xl">Side by side</h2>
        <Button onClick={onClose}>Back to the list</Button>
      </div>
      {failed && <p role="alert">{failed.message}</p>}
      {!failed && ready.length < runs.length && <p role="status">Fetching …</p>}
      {ready.length === runs.length && ready.length > 0 && <Table runs={ready} />}
    </section>
  );
}

type StintLine = { key: string; name: string; hex: string; times: (number | null)[] };

function Table({ runs }: { runs: RunReadout[] }) {
  const lines = stintLines(runs);
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-[14px] [&_td]:border-b [&_td]:border-line [&_td]:px-2 [&_td]:py-1 [&_td]:align-top [&_th]:border-b [&_th]:border-line [&_th]:px-2 [&_th]:text-left [&_th]:align-top">
        <thead>
          <tr>
            <th />
            {runs.map((run) => (
              <th key={run.id} scope="col">
                {run.title}, version {run.recipe_number}
                <span className="block font-normal text-soft">{new Date(run.made_at).toLocaleDateString()}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">Photo</th>
            {runs.map((run) => (
              <td key={run.id}>
                {run.photo ? (
                  <img
                    src={api.url(`/runs/${run.id}/photos/${run.photo}/`)}
                    alt={`${run.title}, ${new Date(run.made_at).toLocaleDateString()}`}
                    className="max-h-72 border border-line"
                  />
                ) : (
                  "none"
                )}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">Cards checked</th>
            {runs.map((run) => (
              <td key={run.id}>
                <Checked run={run} />
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">Took, planned</th>
            {runs.map((run) => (
              <td key={run.id}>
                <strong>{run.seconds ? minutes(run.seconds) : "not finished"}</strong>, {minutes(run.planned_s ?? 0)}
                {run.cards > 1 && ` for ${run.cards} cards`}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">Differed</th>
            {runs.map((run) => (
              <td key={run.id}>
                {run.differed.length === 0 && "nothing"}
                {run.differed.map((one, place) => (
                  <span key={place} className="block">
                    {one.sentence}
                  </span>
                ))}
              </td>
            ))}
          </tr>
          {lines.map((line) => (
            <tr key={line.key}>
              <th scope="row" className="font-normal">
                <span className="flex items-center gap-2">
                  <span className="size-4 shrink-0 border border-line bg-(--swatch)" style={swatchStyle(line.hex)} />
                  {line.name}
                </span>
              </th>
              {line.times.map((seconds, place) => (
                <td key={runs[place]?.id}>{seconds === null ? "" : minutes(seconds)}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Card by card, how far each thing came out otherwise than planned. */
function Checked({ run }: { run: RunReadout }) {
  const checks = useQuery({ ...checksOfPiece(run.piece_id ?? 0), enabled: run.piece_id !== null });
  const own = (checks.data ?? []).filter((check) => check.run_id === run.id);
  if (own.length === 0) return "none";
  return (
    <ul className="space-y-2">
      {own.map((check) => (
        <li key={check.id}>
          <Link to={`/photo-checks/${check.id}`} className="underline underline-offset-4">
            Card {check.card}: {check.verdict}
          </Link>
          <ThingStrip things={check.things} label={`Card ${check.card}: how far each thing is off`} />
        </li>
      ))}
    </ul>
  );
}

/** Stints by what they are, so that runs of different versions stand beside each other; seconds for one card. */
function stintLines(runs: RunReadout[]): StintLine[] {
  const lines = new Map<string, StintLine>();
  runs.forEach((run, place) => {
    run.stints.forEach((stint, number) => {
      const step = run.steps[stint.first_pass - 1];
      const swatch = run.swatches.find((one) => one.code === step?.swatch && one.medium === step.medium);
      const seconds = run.stint_times[number]?.seconds;
      if (!step || !swatch) return;
      const key = `${swatch.name} on ${stint.name}, ${step.zone}`;
      const line = lines.get(key) ?? { key, name: key, hex: swatch.hex, times: runs.map(() => null) };
      if (seconds !== null && seconds !== undefined) line.times[place] = (line.times[place] ?? 0) + seconds / run.cards;
      lines.set(key, line);
    });
  });
  return [...lines.values()].filter((line) => line.times.some((seconds) => seconds !== null));
}

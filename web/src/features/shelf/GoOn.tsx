import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { runQueries } from "@/shared/api";

const SHOWN = 3;

/** Runs that were begun and not finished: the card on the table comes before all others. */
export function GoOn({ askEvery }: { askEvery: number | false }) {
  const open = useQuery({ ...runQueries.list({ open: true }), refetchInterval: askEvery }).data?.results ?? [];
  const begun = open.filter((run) => run.passes_laid > 0).slice(0, SHOWN);
  if (begun.length === 0) return null;
  return (
    <ul aria-label="Go on colouring" className="mb-4 flex flex-wrap gap-3">
      {begun.map((run) => (
        <li key={run.id}>
          <Link to={`/runs/${run.id}`} className="block min-h-12 rounded-sm bg-sheet px-4 py-2 shadow hover:shadow-lg">
            <strong>Go on colouring {run.title}</strong>
            <span className="block text-[13px]">
              {run.passes_laid} of {run.passes} passes laid{run.cards > 1 && `, ${run.cards} cards`}
            </span>
            <span aria-hidden className="mt-1.5 block h-1 bg-line">
              <span className="block h-1 bg-ink" style={{ width: `${(100 * run.passes_laid) / run.passes}%` }} />
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

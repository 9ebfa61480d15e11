import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { LIMITS, pieceQueries, type Plan } from "@/shared/api";
import { minutes } from "@/shared/ui";
import { usePiece } from "../bench";

/** The same card several times over, worked as a batch. */
export function CopiesBox({ plan }: { plan: Plan }) {
  const piece = usePiece();
  const [copies, setCopies] = useState(1);
  const batch = useQuery({ ...pieceQueries.batch(piece.id, piece.version, copies), enabled: copies > 1 });
  return (
    <details className="mb-3 rounded bg-faint px-3 py-2" open={copies > 1}>
      <summary>Several cards at once</summary>
      <label className="mt-1 flex items-center gap-2">
        How many
        <input
          type="number"
          min={1}
          max={LIMITS.batch.copies}
          className="field max-w-20"
          value={copies}
          onChange={(event) => setCopies(Math.min(LIMITS.batch.copies, Math.max(1, Number(event.target.value) || 1)))}
        />
      </label>
      {batch.error && <p role="alert">{batch.error.message}</p>}
      {copies > 1 && batch.data && (
        <>
          <p className="mt-1">
            Together about <strong>{minutes(batch.data.duration_s)}</strong> and {batch.data.pen_changes} pen changes;
            one after the other {minutes(batch.data.one_by_one_s)} and {batch.data.one_by_one_changes}.
          </p>
          <p className="text-[13px] text-soft">
            Stamp and mask all {copies} first. Then each stretch on every card before the next stretch; one card dries
            while the next is coloured.
          </p>
          <ol aria-label="Stretches of the batch" className="mt-1 max-h-40 overflow-y-auto text-[13px]">
            {batch.data.lines.map((line) => (
              <li key={line.first_pass} className="flex justify-between border-t border-line py-0.5">
                <span>
                  Passes{" "}
                  {line.first_pass === line.last_pass ? line.first_pass : `${line.first_pass} to ${line.last_pass}`} on
                  all {copies}: {plan.passes[line.first_pass - 1]?.swatch.name}
                  {line.last_pass > line.first_pass && " and on"}
                </span>
                <span>
                  {minutes(line.end_s - line.start_s)}
                  {line.wait_s > 1 && `, ${minutes(line.wait_s)} of it waiting`}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </details>
  );
}

import { useQuery } from "@tanstack/react-query";

import { drawerQueries, type Ramp } from "@/shared/api";
import { RampChips } from "@/shared/ui";
import { useCounterparts } from "../api";
import { usePiece } from "../bench";

/** The same ramp in as many swatches of another drawer: pencils for these markers. */
export function Counterparts({ ramp }: { ramp: Ramp }) {
  const piece = usePiece();
  const drawers = useQuery(drawerQueries.list).data ?? [];
  const find = useCounterparts(piece.id);
  return (
    <div className="mt-1 flex flex-wrap items-center gap-2 text-[13px]">
      <label className="flex items-center gap-2">
        The same from
        <select
          className="rounded border border-soft bg-sheet px-1 py-0.5"
          defaultValue=""
          onChange={(event) =>
            find.mutate({ codes: ramp.swatches.map((one) => one.code), drawer: Number(event.target.value) })
          }
        >
          <option value="" disabled>
            another drawer
          </option>
          {drawers
            .filter((one) => one.id !== piece.colours.drawer)
            .map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
        </select>
      </label>
      {find.error && <span role="alert">{find.error.message}</span>}
      {find.data && (
        <span className="w-40">
          <RampChips swatches={find.data} />
        </span>
      )}
    </div>
  );
}

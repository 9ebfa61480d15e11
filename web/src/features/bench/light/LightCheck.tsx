import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { pieceQueries } from "@/shared/api";

import { Button } from "@/shared/ui";
import { useChangeRegions, useDescribeLight } from "../api";
import { useHand, usePiece } from "../bench";

/** Names what is lit against the lamp, each with what puts it right. */
export function LightCheck() {
  const piece = usePiece();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const [asked, setAsked] = useState(false);
  const check = useQuery({ ...pieceQueries.lightCheck(piece.id, piece.version), enabled: asked });
  const change = useChangeRegions(piece.id);
  const describe = useDescribeLight(piece.id);
  return (
    <div className="border-t border-line pt-2">
      <Button busy={check.isFetching} onClick={() => (asked ? void check.refetch() : setAsked(true))}>
        Is my light right?
      </Button>
      {check.error && (
        <p role="alert" className="mt-2">
          {check.error.message}
        </p>
      )}
      {check.data && check.data.doubts.length === 0 && (
        <p role="status" className="mt-2">
          Yes: all {check.data.looked_at} things are lit from where the lamp stands.
        </p>
      )}
      {check.data && check.data.doubts.length > 0 && (
        <ul aria-label="Lit against the lamp" className="mt-2 flex flex-col gap-2">
          {check.data.doubts.map((doubt) => (
            <li key={`${doubt.regions[0]} ${doubt.remedy}`} className="rounded bg-faint p-2">
              <p>
                <strong>
                  {doubt.name}
                  {doubt.regions.length > 1 && ` (${doubt.regions.length})`}.
                </strong>{" "}
                {doubt.why}
              </p>
              <p className="mt-1 flex gap-3 text-[13px]">
                <Button kind="quiet" onClick={() => selectOnly(doubt.regions)}>
                  Take it in hand
                </Button>
                {doubt.remedy === "turn" && (
                  <Button
                    kind="quiet"
                    onClick={() => change.mutate({ labels: doubt.regions, changes: { turn_deg: 0 } })}
                  >
                    Take back the turn
                  </Button>
                )}
                {doubt.remedy === "print" && (
                  <Button kind="quiet" onClick={() => describe.mutate({ follow: 0 })}>
                    Do not follow the stamp
                  </Button>
                )}
                {doubt.remedy === "base" && (
                  <Button
                    kind="quiet"
                    onClick={() => change.mutate({ labels: doubt.regions, changes: { base_mm: null } })}
                  >
                    Take the base off
                  </Button>
                )}
              </p>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

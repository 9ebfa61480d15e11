import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { pieceQueries, type Trade } from "@/shared/api";
import { Button, Choice, counted } from "@/shared/ui";
import { useDescribeColours, useLeaveWarning, useRemedy } from "../api";
import { useHand, usePiece } from "../bench";

/** What will not read in light and dark, each with a remedy in one click. */
export function ValueGuard({ trade }: { trade: Trade }) {
  const piece = usePiece();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const warnings = useQuery({
    ...pieceQueries.valueWarnings(piece.id, piece.version),
    enabled: piece.colours.pen_count > 0,
  });
  const remedy = useRemedy(piece.id);
  const leave = useLeaveWarning(piece.id, piece.version);
  const [showLeft, setShowLeft] = useState(false);
  const describe = useDescribeColours(piece.id);
  if (piece.colours.pen_count === 0) return null;
  const all = warnings.data ?? [];
  const found = all.filter((warning) => !warning.left || showLeft);
  const left = all.filter((warning) => warning.left).length;
  return (
    <details className="mb-2 rounded bg-faint px-3 py-2">
      <summary>
        <strong>Value guard:</strong> {warnings.data ? verdict(all.length - left, left) : "looking …"}
      </summary>
      <div className="mt-2">
        <Choice
          label="The picture is meant to be in"
          value={piece.colours.key}
          options={[{ code: "", name: "no key named" }, ...trade.keys]}
          onKeep={(key) => describe.mutateAsync({ key })}
        />
      </div>
      {warnings.error && <p role="alert">{warnings.error.message}</p>}
      <ul aria-label="Value warnings" className="mt-1 max-h-56 overflow-y-auto">
        {found.map((warning) => (
          <li
            key={`${warning.kind} ${warning.regions.join()}`}
            className="flex items-start justify-between gap-3 border-t border-line py-1.5"
          >
            <button type="button" className="text-left hover:underline" onClick={() => selectOnly(warning.regions)}>
              {warning.sentence}
            </button>
            <span className="flex shrink-0 flex-col items-end gap-1 text-[13px]">
              {!warning.left && (
                <Button kind="quiet" disabled={remedy.isPending} onClick={() => remedy.mutate(warning)}>
                  {warning.remedy_words}
                </Button>
              )}
              <Button
                kind="quiet"
                disabled={leave.isPending}
                aria-label={`${warning.left ? "Tell again" : "Leave it as it is"}: ${warning.sentence}`}
                onClick={() => leave.mutate({ kind: warning.kind, regions: warning.regions, left: !warning.left })}
              >
                {warning.left ? "Tell again" : "Leave it as it is"}
              </Button>
            </span>
          </li>
        ))}
      </ul>
      {left > 0 && (
        <Button kind="quiet" className="mt-1 text-[13px]" onClick={() => setShowLeft(!showLeft)}>
          {showLeft ? "Hide what is left as it is" : `Show ${counted(left, "line")} left as it is`}
        </Button>
      )}
    </details>
  );
}

function verdict(open: number, left: number): string {
  if (open > 0) return `${open} to look at`;
  return left > 0 ? "nothing else to look at" : "light and dark read well";
}

import { useQuery } from "@tanstack/react-query";

import { pieceQueries, type Trade } from "@/shared/api";
import { Button, Choice } from "@/shared/ui";
import { useRemedy, useDescribeColours } from "../api";
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
  const describe = useDescribeColours(piece.id);
  if (piece.colours.pen_count === 0) return null;
  const found = warnings.data ?? [];
  return (
    <details className="mb-2 rounded bg-faint px-3 py-2">
      <summary>
        <strong>Value guard:</strong>{" "}
        {warnings.data ? (found.length ? `${found.length} to look at` : "light and dark read well") : "looking …"}
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
            <Button
              kind="quiet"
              className="shrink-0 text-[13px]"
              disabled={remedy.isPending}
              onClick={() => remedy.mutate(warning)}
            >
              {warning.remedy_words}
            </Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

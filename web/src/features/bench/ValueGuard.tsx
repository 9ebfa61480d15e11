import { useQuery } from "@tanstack/react-query";

import { pieceQueries, type Trade } from "@/shared/api";
import { Button, useDraft } from "@/shared/ui";
import { useRemedy, useDescribeColours } from "./api";
import { useHand, usePiece } from "./bench";

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
  const [key, setKey] = useDraft(piece.colours.key);
  if (piece.colours.pen_count === 0) return null;
  const keys = trade.keys;
  const found = warnings.data ?? [];
  return (
    <details className="mb-2 rounded bg-faint px-3 py-2">
      <summary>
        <strong>Value guard:</strong>{" "}
        {warnings.data ? (found.length ? `${found.length} to look at` : "light and dark read well") : "looking …"}
      </summary>
      <label className="mt-2 flex items-center gap-2">
        The picture is meant to be in
        <select
          className="rounded border border-soft bg-sheet px-1 py-0.5"
          value={key}
          onChange={(event) => {
            const next = event.target.value as typeof key;
            setKey(next);
            describe.mutate({ key: next });
          }}
        >
          <option value="">no key named</option>
          {keys.map((one) => (
            <option key={one.code} value={one.code}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
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

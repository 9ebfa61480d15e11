import { useQuery } from "@tanstack/react-query";

import { Button, useDraft } from "@/shared/ui";
import { pieceQueries, useRemedy, useWishes } from "./api";
import { useBench } from "./bench";

const KEYS = [{ key: "", name: "no key named" }, { key: "light", name: "light key" }, { key: "middle", name: "middle key" }, { key: "night", name: "night key" }] as const;

/** What will not read in light and dark, each with a remedy in one click. */
export function ValueGuard() {
  const { piece, selectOnly } = useBench();
  const warnings = useQuery({ ...pieceQueries.values(piece.id, piece.version), enabled: piece.pen_count > 0 });
  const remedy = useRemedy(piece.id);
  const wishes = useWishes(piece.id);
  const [key, setKey] = useDraft(piece.key);
  if (piece.pen_count === 0) return null;
  const found = warnings.data ?? [];
  return (
    <details className="mb-2 rounded bg-faint px-3 py-2">
      <summary>
        <strong>Value guard:</strong> {warnings.data ? (found.length ? `${found.length} to look at` : "light and dark read well") : "looking …"}
      </summary>
      <label className="mt-2 flex items-center gap-2">The picture is meant to be in
        <select className="rounded border border-soft bg-sheet px-1 py-0.5" value={key} onChange={(event) => { const next = event.target.value as typeof key; setKey(next); wishes.mutate({ key: next }); }}>
          {KEYS.map((one) => <option key={one.key} value={one.key}>{one.name}</option>)}
        </select>
      </label>
      {warnings.error && <p role="alert">{warnings.error.message}</p>}
      <ul aria-label="Value warnings" className="mt-1 max-h-56 overflow-y-auto">
        {found.map((warning) => (
          <li key={`${warning.kind} ${warning.regions.join()}`} className="flex items-start justify-between gap-3 border-t border-line py-1.5">
            <button type="button" className="text-left hover:underline" onClick={() => selectOnly(warning.regions)}>{warning.sentence}</button>
            <Button kind="quiet" className="shrink-0 text-[13px]" disabled={remedy.isPending} onClick={() => remedy.mutate(warning)}>{warning.remedy}</Button>
          </li>
        ))}
      </ul>
    </details>
  );
}

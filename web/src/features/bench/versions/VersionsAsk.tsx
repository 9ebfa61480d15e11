import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, pieceQueries } from "@/shared/api";
import { Ask, Button, Failed, Waiting } from "@/shared/ui";
import { useRestore } from "../api";
import { usePiece } from "../bench";

/** The kept versions, what each changed, and ways out: print and file. */
export function VersionsAsk({ open, onClose }: { open: boolean; onClose: () => void }) {
  const piece = usePiece();
  const restore = useRestore(piece.id);
  const recipes = useQuery({ ...pieceQueries.recipes(piece.id, piece.latest_recipe), enabled: open });
  return (
    <Ask open={open} onClose={onClose} title="Versions of this recipe" wide>
      {recipes.data ? (
        <ol reversed className="flex max-h-[55vh] flex-col-reverse gap-4 overflow-y-auto">
          {recipes.data.map((recipe) => (
            <li key={recipe.number} className="border-t border-line pt-3">
              <div className="flex items-baseline gap-4">
                <h3 className="text-[17px]">Version {recipe.number}</h3>
                <span className="grow text-soft">{new Date(recipe.saved_at).toLocaleString()}</span>
                <Link className="underline underline-offset-4" to={`/pieces/${piece.id}/print?recipe=${recipe.number}`}>
                  Print view
                </Link>
                <Button
                  kind="quiet"
                  onClick={() => restore.mutate(recipe.number, { onSuccess: onClose })}
                  aria-label={`Lay version ${recipe.number} on the bench again`}
                >
                  Lay on the bench
                </Button>
                <a
                  className="underline underline-offset-4"
                  download
                  href={api.url(`/pieces/${piece.id}/recipes/${recipe.number}/`)}
                >
                  Export file
                </a>
              </div>
              <WhatChanged previous={recipe.previous ?? null} changes={recipe.changes} />
            </li>
          ))}
          {recipes.data.length === 0 && (
            <li>Nothing is kept yet. "Keep as version 1" freezes the sheet as it stands.</li>
          )}
        </ol>
      ) : recipes.isError ? (
        <Failed error={recipes.error} onRetry={() => void recipes.refetch()} />
      ) : (
        <Waiting what="Fetching versions" />
      )}
      <div className="mt-5 flex justify-end gap-4">
        <Link className="rounded border border-ink px-3 py-1.5" to={`/pieces/${piece.id}/print`}>
          Print what is on the bench
        </Link>
        <Button kind="main" onClick={onClose}>
          Back to the bench
        </Button>
      </div>
    </Ask>
  );
}

function WhatChanged({ previous, changes }: { previous: number | null; changes: string[] }) {
  if (previous === null) return <p className="text-soft">The first one.</p>;
  if (changes.length === 0) return <p className="text-soft">Nothing differs from version {previous}.</p>;
  return (
    <>
      <p className="mt-1 text-soft">What changed since version {previous}</p>
      <ul className="ml-5 list-disc">
        {changes.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </>
  );
}

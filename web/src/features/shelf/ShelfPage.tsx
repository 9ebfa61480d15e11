import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";

import { sessionQuery, type ShelfPiece } from "@/shared/api";
import { Ask, Button, counted, Failed, tell, Waiting } from "@/shared/ui";
import { AddPieceAsk } from "./AddPieceAsk";
import { shelfQuery, useDeletePiece, useImportRecipe } from "./api";
import { GoOn } from "./GoOn";
import { PieceTile } from "./PieceTile";

export function ShelfPage() {
  const session = useQuery(sessionQuery).data;
  const toCome = session?.demo_to_come ?? 0;
  // While the demo is still being made, its pieces and runs come one after the other.
  const askEvery = toCome > 0 ? 3_000 : false;
  const shelf = useInfiniteQuery({ ...shelfQuery, refetchInterval: askEvery });
  const [adding, setAdding] = useState(false);
  const [doomed, setDoomed] = useState<ShelfPiece | null>(null);
  const importRecipe = useImportRecipe();
  const deletePiece = useDeletePiece();
  const recipeInput = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();

  function take(file: File | undefined) {
    if (!file) return;
    importRecipe.mutate(file, {
      onSuccess: (piece) => {
        tell(`${piece.stamp.title} is back on the shelf as version ${piece.latest_recipe}.`);
        void navigate(`/pieces/${piece.id}`);
      },
    });
  }

  const pieces = shelf.data?.pages.flatMap((page) => page.results);
  return (
    <div className="flex grow flex-col px-5 pb-10 pt-2">
      <div className="mb-4 flex flex-wrap items-baseline gap-3">
        <h1 className="text-[26px]">Shelf</h1>
        <p className="grow">
          {pieces && pieces.length > 0 ? `${counted(shelf.data?.pages[0]?.count ?? 0, "stamped image")}. ` : ""}
          {session?.demo_ends_at && "Your own copy of the demo: it goes a day after you last used it."}
        </p>
        <input
          ref={recipeInput}
          type="file"
          accept=".json,application/json"
          className="sr-only"
          tabIndex={-1}
          aria-label="Recipe file"
          onChange={(event) => {
            take(event.target.files?.[0]);
            event.target.value = "";
          }}
        />
        <Button kind="bar" busy={importRecipe.isPending} onClick={() => recipeInput.current?.click()}>
          Import a recipe
        </Button>
        <Button kind="main" onClick={() => setAdding(true)}>
          Add a stamped image
        </Button>
      </div>
      <GoOn askEvery={askEvery} />
      {pieces && pieces.length > 0 && (
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-5">
          {pieces.map((piece) => (
            <PieceTile key={piece.id} piece={piece} onDelete={() => setDoomed(piece)} />
          ))}
        </ul>
      )}
      {toCome > 0 && (
        <p role="status" className="mt-4 rounded bg-faint p-3">
          The demo is being drawn, scanned and coloured: {counted(toCome, "step")} to go. What is here can be opened
          already.
        </p>
      )}
      {pieces?.length === 0 && toCome === 0 && <EmptyShelf onAdd={() => setAdding(true)} />}
      {!pieces && shelf.isError && <Failed error={shelf.error} onRetry={() => void shelf.refetch()} />}
      {!pieces && !shelf.isError && <Waiting what="Fetching the shelf" />}
      {shelf.hasNextPage && (
        <Button
          kind="bar"
          className="mx-auto mt-6"
          busy={shelf.isFetchingNextPage}
          onClick={() => void shelf.fetchNextPage()}
        >
          Show more
        </Button>
      )}
      <AddPieceAsk open={adding} onClose={() => setAdding(false)} />
      <Ask open={doomed !== null} onClose={() => setDoomed(null)} title={`Delete ${doomed?.title}?`}>
        <p className="mb-5">
          Its picture, its sheet and its kept recipes go. A recipe you exported can be imported again.
        </p>
        <div className="flex justify-end gap-3">
          <Button onClick={() => setDoomed(null)}>Keep it</Button>
          <Button
            kind="main"
            busy={deletePiece.isPending}
            onClick={() => doomed && deletePiece.mutate(doomed.id, { onSettled: () => setDoomed(null) })}
          >
            Delete
          </Button>
        </div>
      </Ask>
    </div>
  );
}

function EmptyShelf({ onAdd }: { onAdd: () => void }) {
  return (
    <div className="m-auto max-w-md rounded-sm bg-sheet p-8 text-center shadow-lg">
      <h2 className="mb-2 text-xl">Your shelf is empty</h2>
      <p className="mb-5">
        Stamp an image, let the ink dry, scan it or photograph it straight from above, and add it here. Paleta finds its
        regions.
      </p>
      <Button kind="main" onClick={onAdd}>
        Add your first stamped image
      </Button>
    </div>
  );
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, type Page, type Piece, type ShelfPiece } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useMatchCard } from "./api";

/** Takes another piece's card with its sheets, and this figure in the very place of the other one's. */
export function MatchCard({ piece }: { piece: Piece }) {
  const shelf = useQuery({
    queryKey: ["pieces", "shelf", "with a card"] as const,
    queryFn: ({ signal }) => api.get<Page<ShelfPiece>>("/pieces/?page_size=200", { signal }),
  });
  const match = useMatchCard(piece.id);
  const others = (shelf.data?.results ?? []).filter((one) => one.has_card && one.id !== piece.id);
  const [chosen, setChosen] = useState(0);
  if (others.length === 0) return null;
  const other = others.find((one) => one.id === chosen) ?? others[0];
  return (
    <div className="flex flex-wrap items-end gap-2">
      <label>
        <span className="block text-[13px] text-soft">The same card and place as</span>
        <select className="field" value={other?.id} onChange={(event) => setChosen(Number(event.target.value))}>
          {others.map((one) => (
            <option key={one.id} value={one.id}>
              {one.title}
            </option>
          ))}
        </select>
      </label>
      <Button busy={match.isPending} onClick={() => other && match.mutate(other.id)}>
        Match
      </Button>
    </div>
  );
}

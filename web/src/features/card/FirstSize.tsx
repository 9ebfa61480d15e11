import { useQuery } from "@tanstack/react-query";

import { tradeQuery, type Piece } from "@/shared/api";
import { Button, useUnit } from "@/shared/ui";
import { useSetSpec } from "./api";
import { MatchCard } from "./MatchCard";
import { firstSpec } from "./spec";

/** Which size the card has: the first thing to be known of it. */
export function FirstSize({ piece }: { piece: Piece }) {
  const sizes = useQuery(tradeQuery).data?.cards ?? [];
  const setSpec = useSetSpec(piece.id);
  const { unit } = useUnit();
  const wide = piece.width_mm > piece.height_mm;
  return (
    <section aria-label="Size of the card" className="mb-4">
      <p className="mb-2">How large is the card, once it is folded? Everything else follows and can be changed.</p>
      <ul className="grid grid-cols-2 gap-2">
        {sizes.map((size) => (
          <li key={size.code}>
            <Button
              className="w-full text-left"
              busy={setSpec.isPending}
              onClick={() => setSpec.mutate(() => firstSpec(size, wide, unit))}
            >
              <strong className="block">{size.name}</strong>
              <span className="text-[13px]">
                {size.width} by {size.height}
              </span>
            </Button>
          </li>
        ))}
      </ul>
      <div className="mt-3">
        <MatchCard piece={piece} />
      </div>
    </section>
  );
}

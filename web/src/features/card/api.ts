import { useChange, type CardSpec } from "@/shared/api";

/** A change to the card as it stands when it is its turn: two quick ones must not undo each other. */
export const useSetSpec = (id: number, quiet = false) =>
  useChange(
    id,
    "put",
    "card",
    (change: (spec: CardSpec | null) => CardSpec | null, piece) => ({ spec: change(piece?.card.spec ?? null) }),
    quiet,
  );
export const useNoteCard = (id: number) => useChange(id, "put", "card", (notes: string) => ({ notes }));
export const useMatchCard = (id: number) => useChange(id, "put", "card-like", (piece: number) => ({ piece }));

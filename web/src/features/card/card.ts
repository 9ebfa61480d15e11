import { createContext, useContext } from "react";

import type { CardSpec, LaidCard, Piece } from "@/shared/api";

export type Card = {
  piece: Piece;
  spec: CardSpec;
  laid: LaidCard;
  /** Keeps a change; rejects with the server's sentence where it cannot be. */
  change: (change: (spec: CardSpec) => CardSpec) => Promise<unknown>;
  /** The same, for fields that show the sentence themselves. */
  changeQuietly: (change: (spec: CardSpec) => CardSpec) => Promise<unknown>;
};

export const CardContext = createContext<Card | null>(null);

/** The card at hand. */
export function useCard(): Card {
  const card = useContext(CardContext);
  if (!card) throw new Error("Only for parts of a card.");
  return card;
}

import { LIMITS } from "@/shared/api";
import { useCard } from "./card";
import { NumberField } from "./NumberField";

/** How many cards are made of it. */
export function CardsField() {
  const { spec } = useCard();
  const { maximum } = LIMITS.CardSpecRequest.cards;
  return <NumberField beside label="Cards" at="cards" value={spec.cards} min={1} max={maximum} />;
}

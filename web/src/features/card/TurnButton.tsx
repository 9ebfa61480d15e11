import { useQuery } from "@tanstack/react-query";

import { tradeQuery } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useCard } from "./card";
import { turned } from "./spec";

/** Lays the card the other way. */
export function TurnButton() {
  const { change } = useCard();
  const folds = useQuery(tradeQuery).data?.folds;
  return (
    <Button
      kind="quiet"
      disabled={!folds}
      onClick={() => folds && void change((now) => turned(now, folds)).catch(() => undefined)}
    >
      Turn the card
    </Button>
  );
}

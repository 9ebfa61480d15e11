import { useQuery } from "@tanstack/react-query";
import { useMemo, type ReactNode } from "react";

import { pieceQueries, type CardSpec, type Piece } from "@/shared/api";
import { Failed, Waiting } from "@/shared/ui";
import { useSetSpec } from "./api";
import { CardContext } from "./card";

/** Lays the piece's card out for what is within; what stands there while it has no sizes is `otherwise`. */
export function CardProvider({
  piece,
  otherwise,
  children,
}: {
  piece: Piece;
  otherwise: ReactNode;
  children: ReactNode;
}) {
  const laid = useQuery(pieceQueries.card(piece.id, piece.version));
  const { mutateAsync } = useSetSpec(piece.id);
  const { mutateAsync: quietly } = useSetSpec(piece.id, true);
  const { spec } = piece.card;
  const card = useMemo(() => {
    if (!spec || !laid.data) return null;
    const through = (set: typeof mutateAsync) => (by: (spec: CardSpec) => CardSpec) =>
      set((now) => (now ? by(now) : now));
    return { piece, spec, laid: laid.data, change: through(mutateAsync), changeQuietly: through(quietly) };
  }, [piece, spec, laid.data, mutateAsync, quietly]);
  if (!spec) return otherwise;
  if (laid.isError) return <Failed error={laid.error} onRetry={() => void laid.refetch()} />;
  if (!card) return <Waiting what="Laying the card out" />;
  return <CardContext value={card}>{children}</CardContext>;
}

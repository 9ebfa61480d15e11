import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useParams } from "react-router";

import { pieceQueries, type Piece } from "@/shared/api";
import { Failed, rememberPiece, Waiting } from "@/shared/ui";
import { BarEnd } from "./BarEnd";
import { PieceContext, useBenchAddress, useHand, type Section, type View } from "./bench";
import { CardStage } from "./stage/CardStage";
import { RecipeSheet } from "./RecipeSheet";
import { ShadeRibbon } from "./order/ShadeRibbon";
import { useEscape } from "./regions/ThingRows";
import { ViewSwitch } from "./stage/ViewSwitch";

export function BenchPage() {
  const id = Number(useParams().id);
  const piece = useQuery(pieceQueries.detail(id));
  useEffect(() => {
    if (piece.data) rememberPiece(id);
    else if (piece.isError) rememberPiece(null);
  }, [id, piece.data, piece.isError]);
  if (piece.data) return <OpenBench key={id} piece={piece.data} />;
  if (piece.isError) return <Failed error={piece.error} onRetry={() => void piece.refetch()} />;
  return <Waiting what="Laying the card on the bench" />;
}

function OpenBench({ piece }: { piece: Piece }) {
  const { title } = piece.stamp;
  // Another piece is taken up with an empty hand.
  useEffect(() => () => useHand.setState({ picked: [], hovered: 0, tool: "hand", viewByHand: false }), []);
  useEffect(() => {
    document.title = `${title} – Paleta`;
    return () => {
      document.title = "Paleta";
    };
  }, [title]);
  return (
    <PieceContext value={piece}>
      <BarEnd />
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_clamp(400px,40.6vw,560px)] max-[1023px]:grid-cols-1 min-[1024px]:h-[calc(100dvh-2.75rem-5.75rem)]">
        <section aria-label="Card on the bench" className="relative flex min-h-[480px] flex-col">
          <CardStage />
          <ViewSwitch />
        </section>
        <Sheet />
        <Escape />
      </div>
      <ShadeRibbon />
    </PieceContext>
  );
}

function Escape() {
  useEscape();
  return null;
}

/** What a section works on is what is shown when it is opened. */
const VIEW_OF: Partial<Record<Section, View>> = {
  regions: "regions",
  light: "clay",
  colours: "coloured",
  card: "coloured",
};

function Sheet() {
  const { section, go } = useBenchAddress();
  return (
    <RecipeSheet
      section={section}
      onSection={(next) => {
        const view = useHand.getState().viewByHand ? undefined : VIEW_OF[next];
        go({ section: next, ...(view && { view }) });
      }}
    />
  );
}

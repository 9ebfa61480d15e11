import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState } from "react";
import { useParams, useSearchParams } from "react-router";

import type { Piece } from "@/shared/api";
import { Failed, rememberPiece, Waiting } from "@/shared/ui";
import { pieceQueries } from "./api";
import { BarEnd } from "./BarEnd";
import { ALL_VIEWS, BenchContext, SECTIONS, type Bench, type Section, type Tool, type View } from "./bench";
import { CardStage } from "./CardStage";
import { RecipeSheet } from "./RecipeSheet";
import { ShadeRibbon } from "./ShadeRibbon";
import { ViewSwitch } from "./ViewSwitch";

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
  const [address, setAddress] = useSearchParams();
  const [picked, setPicked] = useState<readonly number[]>([]);
  const [hovered, hover] = useState(0);
  const [tool, takeTool] = useState<Tool>("hand");
  const section = oneOf(SECTIONS, address.get("section"), piece.pen_count ? "colours" : "regions");
  const view = oneOf(ALL_VIEWS, address.get("view"), "coloured");

  // A region that was joined into another, or undone, is no longer in hand.
  const selected = useMemo(() => picked.filter((label) => piece.regions.some((region) => region.label === label)), [picked, piece.regions]);
  const select = useCallback((label: number, add: boolean) => {
    setPicked((now) => (add ? (now.includes(label) ? now.filter((other) => other !== label) : [...now, label])
      : now.length === 1 && now[0] === label ? [] : [label]));
  }, []);
  const go = useCallback((to: { section?: Section; view?: View }) => {
    // The address itself, not the one of the last render: two quick keys must not undo each other.
    const next = new URLSearchParams(window.location.search);
    for (const [name, value] of Object.entries(to)) next.set(name, value);
    setAddress(next, { replace: true });
    takeTool("hand");
  }, [setAddress]);

  const bench = useMemo<Bench>(() => ({ piece, selected, select, selectOnly: setPicked, hovered, hover, tool, takeTool, view, show: (next) => go({ view: next }) }),
    [piece, selected, select, hovered, tool, view, go]);

  useEffect(() => {
    document.title = `${piece.title} – Paleta`;
    return () => {
      document.title = "Paleta";
    };
  }, [piece.title]);

  return (
    <BenchContext value={bench}>
      <BarEnd />
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_clamp(400px,40.6vw,560px)] max-[1023px]:grid-cols-1 min-[1024px]:h-[calc(100dvh-2.75rem-5.75rem)]">
        <section aria-label="Card on the bench" className="flex min-h-[480px] flex-col">
          <CardStage />
          <ViewSwitch />
        </section>
        <RecipeSheet section={section} onSection={(next) => go({ section: next, ...(next === "regions" ? { view: "regions" } : {}) })} />
      </div>
      <ShadeRibbon />
    </BenchContext>
  );
}

function oneOf<Word extends string>(words: readonly Word[], found: string | null, otherwise: Word): Word {
  return words.includes(found as Word) ? (found as Word) : otherwise;
}

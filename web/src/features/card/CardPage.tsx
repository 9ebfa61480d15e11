import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";

import { api, pictureOf, pieceQueries, type Piece } from "@/shared/api";
import { Failed, UnitSwitch, useUnit, Waiting } from "@/shared/ui";
import { BaseForm } from "./BaseForm";
import { CardProvider } from "./CardProvider";
import { CardWarnings } from "./CardWarnings";
import { CutOutsForm } from "./CutOutsForm";
import { CuttingPlan } from "./CuttingPlan";
import { FirstSize } from "./FirstSize";
import { FrontDrawing } from "./FrontDrawing";
import { GreetingForm } from "./GreetingForm";
import { InsideDrawing } from "./InsideDrawing";
import { InsideForm } from "./InsideForm";
import { LayersForm } from "./LayersForm";
import { MakingPart } from "./MakingPart";
import { PapersForm } from "./PapersForm";
import { SideDrawing } from "./SideDrawing";
import { useCard } from "./card";

const DRAWINGS = { front: "Front", inside: "Inside", side: "From the side", look: "Finished" } as const;
type Drawing = keyof typeof DRAWINGS;

/** All of a piece's card: drawn with its measures, filled in, cut and made. */
export function CardPage() {
  const id = Number(useParams().id);
  const piece = useQuery(pieceQueries.detail(id));
  if (piece.data) return <Open piece={piece.data} />;
  if (piece.isError) return <Failed error={piece.error} onRetry={() => void piece.refetch()} />;
  return <Waiting what="Fetching the card" />;
}

function Open({ piece }: { piece: Piece }) {
  const { title } = piece.stamp;
  useEffect(() => {
    document.title = `${title}: the card – Paleta`;
    return () => {
      document.title = "Paleta";
    };
  }, [title]);
  return (
    <div className="mx-auto w-full max-w-[1400px] grow bg-sheet px-6 pb-10 pt-4">
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <h1 className="text-[26px] leading-tight">{title}: the card</h1>
        <span className="flex gap-4">
          <UnitSwitch />
          <Link to={`/pieces/${piece.id}?section=card`} className="underline underline-offset-4">
            Back to the bench
          </Link>
        </span>
      </div>
      <CardProvider piece={piece} otherwise={<FirstSize piece={piece} />}>
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-8 max-[1023px]:grid-cols-1">
          <div className="min-[1024px]:sticky min-[1024px]:top-2 min-[1024px]:self-start">
            <Drawings />
          </div>
          <div>
            <CardWarnings />
            <BaseForm />
            <LayersForm />
            <GreetingForm />
            <InsideForm />
            <CutOutsForm />
            <PapersForm />
          </div>
        </div>
        <div className="grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-8 max-[1023px]:grid-cols-1">
          <CuttingPlan />
          <MakingPart />
        </div>
        <Files />
      </CardProvider>
    </div>
  );
}

function Drawings() {
  const { piece } = useCard();
  const [shown, setShown] = useState<Drawing>("front");
  return (
    <section aria-label="Drawings">
      <div role="group" aria-label="Which drawing" className="mb-3 flex gap-1">
        {(Object.keys(DRAWINGS) as Drawing[]).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={shown === one}
            onClick={() => setShown(one)}
            className={`rounded px-3 py-1 ${shown === one ? "bg-ink text-sheet" : "bg-faint hover:bg-line"}`}
          >
            {DRAWINGS[one]}
          </button>
        ))}
      </div>
      {shown === "front" && <FrontDrawing />}
      {shown === "inside" && <InsideDrawing />}
      {shown === "side" && <SideDrawing />}
      {shown === "look" && (
        <img
          src={api.url(pictureOf.look(piece.id, piece.version, 800))}
          alt={`${piece.stamp.title}: the finished card`}
          className="mx-auto max-h-[560px]"
        />
      )}
    </section>
  );
}

/** The card as files: to print, to cut by machine. */
function Files() {
  const { piece } = useCard();
  const { unit } = useUnit();
  const asked = `unit=${unit}&paper=${unit === "in" ? "letter" : "a4"}`;
  const files = [
    [`card.pdf/?${asked}`, "Drawings, cuts and making as PDF"],
    [`card.svg/?${asked}`, "Front at full size as SVG"],
    ["cut-lines.svg/", "Lines to cut as SVG, in millimetres"],
  ] as const;
  return (
    <p className="flex flex-wrap gap-x-5 gap-y-1 border-t border-line pt-3">
      {files.map(([path, name]) => (
        <a key={path} href={api.url(`/pieces/${piece.id}/${path}`)} className="underline underline-offset-4" download>
          {name}
        </a>
      ))}
    </p>
  );
}

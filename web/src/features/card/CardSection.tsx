import type { ReactNode } from "react";
import { Link } from "react-router";

import { api, pictureOf, type Piece } from "@/shared/api";
import { UnitSwitch, useUnit } from "@/shared/ui";
import { CardProvider } from "./CardProvider";
import { CardWarnings } from "./CardWarnings";
import { CentreButtons } from "./CentreButtons";
import { FirstSize } from "./FirstSize";
import { useCard } from "./card";
import { TurnButton } from "./TurnButton";

/** The card on the recipe sheet: what it will look like, what speaks against it, and the way to all of it. */
export function CardSection({ piece, notes }: { piece: Piece; notes: ReactNode }) {
  return (
    <>
      <CardProvider piece={piece} otherwise={<FirstSize piece={piece} />}>
        <Summary />
      </CardProvider>
      {notes}
    </>
  );
}

function Summary() {
  const { piece, laid } = useCard();
  const { unit } = useUnit();
  return (
    <div className="mb-4">
      <div className="mb-3 grid grid-cols-[9rem_1fr] gap-4">
        <img
          src={api.url(pictureOf.look(piece.id, piece.version))}
          alt="The finished card"
          className="w-36 border border-line"
        />
        <div className="text-[14px]">
          <p className="mb-2">{held(unit === "in" ? laid.said : laid.said_cm)}.</p>
          <UnitSwitch />
        </div>
      </div>
      <CardWarnings />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <CentreButtons />
        <TurnButton />
        <Link to={`/pieces/${piece.id}/card`} className="rounded bg-ink px-3 py-1.5 text-sheet hover:bg-black">
          Layers, cutting and making
        </Link>
      </div>
    </div>
  );
}

/** Keeps a number and its fraction on one line. */
function held(text: string): string {
  return text.replace(/(\d) (\d+\/\d+)/g, "$1\u00a0$2");
}

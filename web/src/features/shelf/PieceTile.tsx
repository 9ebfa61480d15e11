import { Link } from "react-router";

import { useQuery } from "@tanstack/react-query";

import { api, nameOf, pictureOf, tradeQuery, type ShelfPiece } from "@/shared/api";
import { Button, counted, LampRose } from "@/shared/ui";

export function PieceTile({ piece, onDelete }: { piece: ShelfPiece; onDelete: () => void }) {
  const media = useQuery(tradeQuery).data?.media;
  return (
    <li className="flex flex-col rounded-sm bg-sheet shadow-lg">
      <Link to={`/pieces/${piece.id}`} className="block">
        <span className="grid h-64 place-items-center overflow-hidden border-b border-line bg-surround-light p-4">
          <img
            src={api.url((piece.has_card ? pictureOf.look : pictureOf.small)(piece.id, piece.version))}
            alt=""
            className="max-h-56 max-w-full shadow-md"
          />
        </span>
        <span className="flex items-start gap-3 px-4 pt-3">
          <span className="grow font-display text-[17px] font-bold leading-tight">{piece.title}</span>
          <LampRose azimuth={piece.lamp_azimuth_deg} clock={piece.clock} />
        </span>
      </Link>
      <p className="px-4 pt-1 text-[13px] text-soft">
        {nameOf(media, piece.medium)} · {counted(piece.pen_count, "swatch", "swatches")} · light from {piece.clock}
      </p>
      <div className="mt-auto flex items-center justify-between px-4 pb-3 pt-2 text-[13px]">
        <span>{state(piece)}</span>
        <Button kind="quiet" onClick={onDelete} aria-label={`Delete ${piece.title}`}>
          Delete
        </Button>
      </div>
    </li>
  );
}

function state(piece: ShelfPiece): string {
  const kept = piece.latest_recipe ? `version ${piece.latest_recipe} kept` : "not kept yet";
  if (piece.coloured_count === 0) return `${counted(piece.region_count, "region")} to colour`;
  if (piece.coloured_count < piece.region_count)
    return `${piece.coloured_count} of ${piece.region_count} regions planned, ${kept}`;
  return `All ${piece.region_count} regions planned, ${kept}`;
}

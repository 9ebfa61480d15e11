import { useQuery } from "@tanstack/react-query";

import { pieceQueries, type Wish } from "@/shared/api";

import { swatchStyle } from "@/shared/ui";
import { usePiece } from "../bench";

/** The one swatch that the drawer lacks for this wish, in plain words and beside the nearest one owned. */
export function MissingPen({ wish }: { wish: Wish }) {
  const piece = usePiece();
  const missing = useQuery(pieceQueries.missingPen(piece.id, piece.colours.medium, piece.colours.drawer, wish)).data;
  if (!missing?.name || !missing.nearest || !missing.hex) return null;
  return (
    <p className="mt-2 flex items-center gap-2 text-[13px]">
      <span
        className="size-5 shrink-0 rounded-sm border border-dashed border-ink bg-(--swatch)"
        style={swatchStyle(missing.hex)}
        aria-hidden
      />
      <span>
        Not in your drawer: {missing.name} ({missing.lab?.map((value) => Math.round(value)).join(" · ")}). The nearest
        you own: <strong>{missing.nearest.name}</strong>, off by {missing.apart?.toFixed(0)}.
      </span>
      <span
        className="size-5 shrink-0 rounded-sm border border-line bg-(--swatch)"
        style={swatchStyle(missing.nearest.hex)}
        aria-hidden
      />
    </p>
  );
}

import { useQuery } from "@tanstack/react-query";

import { labelsQuery } from "../api";
import { usePiece } from "../bench";
import type { Labels } from "./labels";

/** The piece's region map, once it is here. */
export function useLabels(): Labels | undefined {
  const piece = usePiece();
  const regionKey = piece.regions.list.map((region) => region.label).join();
  return useQuery(labelsQuery(piece.id, regionKey)).data;
}

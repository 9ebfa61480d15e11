import { queryOptions } from "@tanstack/react-query";

import { api } from "./client";
import type { PhotoCheckLine } from "./types";

/** Photos of cards of a piece that were held against their recipes, newest first. */
export function checksOfPiece(piece: number) {
  return queryOptions({
    queryKey: ["photo-checks", "piece", piece] as const,
    queryFn: ({ signal }) => api.get<PhotoCheckLine[]>(`/pieces/${piece}/photo-checks/`, { signal }),
  });
}

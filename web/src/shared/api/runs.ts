import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api } from "./client";
import type { Page } from "./trade";
import type { Piece, RunLine, RunReadout } from "./types";

export type RunFilter = { piece?: number; version?: number; medium?: string; swatch?: string; open?: boolean };

export const runQueries = {
  list: (filter: RunFilter) =>
    queryOptions({
      queryKey: ["runs", "list", filter] as const,
      queryFn: ({ signal }) => api.get<Page<RunLine>>(`/runs/?${asQuery(filter)}`, { signal }),
    }),
  /** `lines`: how many its log has, since each may change what is told. */
  detail: (id: number, lines = 0) =>
    queryOptions({
      queryKey: ["runs", id, lines] as const,
      queryFn: ({ signal }) => api.get<RunReadout>(`/runs/${id}/`, { signal }),
    }),
};

function asQuery(filter: RunFilter): string {
  const named = Object.entries(filter).filter(([, value]) => value !== undefined && value !== "");
  return new URLSearchParams(named.map(([name, value]) => [name, String(value)])).toString();
}

/** Begin to colour a piece along; the sheet is kept as a version first if it has changed. */
export function useStartRun(piece: Piece) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `piece-${piece.id}` },
    mutationFn: (cards: number) =>
      api.post<RunReadout>(`/pieces/${piece.id}/start-run/`, { cards }, { version: piece.version }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ["pieces", piece.id] });
      void client.invalidateQueries({ queryKey: ["runs"] });
    },
  });
}

import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, Problem } from "./client";
import { pieceQueries } from "./pieces";
import type { Piece } from "./types";

/**
 * A change to the piece. Changes of one piece go one after the other, each on the version the last one left, so a
 * quick hand is not refused; a change from another tab still is.
 */
export function useChange<Input>(
  id: number,
  method: "put" | "post",
  path: string | ((input: Input) => string),
  body?: (input: Input, piece: Piece | undefined) => unknown,
  /** Where a refusal is shown beside what was refused, no notice is needed as well. */
  quiet = false,
) {
  const client = useQueryClient();
  const key = pieceQueries.detail(id).queryKey;
  return useMutation({
    scope: { id: `piece-${id}` },
    meta: { quiet },
    mutationFn: (input: Input) => {
      const piece = client.getQueryData(key);
      const where = typeof path === "string" ? path : path(input);
      return api[method]<Piece>(`/pieces/${id}/${where}/`, body?.(input, piece), { version: piece?.version ?? 0 });
    },
    onSuccess: (piece) => {
      client.setQueryData(key, piece);
      void client.invalidateQueries({ queryKey: ["pieces", "shelf"] });
    },
    onError: (error) => {
      if (error instanceof Problem && error.status === 412) void client.invalidateQueries({ queryKey: key });
    },
  });
}

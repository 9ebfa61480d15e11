import { infiniteQueryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api, type Page, type Piece, type ShelfPiece } from "@/shared/api";
import { lastPiece, rememberPiece, type Reading } from "@/shared/ui";

export const shelfQuery = infiniteQueryOptions({
  queryKey: ["pieces", "shelf"] as const,
  queryFn: ({ pageParam, signal }) => api.get<Page<ShelfPiece>>(`/pieces/?page=${pageParam}`, { signal }),
  initialPageParam: 1,
  getNextPageParam: (last, all) => (last.next ? all.length + 1 : undefined),
});

export type NewPiece = {
  image: File;
  title: string;
  widthMm: number | null;
  reading: Reading;
  corners: [number, number][] | null;
};

export function useAddPiece() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ image, title, widthMm, reading, corners }: NewPiece) => {
      const form = new FormData();
      form.set("image", image);
      form.set("title", title);
      form.set("gap_mm", String(reading.gapMm));
      form.set("sensitivity", String(reading.percent / 100));
      if (corners) form.set("corners", JSON.stringify(corners));
      if (widthMm !== null) form.set("width_mm", String(widthMm));
      return api.post<Piece>("/pieces/", form);
    },
    meta: { quiet: true },
    onSuccess: () => client.invalidateQueries({ queryKey: shelfQuery.queryKey }),
  });
}

export function useImportRecipe() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.set("recipe", file);
      return api.post<Piece>("/pieces/import/", form);
    },
    onSuccess: () => client.invalidateQueries({ queryKey: shelfQuery.queryKey }),
  });
}

export function useDeletePiece() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => api.delete(`/pieces/${id}/`),
    onSuccess: (_nothing, id) => {
      if (lastPiece() === String(id)) rememberPiece(null);
      client.removeQueries({ queryKey: ["pieces", id] });
      return client.invalidateQueries({ queryKey: shelfQuery.queryKey });
    },
  });
}

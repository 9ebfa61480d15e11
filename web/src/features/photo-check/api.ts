import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api, type PhotoCheck, type Measured, type Piece } from "@/shared/api";
import type { PaperChange, Request, StampedAgain } from "@/shared/api";
import type { Corners } from "@/shared/ui";

export const checkQueries = {
  detail: (id: number, against: number | null) =>
    queryOptions({
      queryKey: ["photo-checks", id, against] as const,
      queryFn: ({ signal }) => api.get<PhotoCheck>(`/photo-checks/${id}/${beside(against)}`, { signal }),
    }),
  measured: (piece: number) =>
    queryOptions({
      queryKey: ["photo-checks", "measured", piece] as const,
      queryFn: ({ signal }) => api.get<Measured[]>(`/pieces/${piece}/measured-swatches/`, { signal }),
    }),
};

function beside(against: number | null): string {
  return against === null ? "" : `?against=${against}`;
}

export type View = "photo" | "flat" | "plan" | "difference";

/** A picture of a check; that of the differences depends on what it is held against. */
export function pictureUrl(id: number, view: View, against: number | null = null): string {
  const other = view === "difference" && against !== null ? `&against=${against}` : "";
  return api.url(`/photo-checks/${id}/picture/?view=${view}${other}`);
}

function useDone() {
  const client = useQueryClient();
  return () => {
    void client.invalidateQueries({ queryKey: ["photo-checks"] });
    void client.invalidateQueries({ queryKey: ["pieces"] });
  };
}

export type NewCheck = { photo: File; corners: Corners | null; run: number | null; card: number };

/** Hold a photo of a finished card against the plan. */
export function useCheckPhoto(piece: Piece) {
  const done = useDone();
  return useMutation({
    mutationFn: ({ photo, corners, run, card }: NewCheck) => {
      const form = new FormData();
      form.set("photo", photo);
      form.set("card", String(card));
      if (corners) form.set("corners", JSON.stringify(corners));
      if (run !== null) form.set("run", String(run));
      return api.post<PhotoCheck>(`/pieces/${piece.id}/photo-checks/`, form, { version: piece.version });
    },
    meta: { quiet: true },
    onSuccess: done,
  });
}

/** The same with a card that a simulated hand coloured. */
export function useTryPhoto(piece: Piece) {
  const done = useDone();
  return useMutation({
    mutationFn: (wish: Request<"SimulatedForm">) =>
      api.post<PhotoCheck>(`/pieces/${piece.id}/try-photo/`, wish, { version: piece.version }),
    meta: { quiet: true },
    onSuccess: done,
  });
}

export function useFine(id: number) {
  const done = useDone();
  return useMutation({
    mutationFn: (wish: { place: number; fine: boolean }) => api.put<PhotoCheck>(`/photo-checks/${id}/fine/`, wish),
    onSuccess: done,
  });
}

export function useForgetCheck() {
  const done = useDone();
  return useMutation({ mutationFn: (id: number) => api.delete(`/photo-checks/${id}/`), onSuccess: done });
}

/** Write a swatch's value as own cards say it is, or its old one back. */
export function useTakeMeasured(piece: number) {
  const done = useDone();
  return useMutation({
    mutationFn: ({ version, ...wish }: Request<"TakeMeasured"> & { version: number }) =>
      api.post<{ drawer_version: number }>(`/pieces/${piece}/measured-swatches/`, wish, { version }),
    onSuccess: done,
  });
}

/** Lay other swatches on a thing of the new piece, which keep how it looked on the other paper. */
export function useTakeInstead(piece: number) {
  const done = useDone();
  return useMutation({
    scope: { id: `piece-${piece}` },
    mutationFn: async ({ regions, instead, medium }: PaperChange) => {
      const now = await api.get<Piece>(`/pieces/${piece}/`);
      const ramp = { labels: regions, codes: instead, medium, by_hand: true };
      return api.put<Piece>(`/pieces/${piece}/ramp/`, ramp, { version: now.version });
    },
    onSuccess: done,
  });
}

export type Again = { image: File; corners: Corners | null; paper: string };

/** Another stamping of the same stamp, as a piece of its own. */
export function useStampAgain(piece: number) {
  const done = useDone();
  return useMutation({
    mutationFn: ({ image, corners, paper }: Again) => {
      const form = new FormData();
      form.set("image", image);
      if (corners) form.set("corners", JSON.stringify(corners));
      if (paper) form.set("paper", paper);
      return api.post<StampedAgain>(`/pieces/${piece}/stamp-again/`, form);
    },
    meta: { quiet: true },
    onSuccess: done,
  });
}

import { keepPreviousData, queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api, Problem, type Batch, type Form, type GoTo, type LightCheck, type Missing, type PaletteColour, type School, type Swatch, type Warning, type Medium, type Piece, type Plan, type Ramp, type RecipeLine, type Region, type Run } from "@/shared/api";
import { decodeLabels } from "./labels";

export const pieceQueries = {
  detail: (id: number) => queryOptions({
    queryKey: ["pieces", id] as const,
    queryFn: ({ signal }) => api.get<Piece>(`/pieces/${id}/`, { signal }),
  }),
  plan: (id: number, version: number) => queryOptions({
    queryKey: ["pieces", id, "plan", version] as const,
    queryFn: ({ signal }) => api.get<Plan>(`/pieces/${id}/plan/`, { signal }),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }),
  /** Labels change only when regions are joined; `regions` names the state. */
  labels: (id: number, regions: string) => queryOptions({
    queryKey: ["pieces", id, "labels", regions] as const,
    queryFn: async ({ signal }) => decodeLabels(await api.blob(`/pieces/${id}/labels/`, { signal })),
    staleTime: Infinity,
  }),
  lightCheck: (id: number, version: number) => queryOptions({
    queryKey: ["pieces", id, "light-check", version] as const,
    queryFn: ({ signal }) => api.get<LightCheck>(`/pieces/${id}/light-check/`, { signal }),
    staleTime: Infinity,
  }),
  values: (id: number, version: number) => queryOptions({
    queryKey: ["pieces", id, "values", version] as const,
    queryFn: ({ signal }) => api.get<Warning[]>(`/pieces/${id}/values/`, { signal }),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }),
  batch: (id: number, version: number, copies: number) => queryOptions({
    queryKey: ["pieces", id, "batch", version, copies] as const,
    queryFn: ({ signal }) => api.get<Batch>(`/pieces/${id}/batch/?copies=${copies}`, { signal }),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }),
  missing: (id: number, medium: Medium, drawer: number | null, wish: Wish) => queryOptions({
    queryKey: ["pieces", id, "proposals", "missing", medium, drawer, wish] as const,
    queryFn: ({ signal }) => api.post<Missing>(`/pieces/${id}/missing-pen/`, wish, { signal }),
    staleTime: Infinity,
  }),
  runs: (id: number) => queryOptions({
    queryKey: ["pieces", id, "runs"] as const,
    queryFn: ({ signal }) => api.get<Run[]>(`/pieces/${id}/runs/`, { signal }),
  }),
  /** A kept version as the bench would show it, and its frozen order. */
  kept: (id: number, recipe: number) => queryOptions({
    queryKey: ["pieces", id, "kept", recipe] as const,
    queryFn: async ({ signal }) => {
      const [piece, plan] = await Promise.all([
        api.get<Piece>(`/pieces/${id}/?recipe=${recipe}`, { signal }), api.get<Plan>(`/pieces/${id}/plan/?recipe=${recipe}`, { signal }),
      ]);
      return { piece, plan };
    },
  }),
  recipes: (id: number, latest: number | null) => queryOptions({
    queryKey: ["pieces", id, "recipes", latest] as const,
    queryFn: ({ signal }) => api.get<RecipeLine[]>(`/pieces/${id}/recipes/`, { signal }),
    staleTime: Infinity,
  }),
  proposals: (id: number, medium: Medium, drawer: number | null, wish: Wish) => queryOptions({
    queryKey: ["pieces", id, "proposals", medium, drawer, wish] as const,
    queryFn: ({ signal }) => api.post<Ramp[]>(`/pieces/${id}/ramp-proposals/`, wish, { signal }),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }),
};

export type Wish = { wish_hex: string; shades: number; shade_hue: "keep" | "cooler" | "warmer" };
export type Glow = Piece["glows"][number];
export type Lamp = { azimuth_deg: number; elevation_deg: number; ambient: number };

/**
 * A change to the piece. Changes of one piece go one after the other, each on the version the last one left, so a
 * quick hand is not refused; a change from another tab still is.
 */
function useChange<Input>(id: number, method: "put" | "post", path: string, body?: (input: Input, piece: Piece | undefined) => unknown) {
  const client = useQueryClient();
  const key = pieceQueries.detail(id).queryKey;
  return useMutation({
    scope: { id: `piece-${id}` },
    mutationFn: (input: Input) => {
      const piece = client.getQueryData(key);
      return api[method]<Piece>(`/pieces/${id}/${path}/`, body?.(input, piece), { version: piece?.version ?? 0 });
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

export type RegionChanges = Partial<{
  name: string; left_as_paper: boolean; form: Form; bulge: number; axis_deg: number | null; depth: number;
  shades: number; wish_hex: string | null; base_mm: [number, number] | null; turn_deg: number; bare_highlight: boolean;
  role: Region["role"]; tags: string[];
}>;

export const useTurnLamp = (id: number) => useChange(id, "put", "lamp", (lamp: Lamp) => lamp);
/** A change to the glows as they stand when it is their turn: two quick ones must not undo each other. */
export const useSetGlows = (id: number) =>
  useChange(id, "put", "glows", (change: (glows: Glow[]) => Glow[], piece) => ({ glows: change(piece?.glows ?? []) }));
export const useSetZoning = (id: number) =>
  useChange(id, "put", "zoning", (zoning: Partial<Pick<Piece, "true_to_scene" | "shadows" | "shade" | "follow">>) => zoning);
export const useDescribeStamp = (id: number) =>
  useChange(id, "put", "stamp", (stamp: Partial<Pick<Piece, "title" | "outline_ink" | "paper" | "finish" | "card">>) => stamp);
export const useChangeRegions = (id: number) =>
  useChange(id, "put", "regions", ({ labels, changes }: { labels: number[]; changes: RegionChanges }) => ({ labels, ...changes }));
export const useJoinRegions = (id: number) => useChange(id, "post", "join", (labels: number[]) => ({ labels }));
export const useMakeBody = (id: number) =>
  useChange(id, "put", "body", (body: { labels: number[]; together: boolean }) => body);
export const gotosQuery = queryOptions({
  queryKey: ["gotos"] as const,
  queryFn: ({ signal }) => api.get<GoTo[]>("/gotos/", { signal }),
});
export const schoolsQuery = queryOptions({
  queryKey: ["schools"] as const,
  queryFn: ({ signal }) => api.get<School[]>("/schools/", { signal }),
});

export const useWishes = (id: number) =>
  useChange(id, "put", "wishes", (wishes: Partial<Pick<Piece, "order_wish" | "masked" | "key" | "touches">>) => wishes);
export const useRemedy = (id: number) => useChange(id, "post", "remedy", ({ kind, regions }: Warning) => ({ kind, regions }));
/** No labels: every region that is still open. */
export const useSharePalette = (id: number) =>
  useChange(id, "put", "share-palette", (choice: { colours: string[]; labels: number[] }) => choice);
export const useLayGoTo = (id: number) =>
  useChange(id, "put", "goto", (choice: { goto: number; labels: number[] }) => choice);

export function useKeepGoTo(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (goto: { label: number; name: string; tags: string[] }) => api.post<GoTo>(`/pieces/${id}/keep-goto/`, goto),
    onSuccess: () => client.invalidateQueries({ queryKey: gotosQuery.queryKey }),
  });
}

export function useDropGoTo() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (goto: number) => api.delete(`/gotos/${goto}/`),
    onSuccess: () => client.invalidateQueries({ queryKey: gotosQuery.queryKey }),
  });
}

export type PaletteWish = { photo: File | null; first_hex: string; scheme: string; count: number; shades: number; locked: string[] };

export const useCounterparts = (id: number) =>
  useMutation({ mutationFn: (wish: { codes: string[]; drawer: number }) => api.post<Swatch[]>(`/pieces/${id}/counterparts/`, wish) });

export function usePalette(id: number) {
  return useMutation({
    mutationFn: ({ photo, locked, ...wish }: PaletteWish) => {
      if (!photo) return api.post<PaletteColour[]>(`/pieces/${id}/palette/`, { ...wish, locked });
      const form = new FormData();
      form.set("photo", photo);
      form.set("count", String(wish.count));
      form.set("shades", String(wish.shades));
      form.set("locked", JSON.stringify(locked));
      return api.post<PaletteColour[]>(`/pieces/${id}/palette/`, form);
    },
  });
}

export function useKeepSchool() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, school }: { id: number | null; school: unknown }) =>
      (id === null ? api.post<School>("/schools/", { school }) : api.put<School>(`/schools/${id}/`, { school })),
    meta: { quiet: true },
    onSuccess: () => client.invalidateQueries({ queryKey: schoolsQuery.queryKey }),
  });
}

export function useDropSchool() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => api.delete(`/schools/${id}/`),
    onSuccess: () => client.invalidateQueries({ queryKey: schoolsQuery.queryKey }),
  });
}

export const useEraseRegion = (id: number) => useChange(id, "post", "erase", (label: number) => ({ label }));
export const usePutBefore = (id: number) =>
  useChange(id, "put", "front", (front: { nearer: number; farther: number }) => front);
export const useFindAgain = (id: number) => useChange(id, "post", "find-again", (sliders: { gap_mm: number; ink: number }) => sliders);
export const useSplitRegion = (id: number) =>
  useChange(id, "post", "split", (barrier: { label: number; line: [number, number][] }) => barrier);
export const useChooseMedium = (id: number) =>
  useChange(id, "put", "medium", (choice: { medium: Medium; drawer: number }) => choice);
export const usePencilOver = (id: number) => useChange(id, "put", "pencil-over", (drawer: number) => ({ drawer }));
export const useChooseSchool = (id: number) => useChange(id, "put", "school", (school: string) => ({ school }));
export const useSetRamp = (id: number) =>
  useChange(id, "put", "ramp", (ramp: { labels: number[]; codes: string[]; wish_hex: string | null; by_hand: boolean }) => ramp);
export const useColourWishes = (id: number) => useChange<void>(id, "post", "colour-wishes");
export const useRestore = (id: number) => {
  const client = useQueryClient();
  const key = pieceQueries.detail(id).queryKey;
  return useMutation({
    scope: { id: `piece-${id}` },
    mutationFn: (recipe: number) =>
      api.post<Piece>(`/pieces/${id}/recipes/${recipe}/restore/`, undefined, { version: client.getQueryData(key)?.version ?? 0 }),
    onSuccess: (piece) => client.setQueryData(key, piece),
  });
};

/** Times change every plan of the medium, so all plans are asked for anew. */
function useRunChange<Input>(id: number, mutationFn: (input: Input) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({ mutationFn, onSuccess: () => client.invalidateQueries({ queryKey: ["pieces", id] }) });
}
export const useLogRun = (id: number) =>
  useRunChange(id, (run: { minutes: number; note: string }) => api.post<Run>(`/pieces/${id}/runs/`, run));
export const useForgetRun = (id: number) => useRunChange(id, (run: number) => api.delete(`/runs/${run}/`));
export const useUndo = (id: number) => useChange<void>(id, "post", "undo");
export const useRedo = (id: number) => useChange<void>(id, "post", "redo");
export const useKeepRecipe = (id: number) => useChange<void>(id, "post", "recipes");

import { keepPreviousData, queryOptions } from "@tanstack/react-query";

import { api } from "./client";
import type {
  Batch,
  CutPlan,
  LaidCard,
  OnePage,
  LightCheck,
  Medium,
  Missing,
  Piece,
  Plan,
  Ramp,
  RecipeLine,
  Run,
  ValueWarning,
  Wish,
} from "./types";

/** Everything that is asked about one piece. What depends on its sheet names the version it belongs to. */
export const pieceQueries = {
  detail: (id: number) =>
    queryOptions({
      queryKey: ["pieces", id] as const,
      queryFn: ({ signal }) => api.get<Piece>(`/pieces/${id}/`, { signal }),
    }),
  /** Its order is that of the newest version while nothing was changed since: `recipe` is its number. */
  plan: (id: number, version: number, recipe: number | null) =>
    queryOptions({
      queryKey: ["pieces", id, "plan", version, recipe] as const,
      queryFn: ({ signal }) => api.get<Plan>(`/pieces/${id}/plan/`, { signal }),
      placeholderData: keepPreviousData,
      staleTime: Infinity,
    }),
  card: (id: number, version: number) =>
    queryOptions({
      queryKey: ["pieces", id, "card", version] as const,
      queryFn: async ({ signal }) =>
        (await api.get<{ laid: LaidCard | null }>(`/pieces/${id}/card-plan/`, { signal })).laid,
      placeholderData: keepPreviousData,
      staleTime: Infinity,
    }),
  cutting: (id: number, version: number) =>
    queryOptions({
      queryKey: ["pieces", id, "cutting", version] as const,
      queryFn: ({ signal }) => api.get<CutPlan>(`/pieces/${id}/cutting/`, { signal }),
      placeholderData: keepPreviousData,
      staleTime: Infinity,
    }),
  onePage: (id: number, unit: "in" | "cm", version: number, recipe: number | null) =>
    queryOptions({
      queryKey: ["pieces", id, "one-page", unit, version, recipe] as const,
      queryFn: ({ signal }) =>
        api.get<OnePage>(`/pieces/${id}/one-page/?unit=${unit}${recipe ? `&recipe=${recipe}` : ""}`, { signal }),
      staleTime: Infinity,
    }),
  lightCheck: (id: number, version: number) =>
    queryOptions({
      queryKey: ["pieces", id, "light-check", version] as const,
      queryFn: ({ signal }) => api.get<LightCheck>(`/pieces/${id}/light-check/`, { signal }),
      staleTime: Infinity,
    }),
  valueWarnings: (id: number, version: number) =>
    queryOptions({
      queryKey: ["pieces", id, "value-warnings", version] as const,
      queryFn: ({ signal }) => api.get<ValueWarning[]>(`/pieces/${id}/value-warnings/`, { signal }),
      placeholderData: keepPreviousData,
      staleTime: Infinity,
    }),
  batch: (id: number, version: number, copies: number) =>
    queryOptions({
      queryKey: ["pieces", id, "batch", version, copies] as const,
      queryFn: ({ signal }) => api.get<Batch>(`/pieces/${id}/batch/?copies=${copies}`, { signal }),
      placeholderData: keepPreviousData,
      staleTime: Infinity,
    }),
  runs: (id: number) =>
    queryOptions({
      queryKey: ["pieces", id, "runs"] as const,
      queryFn: ({ signal }) => api.get<Run[]>(`/pieces/${id}/runs/`, { signal }),
    }),
  recipes: (id: number, latest: number | null) =>
    queryOptions({
      queryKey: ["pieces", id, "recipes", latest] as const,
      queryFn: ({ signal }) => api.get<RecipeLine[]>(`/pieces/${id}/recipes/`, { signal }),
      staleTime: Infinity,
    }),
  /** A kept version as the bench would show it, and its frozen order. */
  kept: (id: number, recipe: number) =>
    queryOptions({
      queryKey: ["pieces", id, "kept", recipe] as const,
      queryFn: async ({ signal }) => {
        const at = `/pieces/${id}/recipes/${recipe}`;
        const [piece, plan] = await Promise.all([
          api.get<Piece>(`${at}/sheet/`, { signal }),
          api.get<Plan>(`${at}/plan/`, { signal }),
        ]);
        return { piece, plan };
      },
    }),
  proposals: (id: number, medium: Medium, drawer: number | null, wish: Wish, atHand: number) =>
    queryOptions({
      queryKey: ["pieces", id, "proposals", medium, drawer, wish, atHand] as const,
      queryFn: ({ signal }) => api.post<Ramp[]>(`/pieces/${id}/ramp-proposals/`, wish, { signal }),
      placeholderData: keepPreviousData,
      staleTime: Infinity,
    }),
  missingPen: (id: number, medium: Medium, drawer: number | null, wish: Wish) =>
    queryOptions({
      queryKey: ["pieces", id, "proposals", "missing", medium, drawer, wish] as const,
      queryFn: ({ signal }) =>
        api.post<Missing>(`/pieces/${id}/missing-pen/`, { ...wish, among: undefined }, { signal }),
      staleTime: Infinity,
    }),
};

/** Addresses of a piece's pictures. */
export const pictureOf = {
  kept: (id: number, version: number, view: string) => `/pieces/${id}/picture/?view=${view}&version=${version}`,
  look: (id: number, version: number, width = 420) => `/pieces/${id}/card-look/?width_px=${width}&version=${version}`,
  small: (id: number, version: number) => `/pieces/${id}/picture/?width_px=420&version=${version}`,
  recipe: (id: number, number: number) => `/pieces/${id}/recipes/${number}/picture/`,
  recipeView: (id: number, number: number, view: string) => `/pieces/${id}/recipes/${number}/picture/?view=${view}`,
  live: (id: number, view: string, lamp: { azimuth_deg: number; elevation_deg: number }) =>
    `/pieces/${id}/picture/?view=${view}&live=true&azimuth_deg=${lamp.azimuth_deg}&elevation_deg=${lamp.elevation_deg}`,
};

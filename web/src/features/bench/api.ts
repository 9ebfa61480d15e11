import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api, papersQuery, pieceQueries, useChange } from "@/shared/api";
import type {
  Glow,
  GoTo,
  Lamp,
  Medium,
  OwnPaper,
  PaletteColour,
  Piece,
  ReaderRead,
  Region,
  RegionChanges,
  Request,
  Run,
  School,
  Swatch,
  ValueWarning,
} from "@/shared/api";
import { decodeLabels } from "./stage/labels";

export type Touch = Piece["finish"]["touches"][number];
type RegionChange = { labels: number[]; changes: RegionChanges | ((now: Region[]) => RegionChanges) };
type Optional<T, K extends keyof T> = Omit<T, K> & Partial<Pick<T, K>>;

function plainLamp(piece: Piece | undefined): Lamp | undefined {
  if (!piece) return undefined;
  const { azimuth_deg, elevation_deg, ambient } = piece.light.lamp;
  return { azimuth_deg, elevation_deg, ambient };
}

/** Labels change only when regions are edited; `regions` names the state. */
export const labelsQuery = (id: number, regions: string) =>
  queryOptions({
    queryKey: ["pieces", id, "labels", regions] as const,
    queryFn: async ({ signal }) => decodeLabels(await api.blob(`/pieces/${id}/labels/`, { signal })),
    staleTime: Infinity,
  });
export const gotosQuery = queryOptions({
  queryKey: ["gotos"] as const,
  queryFn: ({ signal }) => api.get<GoTo[]>("/gotos/", { signal }),
});
export const schoolsQuery = queryOptions({
  queryKey: ["schools"] as const,
  queryFn: ({ signal }) => api.get<School[]>("/schools/", { signal }),
});

/** A paper of one's own, written down. */
export function useKeepPaper() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (paper: Partial<Request<"PaperForm">>) => api.post<OwnPaper>("/papers/", paper),
    meta: { quiet: true },
    onSuccess: () => client.invalidateQueries({ queryKey: papersQuery.queryKey }),
  });
}

export function useDropPaper() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => api.delete(`/papers/${id}/`),
    onSuccess: () => client.invalidateQueries({ queryKey: papersQuery.queryKey }),
  });
}

/** The paper's white as the piece's scan shows it. */
export const usePaperWhite = (id: number) =>
  useMutation({ mutationFn: () => api.get<{ lab: number[]; hex: string }>(`/pieces/${id}/paper-white/`) });

/** The simulated colour reader, held on its white tile or on the stamped sheet. */
export const usePaperReader = (id: number) =>
  useMutation({
    mutationFn: (tile: boolean) => api.post<ReaderRead>(`/pieces/${id}/paper-reader/`, { tile }),
    meta: { quiet: true },
  });

// The sheet's parts.
export const useDescribeStamp = (id: number) => useChange(id, "put", "stamp", (stamp: Request<"StampForm">) => stamp);
export const useDescribeLight = (id: number) => useChange(id, "put", "light", (light: Request<"LightForm">) => light);
export const useDescribeColours = (id: number) =>
  useChange(id, "put", "colours", (colours: Request<"ColoursForm">) => colours);
export const useDescribeOrder = (id: number) => useChange(id, "put", "order", (order: Request<"OrderForm">) => order);
export const useDescribeFinish = (id: number) =>
  useChange(id, "put", "finish", (finish: Request<"FinishForm">) => finish);
/** A change to the finishing touches as they stand when it is its turn. */
export const useSetTouches = (id: number) =>
  useChange(id, "put", "finish", (change: (touches: Touch[]) => Touch[], piece) => ({
    touches: change(piece?.finish.touches ?? []),
  }));
/** What is not named of the lamp stays as it is when it is the change's turn. */
export const useTurnLamp = (id: number) =>
  useChange(id, "put", "lamp", (lamp: Partial<Lamp>, piece) => ({ ...plainLamp(piece), ...lamp }));
/** A change to the glows as they stand when it is their turn: two quick ones must not undo each other. */
export const useSetGlows = (id: number) =>
  useChange(id, "put", "glows", (change: (glows: Glow[]) => Glow[], piece) => ({
    glows: change(piece?.light.glows ?? []),
  }));
export const useChooseMedium = (id: number) =>
  useChange(id, "put", "medium", (choice: { medium: Medium; drawer: number }) => choice);
export const useLayOver = (id: number) => useChange(id, "put", "lay-over", (drawer: number) => ({ drawer }));
export const useChooseSchool = (id: number) => useChange(id, "put", "school", (school: string) => ({ school }));

// Regions.
/** A new value that hangs on the old one is a function of the regions as they stand when it is the change's turn. */
export const useChangeRegions = (id: number) =>
  useChange(id, "put", "regions", ({ labels, changes }: RegionChange, piece) => {
    if (typeof changes !== "function") return { labels, ...changes };
    const regions = labels.flatMap((label) => piece?.regions.list.find((region) => region.label === label) ?? []);
    return { labels, ...changes(regions) };
  });
export const useJoinRegions = (id: number) => useChange(id, "post", "join", (labels: number[]) => ({ labels }));
export const useMakeBody = (id: number) =>
  useChange(id, "put", "body", (body: { labels: number[]; together: boolean }) => body);
export const useGroup = (id: number) => useChange(id, "put", "thing", (group: Request<"Thing">) => group);
export const useAllAlike = (id: number) => useChange(id, "post", "alike", (label: number) => ({ label }));
export const useRenameThing = (id: number) => useChange(id, "put", "thing-name", (name: Request<"ThingName">) => name);
export const useAnswer = (id: number) => useChange(id, "post", "answer", (answer: Request<"Answer">) => answer);
export const useFindThings = (id: number) => useChange<void>(id, "post", "find-things");
export const useEraseRegion = (id: number) => useChange(id, "post", "erase", (label: number) => ({ label }));
export const usePutBefore = (id: number) => useChange(id, "put", "put-before", (pair: Request<"PutBefore">) => pair);
export const useFindAgain = (id: number) =>
  useChange(id, "post", "find-again", (sliders: Request<"FindAgain">) => sliders);
export const useSplitRegion = (id: number) => useChange(id, "post", "split", (barrier: Request<"Split">) => barrier);

// Colours.
/** A ramp for some regions; in the usual medium and instead of other coats unless more is said. */
export const useSetRamp = (id: number) =>
  useChange(
    id,
    "put",
    "ramp",
    (ramp: Optional<Request<"RampForm">, "medium" | "over" | "to_paper" | "strengths" | "drawn_out">) => ramp,
  );
type Swap = Pick<Request<"RampForm">, "labels" | "wish_hex" | "medium" | "over"> & {
  place: number;
  code?: string;
  strength?: number;
};
/** Another swatch, or another strength, in one place of a coat's ramp, as the ramp stands when it is the change's turn. */
export const useSwapSwatch = (id: number) =>
  useChange(id, "put", "ramp", ({ place, code, strength, ...ramp }: Swap, piece) => {
    const region = piece?.regions.list.find((one) => one.label === ramp.labels[0]);
    const swatches = region?.coats.find((coat) => coat.medium === ramp.medium)?.ramp.swatches ?? [];
    const codes = swatches.map((swatch, index) => (index === place && code ? code : swatch.pen_code));
    const strengths = swatches.map((swatch, index) => (index === place && strength ? strength : swatch.strength));
    return { ...ramp, codes, strengths, by_hand: true };
  });
export const useSetAccent = (id: number) => useChange(id, "put", "accent", (accent: Request<"AccentForm">) => accent);

// Grounds.
export const useTakeGround = (id: number) => useChange(id, "post", "ground", (ground: Request<"Ground">) => ground);
export const useLeaveGround = (id: number) => useChange<void>(id, "post", "leave-ground");
export const useDrawHorizon = (id: number) => useChange(id, "put", "horizon", (line: Request<"Horizon">) => line);
/** Moves one handle of a horizon, which is sent with all of them. */
export const useMoveHorizonHandle = (id: number) =>
  useChange(id, "put", "horizon", ({ label, place, to }: { label: number; place: number; to: number[] }, piece) => ({
    label,
    handles: (piece?.regions.horizons.find((one) => one.label === label)?.handles ?? []).map((one, number) =>
      number === place ? to : one,
    ),
  }));
export const useCutBands = (id: number) => useChange(id, "post", "bands", (bands: Request<"Bands">) => bands);
export const useLayGround = (id: number) => useChange(id, "put", "lay-ground", (way: Request<"LayGround">) => way);
export const useColourWishes = (id: number) => useChange<void>(id, "post", "colour-wishes");
export const useRemedy = (id: number) =>
  useChange(id, "post", "remedy", ({ kind, regions }: ValueWarning) => ({ kind, regions }));
/** A line of the value guard is meant so, or is told again. It is no step: the sheet stays as it is. */
export function useLeaveWarning(id: number, version: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (choice: Request<"Leave">) => api.put<ValueWarning[]>(`/pieces/${id}/leave-warning/`, choice),
    onSuccess: (warnings) => client.setQueryData(pieceQueries.valueWarnings(id, version).queryKey, warnings),
  });
}
/** No labels: every region that is still open. */
export const useSharePalette = (id: number) =>
  useChange(id, "put", "share-palette", (choice: Request<"SharePalette">) => choice);
export const useLayGoTo = (id: number) => useChange(id, "put", "goto", (choice: Request<"LayGoTo">) => choice);
export const useCounterparts = (id: number) =>
  useMutation({
    mutationFn: (wish: Optional<Request<"Counterparts">, "medium">) =>
      api.post<Swatch[]>(`/pieces/${id}/counterparts/`, wish),
  });

export function useKeepGoTo(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (goto: Request<"KeepGoTo">) => api.post<GoTo>(`/pieces/${id}/keep-goto/`, goto),
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

export type PaletteWish = {
  photo: File | null;
  first_hex: string;
  scheme: NonNullable<Request<"PaletteForm">["scheme"]>;
  count: number;
  shades: number;
  locked: string[];
};

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

// Schools of one's own.
export function useKeepSchool() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ id, school }: { id: number | null; school: unknown }) =>
      id === null ? api.post<School>("/schools/", { school }) : api.put<School>(`/schools/${id}/`, { school }),
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

// Steps, versions and runs.
export const useUndo = (id: number) => useChange<void>(id, "post", "undo");
export const useRedo = (id: number) => useChange<void>(id, "post", "redo");
export const useKeepRecipe = (id: number) => useChange<void>(id, "post", "recipes");
/** Freezes the sheet once more with the order as it is worked out now. */
export const useKeepNewerOrder = (id: number) => useChange<void>(id, "post", "recipes", () => ({ newer_order: true }));
export const useRestore = (id: number) => useChange(id, "post", (recipe: number) => `recipes/${recipe}/restore`);

/** Times change every plan of the medium, so all plans are asked for anew. */
function useRunChange<Input>(id: number, mutationFn: (input: Input) => Promise<unknown>) {
  const client = useQueryClient();
  return useMutation({ mutationFn, onSuccess: () => client.invalidateQueries({ queryKey: ["pieces", id] }) });
}
export const useLogRun = (id: number) =>
  useRunChange(id, (run: Request<"RunForm">) => api.post<Run>(`/pieces/${id}/runs/`, run));
export const useForgetRun = (id: number) => useRunChange(id, (run: number) => api.delete(`/runs/${run}/`));

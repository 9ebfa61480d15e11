import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import {
  api,
  drawerQueries,
  Problem,
  type ChartLine,
  type ChartSheet,
  type Drawer,
  type DrawerDetail,
  type ImportPreview,
  type Likeness,
  type ReaderRead,
  type Request,
  type Substitute,
} from "@/shared/api";

export const likeQuery = (id: number, hex: string) =>
  queryOptions({
    queryKey: ["drawers", id, "like", hex] as const,
    queryFn: ({ signal }) => api.get<Likeness[]>(`/drawers/${id}/like/?hex=${encodeURIComponent(hex)}`, { signal }),
    enabled: hex !== "",
  });

export const substitutesQuery = (hex: string) =>
  queryOptions({
    queryKey: ["substitutes", hex] as const,
    queryFn: ({ signal }) => api.get<Substitute[]>(`/substitutes/?hex=${encodeURIComponent(hex)}`, { signal }),
  });

/** A table to read: a chosen file, or text that was pasted. */
export type Table = File | string;

function form(table: Table): FormData | { text: string } {
  if (typeof table === "string") return { text: table };
  const data = new FormData();
  data.set("table", table);
  return data;
}

export type SwatchChanges = Request<"PatchedSwatchForm">;

/** A change to the drawer, made on the version that is shown; a change from another tab is not overwritten. */
function useDrawerChange<Input>(
  id: number,
  change: (input: Input, options: { version: number }) => Promise<DrawerDetail>,
) {
  const client = useQueryClient();
  const key = drawerQueries.detail(id).queryKey;
  return useMutation({
    scope: { id: `drawer-${id}` },
    mutationFn: (input: Input) => change(input, { version: client.getQueryData(key)?.version ?? 0 }),
    onSuccess: (drawer) => {
      client.setQueryData(key, drawer);
      void client.invalidateQueries({
        queryKey: ["drawers"],
        predicate: (query) => query.queryKey.length === 1 || query.queryKey[2] === "like",
      });
      void client.invalidateQueries({ queryKey: ["pieces"], predicate: (query) => query.queryKey[2] === "proposals" });
    },
    onError: (error) => {
      if (error instanceof Problem && error.status === 412) void client.invalidateQueries({ queryKey: key });
    },
  });
}

export const useAddSwatch = (id: number) =>
  useDrawerChange(id, (swatch: SwatchChanges, options) =>
    api.post<DrawerDetail>(`/drawers/${id}/swatches/`, swatch, options),
  );
export const useChangeSwatch = (id: number) =>
  useDrawerChange(id, ({ swatch, changes }: { swatch: number; changes: SwatchChanges }, options) =>
    api.patch<DrawerDetail>(`/drawers/${id}/swatches/${swatch}/`, changes, options),
  );
export const useRemoveSwatch = (id: number) =>
  useDrawerChange(id, (swatch: number, options) =>
    api.remove<DrawerDetail>(`/drawers/${id}/swatches/${swatch}/`, options),
  );
export const useImportTable = (id: number) =>
  useDrawerChange(id, (table: Table, options) => api.post<DrawerDetail>(`/drawers/${id}/table/`, form(table), options));
export const usePreviewTable = (id: number) =>
  useMutation({
    mutationFn: (table: Table) => api.post<ImportPreview>(`/drawers/${id}/table-preview/`, form(table)),
    meta: { quiet: true },
  });

export function useAddDrawer() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (drawer: Pick<Drawer, "name" | "medium">) => api.post<DrawerDetail>("/drawers/", drawer),
    onSuccess: () => client.invalidateQueries({ queryKey: drawerQueries.list.queryKey, exact: true }),
  });
}

export function useDeleteDrawer() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => api.delete(`/drawers/${id}/`),
    onSuccess: (_nothing, id) => {
      client.removeQueries({ queryKey: ["drawers", id] });
      return client.invalidateQueries({ queryKey: drawerQueries.list.queryKey, exact: true });
    },
  });
}

export const chartsQuery = (id: number) =>
  queryOptions({
    queryKey: ["drawers", id, "charts"] as const,
    queryFn: ({ signal }) => api.get<ChartSheet[]>(`/drawers/${id}/charts/`, { signal }),
  });

export function useAddChart(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (chart: Request<"ChartForm">) => api.post<ChartSheet>(`/drawers/${id}/charts/`, chart),
    onSuccess: () => client.invalidateQueries({ queryKey: chartsQuery(id).queryKey }),
  });
}

export const useReadChart = (id: number) =>
  useMutation({
    mutationFn: ({ number, photo }: { number: number; photo: File }) => {
      const data = new FormData();
      data.set("photo", photo);
      return api.post<ChartLine[]>(`/drawers/${id}/charts/${number}/read/`, data);
    },
    meta: { quiet: true },
  });
export const useStoreMeasures = (id: number) =>
  useDrawerChange(id, (measures: Request<"Measures">, options) =>
    api.put<DrawerDetail>(`/drawers/${id}/measures/`, measures, options),
  );
export const useReader = (id: number) =>
  useMutation({
    mutationFn: (swatch: number | null) => api.post<ReaderRead>(`/drawers/${id}/reader/`, { swatch }),
    meta: { quiet: true },
  });

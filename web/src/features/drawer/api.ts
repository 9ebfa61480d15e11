import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api, drawerQueries, type ChartLine, type ChartSheet, type Drawer, type DrawerDetail, type ImportPreview, type Likeness, type Measures, type ReaderRead, type StandIn, type SwatchChanges } from "@/shared/api";

export const likeQuery = (id: number, hex: string) => queryOptions({
  queryKey: ["drawers", id, "like", hex] as const,
  queryFn: ({ signal }) => api.get<Likeness[]>(`/drawers/${id}/like/?hex=${encodeURIComponent(hex)}`, { signal }),
  enabled: hex !== "",
});

export const standInsQuery = (hex: string) => queryOptions({
  queryKey: ["substitutes", hex] as const,
  queryFn: ({ signal }) => api.get<StandIn[]>(`/substitutes/?hex=${encodeURIComponent(hex)}`, { signal }),
});

/** A table to read: a chosen file, or text that was pasted. */
export type Table = File | string;

function form(table: Table): FormData | { text: string } {
  if (typeof table === "string") return { text: table };
  const data = new FormData();
  data.set("table", table);
  return data;
}

function useDrawerChange<Input>(id: number, change: (input: Input) => Promise<DrawerDetail>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (drawer) => {
      client.setQueryData(drawerQueries.detail(id).queryKey, drawer);
      void client.invalidateQueries({ queryKey: ["drawers"], predicate: (query) => query.queryKey.length === 1 || query.queryKey[2] === "like" });
      void client.invalidateQueries({ queryKey: ["pieces"], predicate: (query) => query.queryKey[2] === "proposals" });
    },
  });
}

const at = (id: number, code: string) => `/drawers/${id}/swatches/${encodeURIComponent(code)}/`;

export const useAddSwatch = (id: number) =>
  useDrawerChange(id, (swatch: SwatchChanges) => api.post<DrawerDetail>(`/drawers/${id}/swatches/`, swatch));
export const useChangeSwatch = (id: number) =>
  useDrawerChange(id, ({ code, changes }: { code: string; changes: SwatchChanges }) => api.patch<DrawerDetail>(at(id, code), changes));
export const useRemoveSwatch = (id: number) => useDrawerChange(id, (code: string) => api.remove<DrawerDetail>(at(id, code)));
export const useRenameDrawer = (id: number) => useDrawerChange(id, (name: string) => api.patch<DrawerDetail>(`/drawers/${id}/`, { name }));
export const useImportTable = (id: number) =>
  useDrawerChange(id, (table: Table) => api.post<DrawerDetail>(`/drawers/${id}/table/`, form(table)));
export const usePreviewTable = (id: number) =>
  useMutation({ mutationFn: (table: Table) => api.post<ImportPreview>(`/drawers/${id}/table-preview/`, form(table)), meta: { quiet: true } });

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

export const chartsQuery = (id: number) => queryOptions({
  queryKey: ["drawers", id, "charts"] as const,
  queryFn: ({ signal }) => api.get<ChartSheet[]>(`/drawers/${id}/charts/`, { signal }),
});

export function useAddChart(id: number) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (chart: { codes: string[]; paper: "smooth-white" }) => api.post<ChartSheet>(`/drawers/${id}/charts/`, chart),
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
  useDrawerChange(id, (measures: Measures) => api.put<DrawerDetail>(`/drawers/${id}/measures/`, measures));
export const useReader = (id: number) =>
  useMutation({ mutationFn: (code: string) => api.post<ReaderRead>(`/drawers/${id}/reader/`, { code }), meta: { quiet: true } });

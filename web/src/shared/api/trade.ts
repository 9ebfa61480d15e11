import { queryOptions } from "@tanstack/react-query";

import { api } from "./client";
import type { Drawer, DrawerDetail, OwnPaper, Trade } from "./types";

type Page<Item> = { count: number; next: string | null; previous: string | null; results: Item[] };
export type { Page };

/** Media, papers, inks, schools and forms to choose from; they change only with the program. */
export const tradeQuery = queryOptions({
  queryKey: ["trade"] as const,
  queryFn: ({ signal }) => api.get<Trade>("/trade/", { signal }),
  staleTime: Infinity,
});

/** Papers of one's own. */
export const papersQuery = queryOptions({
  queryKey: ["papers"] as const,
  queryFn: ({ signal }) => api.get<OwnPaper[]>("/papers/", { signal }),
});

export const drawerQueries = {
  list: queryOptions({
    queryKey: ["drawers"] as const,
    queryFn: async ({ signal }) => (await api.get<Page<Drawer>>("/drawers/?page_size=200", { signal })).results,
  }),
  detail: (id: number) =>
    queryOptions({
      queryKey: ["drawers", id] as const,
      queryFn: ({ signal }) => api.get<DrawerDetail>(`/drawers/${id}/`, { signal }),
      staleTime: 60_000,
    }),
};

/** What a word of a vocabulary is called on screen. */
export function nameOf(list: { code: string; name: string }[] | undefined, code: string): string {
  return list?.find((item) => item.code === code)?.name ?? "…";
}

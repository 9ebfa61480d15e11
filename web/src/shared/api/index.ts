export { api, Problem } from "./client";
export { queryClient } from "./queryClient";
export { drawerQueries, tradeQuery, type Page } from "./trade";
export type * from "./types";

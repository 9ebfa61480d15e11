export { api, Problem } from "./client";
export { watchKeeping } from "./keeping";
export { queryClient } from "./queryClient";
export { drawerQueries, tradeQuery, type Page } from "./trade";
export type * from "./types";

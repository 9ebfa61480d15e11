import { queryOptions } from "@tanstack/react-query";

import { api } from "./client";
import type { Session } from "./types";

/** Who is signed in. Asking also brings the token that every change must carry. */
export const sessionQuery = queryOptions({
  queryKey: ["session"] as const,
  queryFn: ({ signal }) => api.get<Session>("/session/", { signal }),
  staleTime: 60_000,
});

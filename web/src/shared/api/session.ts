import { queryOptions } from "@tanstack/react-query";

import { api } from "./client";
import type { Session } from "./types";

/** Who is signed in. Asking also brings the token that every change must carry. */
export const sessionQuery = queryOptions({
  queryKey: ["session"] as const,
  queryFn: ({ signal }) => api.get<Session>("/session/", { signal }),
  staleTime: 60_000,
  // While the demo's shelf is being filled it is worth asking again.
  refetchInterval: ({ state }) => (state.data?.demo_to_come ? 3_000 : false),
});

import { MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";

import { tell } from "@/shared/ui/notices";
import { Problem } from "./client";

function signedOutElsewhere(error: unknown) {
  // The session ended in another tab or on the server: ask who is there, and the sign-in page appears.
  if (error instanceof Problem && error.status === 401) void queryClient.invalidateQueries({ queryKey: ["session"] });
}

export const queryClient: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError: signedOutElsewhere }),
  mutationCache: new MutationCache({
    onError: (error, _variables, _context, mutation) => {
      signedOutElsewhere(error);
      if (mutation.meta?.["quiet"]) return;
      tell(error instanceof Error ? error.message : "That did not work. Try again.", "problem");
    },
  }),
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      retry: (count, error) => count < 2 && !(error instanceof Problem && error.status >= 400 && error.status < 500),
    },
  },
});

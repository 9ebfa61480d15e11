import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, sessionQuery, type Session } from "@/shared/api";

type Credentials = { username: string; password: string };

/** Whoever comes or goes, nothing that the last one saw stays in memory. */
function useEnter<Input>(send: (input: Input) => Promise<Session>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: send,
    meta: { quiet: true },
    onSuccess: (session) => {
      client.removeQueries({ predicate: (query) => query.queryKey[0] !== sessionQuery.queryKey[0] });
      client.setQueryData(sessionQuery.queryKey, session);
    },
  });
}

export const useSignIn = () => useEnter((who: Credentials) => api.post<Session>("/session/", who));
export const useOpenDemo = () => useEnter<void>(() => api.post<Session>("/session/demo/"));
export const useOpenAccount = () => useEnter((who: Credentials) => api.post<Session>("/accounts/", who));

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => api.delete("/session/"),
    onSuccess: async () => {
      client.clear();
      // Runs that were kept to work on with go as well; what is not sent yet stays on this device.
      await import("@/shared/api/runStore").then(({ store }) => store.forgetRuns()).catch(() => undefined);
      location.assign("/");
    },
  });
}

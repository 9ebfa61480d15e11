import { queryOptions, useMutation, useQueryClient } from "@tanstack/react-query";

import { api, type Request, type Restore, type AccountStorage } from "@/shared/api";

export const useChangePassword = () =>
  useMutation({
    mutationFn: (passwords: Request<"NewPassword">) => api.put<void>("/accounts/password/", passwords),
    meta: { quiet: true },
  });

/** How much of the account lies on disk, and what is missing there. */
export const storageQuery = queryOptions({
  queryKey: ["storage"] as const,
  queryFn: ({ signal }) => api.get<AccountStorage>("/storage/", { signal }),
});

const PART_BYTES = 4_000_000;
const ASK_EVERY_MS = 400;

/** Sends a backup part by part, has it restored, and tells how far that is. */
export function useRestore(onProgress: (restore: Restore, of: number) => void) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (file: File) => {
      let restore = await api.post<Restore>("/restores/");
      const at = `/restores/${restore.code}/`;
      for (let start = 0; start < file.size; start += PART_BYTES) {
        restore = await api.put<Restore>(`${at}part/?at=${start}`, file.slice(start, start + PART_BYTES));
        onProgress(restore, file.size);
      }
      restore = await api.post<Restore>(at);
      while (restore.state === "working") {
        onProgress(restore, file.size);
        await new Promise((done) => setTimeout(done, ASK_EVERY_MS));
        restore = await api.get<Restore>(at);
      }
      if (restore.state === "refused") throw new Error(restore.words);
      return restore;
    },
    meta: { quiet: true },
    onSuccess: () => client.invalidateQueries(),
  });
}

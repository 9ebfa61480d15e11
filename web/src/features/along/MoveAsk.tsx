import { useMutation, useQuery } from "@tanstack/react-query";

import { api, type RunReadout } from "@/shared/api";
import { Ask, Button } from "@/shared/ui";
import type { RunSync } from "./runSync";

type Moving = { to_version: number; sentences: string[] };
type Props = { open: boolean; onClose: () => void; run: RunReadout; sync: RunSync };

/** A newer version was kept since the run began: what following it would do, and doing it. */
export function MoveAsk({ open, onClose, run, sync }: Props) {
  const told = useQuery({
    queryKey: ["runs", run.id, "move", run.log.length] as const,
    queryFn: ({ signal }) => api.get<Moving>(`/runs/${run.id}/move/`, { signal }),
    enabled: open,
  });
  const move = useMutation({
    mutationFn: () => api.post<RunReadout>(`/runs/${run.id}/move/`),
    onSuccess: async () => {
      await sync.fetch();
      onClose();
    },
  });
  return (
    <Ask open={open} onClose={onClose} title={`Follow version ${told.data?.to_version ?? run.newest_recipe} instead?`}>
      {told.error && <p role="alert">{told.error.message}</p>}
      {told.isPending && <p role="status">Comparing …</p>}
      <ul className="mb-5 ml-5 list-disc">
        {told.data?.sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
      <div className="flex justify-end gap-3 [&>*]:min-h-12">
        <Button onClick={onClose}>Stay with version {run.recipe_number}</Button>
        <Button kind="main" disabled={!told.data} busy={move.isPending} onClick={() => move.mutate()}>
          Follow it
        </Button>
      </div>
    </Ask>
  );
}

import { useQuery } from "@tanstack/react-query";

import type { AccountStorage } from "@/shared/api";
import { counted, Failed, Waiting } from "@/shared/ui";
import { storageQuery } from "./api";

/** How much lies here of what may, and when housekeeping was done. */
export function StorageBox() {
  const storage = useQuery(storageQuery);
  if (storage.isError) return <Failed error={storage.error} onRetry={() => void storage.refetch()} />;
  if (!storage.data) return <Waiting what="Counting what lies here" />;
  const { pieces, most_pieces, bytes, most_bytes, tidied } = storage.data;
  return (
    <div className="flex flex-col gap-2">
      <p>
        {counted(pieces, "piece")} of at most {most_pieces.toLocaleString("en")}, and {size(bytes)} of pictures of at
        most {size(most_bytes)}.
      </p>
      <span aria-hidden className="block h-1 bg-line">
        <span className="block h-1 bg-ink" style={{ width: `${(100 * bytes) / most_bytes}%` }} />
      </span>
      <p className="text-soft">{tidied ? whatWasDone(tidied) : "Housekeeping has not been done yet."}</p>
    </div>
  );
}

function whatWasDone(tidied: NonNullable<AccountStorage["tidied"]>): string {
  const when = new Date(tidied.at).toLocaleString("en-GB", { dateStyle: "medium", timeStyle: "short" });
  const done = [
    tidied.pictures && counted(tidied.pictures, "picture that nothing refers to", "pictures that nothing refers to"),
    tidied.restores && counted(tidied.restores, "broken-off restore"),
    tidied.sessions && counted(tidied.sessions, "ended sign-in"),
    tidied.visits && counted(tidied.visits, "old copy of the demo", "old copies of the demo"),
  ].filter(Boolean);
  return `Housekeeping, once a day for everybody here, was done on ${when}: ${done.length ? `${done.join(", ")} removed` : "nothing to remove"}.`;
}

function size(bytes: number): string {
  return bytes >= 1e9 ? `${(bytes / 1e9).toFixed(1)} GB` : `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, type Restore } from "@/shared/api";
import { counted, FileButton, Refusal } from "@/shared/ui";
import { storageQuery, useRestore } from "./api";

const KINDS: Record<string, [string, string]> = {
  drawers: ["drawer", "drawers"],
  schools: ["school", "schools"],
  gotos: ["go-to", "go-tos"],
  pieces: ["piece", "pieces"],
  recipes: ["kept version", "kept versions"],
  runs: ["run", "runs"],
  papers: ["paper", "papers"],
  checks: ["photo check", "photo checks"],
};

/** What a backup would have to leave out, before it is made. */
function Lost() {
  const missing = useQuery(storageQuery).data?.missing ?? [];
  if (missing.length === 0) return null;
  const titles = missing.map((title) => title || "a photo of a run");
  return (
    <p role="status" className="rounded bg-faint p-3">
      Left out, since their pictures are gone from the disk: {titles.join(", ")}. An older backup may still have them.
    </p>
  );
}

/** One file with everything of the account, and the way back from it. */
export function BackupBox() {
  const [far, setFar] = useState<{ words: string; share: number } | null>(null);
  const restore = useRestore((now, size) => setFar(howFar(now, size)));

  function bring(file: File) {
    setFar({ words: "Sending the file", share: 0 });
    restore.mutate(file, { onSettled: () => setFar(null) });
  }

  return (
    <div className="flex flex-col gap-3">
      <p>
        Everything of this account in one file: pieces with their pictures, steps and kept versions, drawers and charts,
        papers, schools, go-tos, runs and photo checks.
      </p>
      <Lost />
      <p>
        <a
          className="inline-block rounded bg-ink px-3 py-1.5 text-sheet hover:bg-black"
          href={api.url("/backup/")}
          download
        >
          Save a backup
        </a>
      </p>
      <div className="border-t border-line pt-3">
        <p className="mb-2">
          Bring a backup back: all of it or, if anything in it is wrong, nothing. What is here already stays as it is.
        </p>
        <FileButton
          name="Backup file"
          accept=".zip,application/zip"
          look="plain"
          disabled={restore.isPending}
          onFile={bring}
        >
          Restore from a file
        </FileButton>
      </div>
      {far && (
        <div role="status">
          <p>{far.words} …</p>
          <progress className="h-3 w-full accent-ink" max={1} value={far.share} aria-label={far.words} />
        </div>
      )}
      <Refusal error={restore.error} />
      {restore.data && <Result restore={restore.data} />}
    </div>
  );
}

function Result({ restore }: { restore: Restore }) {
  const back = listed(restore.made);
  const there = listed(restore.known);
  const leftOut = listed(restore.left_out);
  return (
    <div role="status" className="rounded bg-faint p-3">
      <p>{back ? `Brought back: ${back}.` : "Nothing was missing."}</p>
      {there && <p className="text-soft">Here already: {there}.</p>}
      {leftOut && <p>Left out, since their pictures were gone when the backup was made: {leftOut}.</p>}
    </div>
  );
}

function listed(counts: Record<string, number>): string {
  return Object.entries(KINDS)
    .filter(([kind]) => counts[kind])
    .map(([kind, [one, many]]) => counted(counts[kind] ?? 0, one, many))
    .join(", ");
}

function howFar(restore: Restore, size: number): { words: string; share: number } {
  if (restore.state === "receiving") return { words: "Sending the file", share: restore.received_bytes / size };
  return { words: restore.words || "Waiting for its turn", share: restore.total ? restore.done / restore.total : 0 };
}

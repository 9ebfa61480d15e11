import { openDB, type DBSchema, type IDBPDatabase } from "idb";

import type { RunEvent, RunReadout } from "./types";

/** A run as this browser keeps it, so that it goes on without the server. */
export type KeptRun = { id: number; run: RunReadout; picture?: Blob; map?: Blob };
/**
 * Something the server has not taken yet. `refused` is why it did not take it: it stays here, and is not sent again,
 * until the person says what becomes of it.
 */
export type Unsent = {
  id: string;
  run: number;
  at_s: number;
  event?: RunEvent;
  photo?: UnsentPhoto;
  refused?: string;
};
export type UnsentPhoto = { file: Blob; card: number; text: string };

interface Along extends DBSchema {
  runs: { key: number; value: KeptRun };
  outbox: { key: string; value: Unsent; indexes: { run: number } };
}

let opened: Promise<IDBPDatabase<Along>> | undefined;

function database() {
  opened ??= openDB<Along>("paleta-along", 1, {
    upgrade(made) {
      made.createObjectStore("runs", { keyPath: "id" });
      made.createObjectStore("outbox", { keyPath: "id" }).createIndex("run", "run");
    },
  });
  return opened;
}

export const store = {
  async run(id: number) {
    return (await database()).get("runs", id);
  },
  async keepRun(kept: KeptRun) {
    await (await database()).put("runs", kept);
  },
  /** A tick counts once this has come back: it is on the disk then. */
  async put(unsent: Unsent) {
    const writing = (await database()).transaction("outbox", "readwrite", { durability: "strict" });
    await Promise.all([writing.store.put(unsent), writing.done]);
  },
  async unsent(run: number) {
    return (await database()).getAllFromIndex("outbox", "run", run);
  },
  /** Keep with lines why they were refused, by id; null lets one be sent again. */
  async mark(reasons: Map<string, string | null>) {
    const writing = (await database()).transaction("outbox", "readwrite");
    for (const [id, reason] of reasons) {
      const found = await writing.store.get(id);
      if (found) await writing.store.put({ ...found, refused: reason ?? undefined });
    }
    await writing.done;
  },
  async sent(ids: string[]) {
    const writing = (await database()).transaction("outbox", "readwrite");
    await Promise.all([...ids.map((id) => writing.store.delete(id)), writing.done]);
  },
  /** What was kept to work on with; what is not sent yet stays. */
  async forgetRuns() {
    await (await database()).clear("runs");
  },
};

import "fake-indexeddb/auto";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import type { RunEvent } from "@/shared/api";
import { store } from "@/shared/api/runStore";
import { RunSync } from "./runSync";

const READOUT = { id: 1, plan: "p", recipe_id: 5, recipe_number: 1, piece_id: 2, log: [], last: 0 };

/** A server that keeps a log, answers or does not, and may lose an answer on its way. */
class Server {
  log: RunEvent[] = [];
  silent = false;
  losesAnswers = 0;
  /** What it says of every line it refuses, and the status it answers photos with. */
  refuses = "";
  photoStatus = 200;

  // eslint-disable-next-line @typescript-eslint/require-await -- as fetch, it throws and answers later
  readonly fetch = vi.fn(async (address: string, options?: RequestInit): Promise<Response> => {
    if (this.silent) throw new TypeError("no answer");
    if (address.endsWith("/events/")) {
      const { events, seen } = JSON.parse(options?.body as string) as { events: RunEvent[]; seen: number };
      if (this.refuses) {
        const refused = events.map(({ id }) => ({ id, detail: this.refuses }));
        return Response.json({ accepted: [], refused, events: [], last: 0 });
      }
      for (const event of events) if (!this.log.some((one) => one.id === event.id)) this.log.push(event);
      if (this.losesAnswers > 0) {
        this.losesAnswers--;
        throw new TypeError("the answer was lost");
      }
      const accepted = events.map((event) => event.id);
      return Response.json({ accepted, refused: [], events: this.log.slice(seen), last: this.log.length });
    }
    if (address.endsWith("/photos/") && this.photoStatus !== 200)
      return Response.json({ detail: "no", type: "/problems/x" }, { status: this.photoStatus });
    if (address.endsWith("/photos/")) return Response.json(READOUT);
    if (address.endsWith("/runs/1/")) return Response.json({ ...READOUT, log: this.log, last: this.log.length });
    return new Response(new Blob(["x"]));
  });
}

let server: Server;

beforeEach(() => {
  server = new Server();
  vi.stubGlobal("fetch", server.fetch);
  vi.stubGlobal("document", { cookie: "csrftoken=x", addEventListener: () => 0, removeEventListener: () => 0 });
  vi.stubGlobal("window", { addEventListener: () => 0, removeEventListener: () => 0 });
});
afterEach(async () => {
  vi.unstubAllGlobals();
  await store.forgetRuns();
  await store.sent((await store.unsent(1)).map((one) => one.id));
});

async function opened(): Promise<RunSync> {
  const sync = new RunSync(1);
  await sync.fetch();
  return sync;
}

describe("a run on this device", () => {
  it("keeps a line before it counts, sends it, and takes it out of what is not sent", async () => {
    const sync = await opened();
    await sync.write({ kind: "laid", passes: [1] });
    expect(sync.state.unsent).toHaveLength(1);
    await sync.sync();
    expect(server.log.map((event) => event.passes)).toEqual([[1]]);
    expect(await store.unsent(1)).toEqual([]);
    expect(sync.state.kept?.run.log).toHaveLength(1);
  });

  it("loses and doubles nothing while the server is silent, nor when an answer is lost", async () => {
    const sync = await opened();
    server.silent = true;
    await sync.write({ kind: "laid", passes: [1] });
    await sync.write({ kind: "laid", passes: [2] });
    await sync.sync();
    expect(sync.state.online).toBe(false);
    server.silent = false;
    server.losesAnswers = 1;
    await sync.sync();
    expect(await store.unsent(1)).toHaveLength(2);
    await sync.sync();
    expect(server.log).toHaveLength(2);
    expect(await store.unsent(1)).toEqual([]);
    expect(new Set(sync.state.kept?.run.log.map((event) => event.id)).size).toBe(2);
  });

  it("goes on from what is kept after a start without the server", async () => {
    const first = await opened();
    server.silent = true;
    await first.write({ kind: "laid", passes: [1] });
    const second = new RunSync(1);
    const close = second.open();
    await vi.waitFor(() => expect(second.state.unsent).toHaveLength(1));
    expect(second.state.kept?.run.plan).toBe("p");
    close();
  });

  it("keeps a refused line, says why, and sends it again only when it is told to", async () => {
    const sync = await opened();
    server.refuses = "another plan";
    await sync.write({ kind: "laid", passes: [1] });
    await sync.sync();
    const [line] = sync.state.unsent;
    expect(line?.refused).toBe("another plan");
    server.refuses = "";
    await sync.sync();
    expect(server.log).toHaveLength(0);
    await sync.sendAgain(line?.id ?? "");
    expect(server.log).toHaveLength(1);
    expect(await store.unsent(1)).toEqual([]);
  });

  it("lets a refused line go only when it is thrown away", async () => {
    const sync = await opened();
    server.refuses = "no";
    await sync.write({ kind: "laid", passes: [1] });
    await sync.sync();
    await sync.discard(sync.state.unsent[0]?.id ?? "");
    expect(await store.unsent(1)).toEqual([]);
    expect(server.log).toHaveLength(0);
  });

  it.each([401, 429, 503])("keeps a photo for later when the answer is %i", async (status) => {
    const sync = await opened();
    server.photoStatus = status;
    await sync.writePhoto(new Blob(["x"]), 1, "");
    await sync.sync();
    expect((await store.unsent(1)).map((one) => one.refused)).toEqual([undefined]);
    server.photoStatus = 200;
    await sync.sync();
    expect(await store.unsent(1)).toEqual([]);
  });

  it("keeps a photo that takes too long, and says so", async () => {
    const sync = await opened();
    server.photoStatus = 422;
    await sync.writePhoto(new Blob(["x"]), 1, "");
    await sync.sync();
    expect((await store.unsent(1)).map((one) => one.refused)).toEqual(["no"]);
  });
});

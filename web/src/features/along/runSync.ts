import { api, pictureOf, Problem, type RunEvent, type RunReadout, type SyncResult } from "@/shared/api";
import { store, type KeptRun, type Unsent } from "@/shared/api/runStore";

export type RunSyncState = {
  kept: KeptRun | null;
  unsent: Unsent[];
  /** Whether the server answered when last asked. */
  online: boolean;
  problem: Problem | null;
};

/** What a line of the log says of itself; id, time and plan are added when it is written. */
export type Line = Omit<RunEvent, "id" | "at_s" | "plan" | "card"> & { card?: number };

/** Every change must carry a token; a page that was opened here first has to ask for it. */
async function withToken() {
  if (!document.cookie.includes("csrftoken=")) await api.get("/session/").catch(() => undefined);
}

/** Whether the same may be taken later: nobody answered, one is signed out, asked too often, or the server is ill. */
const passes = ({ status }: Problem) => status >= 500 || [0, 401, 403, 408, 429].includes(status);

const AGAIN_MS = 4000;
const LINES_AT_ONCE = 500;

/**
 * One run on this device: its log is what the server is known to have and what is not sent yet. Whatever is written is
 * on this device's disk before it counts, and is sent as soon as the server answers.
 */
export class RunSync {
  state: RunSyncState = { kept: null, unsent: [], online: true, problem: null };
  private readonly listeners = new Set<() => void>();
  private channel: BroadcastChannel | undefined;
  private timer: ReturnType<typeof setInterval> | undefined;
  private sending: Promise<void> | null = null;
  private again = false;

  constructor(readonly id: number) {}

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  readonly read = () => this.state;

  private set(part: Partial<RunSyncState>) {
    this.state = { ...this.state, ...part };
    this.listeners.forEach((listener) => listener());
  }

  /** Show what is kept here, then ask the server. */
  open(): () => void {
    const channel = (this.channel = new BroadcastChannel("paleta-along"));
    void this.start();
    const wake = () => void this.sync();
    window.addEventListener("online", wake);
    document.addEventListener("visibilitychange", wake);
    channel.onmessage = (message: MessageEvent<number>) => message.data === this.id && void this.reread();
    this.timer = setInterval(wake, AGAIN_MS);
    return () => {
      window.removeEventListener("online", wake);
      document.removeEventListener("visibilitychange", wake);
      clearInterval(this.timer);
      channel.close();
    };
  }

  private async start() {
    try {
      await this.reread();
    } catch {
      const words =
        "This browser does not let Paleta keep a run on the device (a private window?). Use an ordinary one.";
      return this.set({ problem: new Problem(0, "no_room_here", words) });
    }
    await this.fetch();
    await this.sync();
  }

  private async reread() {
    const [kept, unsent] = await Promise.all([store.run(this.id), store.unsent(this.id)]);
    this.set({ kept: kept ?? this.state.kept, unsent });
  }

  /** The run as the server has it, and its pictures. */
  async fetch() {
    try {
      const run = await api.get<RunReadout>(`/runs/${this.id}/`);
      const known = this.state.kept;
      const same = known?.run.recipe_id === run.recipe_id;
      await this.keep({ ...(same ? known : {}), id: this.id, run });
      this.set({ online: true, problem: null });
      if (!same || !known?.picture || !known.map) await this.fetchPictures(run);
    } catch (error) {
      this.stumble(error);
    }
  }

  private async fetchPictures(run: RunReadout) {
    const [picture, map] = await Promise.all([
      api.blob(pictureOf.recipe(run.piece_id ?? 0, run.recipe_number ?? 0)),
      api.blob(`/runs/${this.id}/map/`),
    ]);
    if (this.state.kept) await this.keep({ ...this.state.kept, picture, map });
  }

  private async keep(kept: KeptRun) {
    this.set({ kept });
    await store.keepRun(kept);
  }

  private stumble(error: unknown) {
    if (!(error instanceof Problem)) throw error;
    const silent = error.status === 0 || error.status >= 500;
    this.set({ online: !silent, problem: silent ? this.state.problem : error });
  }

  /** Write a line of the log. It counts when this comes back, with its id. */
  async write(line: Line): Promise<string | undefined> {
    const run = this.state.kept?.run;
    if (!run) return undefined;
    const event: RunEvent = { card: 1, ...line, id: crypto.randomUUID(), at_s: Date.now() / 1000, plan: run.plan };
    await this.put({ id: event.id, run: this.id, at_s: event.at_s, event });
    return event.id;
  }

  async writePhoto(file: Blob, card: number, text: string) {
    await this.put({ id: crypto.randomUUID(), run: this.id, at_s: Date.now() / 1000, photo: { file, card, text } });
  }

  private async put(unsent: Unsent) {
    await store.put(unsent);
    this.set({ unsent: [...this.state.unsent, unsent] });
    this.channel?.postMessage(this.id);
    void this.sync();
  }

  /** Send what is not sent, hear what others wrote. Never twice at once; what is asked meanwhile is done after it. */
  sync(): Promise<void> {
    if (this.sending) {
      this.again = true;
      return this.sending;
    }
    this.sending = this.exchange().finally(() => {
      this.sending = null;
      if (this.again) {
        this.again = false;
        void this.sync();
      }
    });
    return this.sending;
  }

  private async exchange() {
    const kept = this.state.kept;
    if (!kept) return this.fetch();
    await withToken();
    const waiting = (await store.unsent(this.id)).filter((one) => one.refused === undefined);
    const events = waiting.flatMap(({ event }) => event ?? []).slice(0, LINES_AT_ONCE);
    try {
      const told = await api.post<SyncResult>(`/runs/${this.id}/events/`, { events, seen: kept.run.last });
      await this.hear(told);
      for (const one of waiting) if (one.photo) await this.sendPhoto(one);
      this.set({ online: true, problem: null });
    } catch (error) {
      this.stumble(error);
    }
  }

  private async hear(told: SyncResult) {
    const kept = this.state.kept;
    if (!kept) return;
    const known = new Set(kept.run.log.map((event) => event.id));
    const fresh = told.events.filter((event) => !known.has(event.id));
    // Kept first, taken out of the outbox after: a line is in two places for a moment, never in none.
    if (fresh.length || told.last !== kept.run.last)
      await this.keep({ ...kept, run: { ...kept.run, log: [...kept.run.log, ...fresh], last: told.last } });
    if (told.accepted.length) await store.sent(told.accepted);
    if (told.refused.length) await store.mark(new Map(told.refused.map((one) => [one.id, one.detail])));
    if (told.accepted.length || told.refused.length) await this.reread();
    if (fresh.some((event) => event.kind === "moved")) await this.fetch();
  }

  private async sendPhoto({ id, at_s, photo }: Unsent) {
    if (!photo) return;
    const form = new FormData();
    form.set("photo", photo.file, "card.jpg");
    form.set("id", id);
    form.set("at_s", String(at_s));
    form.set("card", String(photo.card));
    form.set("text", photo.text);
    try {
      const run = await api.post<RunReadout>(`/runs/${this.id}/photos/`, form);
      if (this.state.kept) await this.keep({ ...this.state.kept, run });
    } catch (error) {
      if (!(error instanceof Problem) || passes(error)) throw error;
      await store.mark(new Map([[id, error.message]]));
      return this.reread();
    }
    await store.sent([id]);
    await this.reread();
  }

  /** Try a refused line again. */
  async sendAgain(id: string) {
    await store.mark(new Map([[id, null]]));
    await this.reread();
    await this.sync();
  }

  /** Throw a refused line away: the only way something goes that the server never had. */
  async discard(id: string) {
    await store.sent([id]);
    await this.reread();
    this.channel?.postMessage(this.id);
  }
}

/** What went wrong, in the server's own sentence (a problem document, RFC 9457). */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    detail: string,
    readonly fields: Record<string, string> = {},
  ) {
    super(detail);
  }
}

type Options = { signal?: AbortSignal | undefined; version?: number };

const ROOT = "/api/v1";

function csrf(): string {
  return /(?:^|; )csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? "";
}

async function toProblem(response: Response): Promise<Problem> {
  try {
    const body = (await response.json()) as {
      type?: string;
      detail?: string;
      errors?: { pointer: string; detail: string }[];
    };
    const fields = Object.fromEntries(
      (body.errors ?? []).map((error) => [error.pointer.replace(/^#\//, ""), error.detail]),
    );
    return new Problem(
      response.status,
      (body.type ?? "").replace("/problems/", ""),
      body.detail ?? response.statusText,
      fields,
    );
  } catch {
    return new Problem(response.status, "unreadable", "The server gave an answer that cannot be read. Try again.");
  }
}

async function send(
  method: string,
  path: string,
  body?: unknown,
  { signal, version }: Options = {},
): Promise<Response> {
  const headers: Record<string, string> = { Accept: "application/json", "X-CSRFToken": csrf() };
  if (version !== undefined) headers["If-Match"] = `"${version}"`;
  let payload: BodyInit | null = null;
  if (body instanceof FormData) payload = body;
  else if (body instanceof Blob) {
    headers["Content-Type"] = "application/octet-stream";
    payload = body;
  } else if (body !== undefined) {
    headers["Content-Type"] = "application/json";
    payload = JSON.stringify(body);
  }
  let response: Response;
  try {
    // A change that is under way outlives its page, unless its body is larger than browsers let outlive one. What can
    // be given up (a signal was handed in) only asks.
    const keepalive =
      method !== "GET" && !signal && (payload === null || (typeof payload === "string" && payload.length < 16_000));
    response = await fetch(ROOT + path, {
      method,
      headers,
      body: payload,
      signal: signal ?? null,
      credentials: "same-origin",
      keepalive,
    });
  } catch (error) {
    if (signal?.aborted) throw error;
    throw new Problem(0, "no_answer", "Paleta does not answer. Is it still running? Nothing you kept is lost.");
  }
  if (!response.ok) throw await toProblem(response);
  return response;
}

async function json<T>(response: Promise<Response>): Promise<T> {
  const answer = await response;
  return (answer.status === 204 ? undefined : await answer.json()) as T;
}

export const api = {
  get: <T>(path: string, options?: Options) => json<T>(send("GET", path, undefined, options)),
  post: <T>(path: string, body?: unknown, options?: Options) => json<T>(send("POST", path, body, options)),
  put: <T>(path: string, body?: unknown, options?: Options) => json<T>(send("PUT", path, body, options)),
  patch: <T>(path: string, body?: unknown, options?: Options) => json<T>(send("PATCH", path, body, options)),
  /** A deletion that answers with what is left. */
  remove: <T>(path: string, options?: Options) => json<T>(send("DELETE", path, undefined, options)),
  delete: (path: string) => json<void>(send("DELETE", path)),
  blob: async (path: string, options?: Options) => (await send("GET", path, undefined, options)).blob(),
  url: (path: string) => ROOT + path,
};

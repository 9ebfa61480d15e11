import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { api, Problem } from "./client";

const asked = vi.fn<(path: string, options: RequestInit) => Promise<Response>>();

function answer(status: number, body?: unknown) {
  asked.mockResolvedValue(new Response(body === undefined ? null : JSON.stringify(body), { status }));
}

function sent(): RequestInit & { headers: Record<string, string> } {
  return asked.mock.calls[0]?.[1] as RequestInit & { headers: Record<string, string> };
}

beforeEach(() => {
  vi.stubGlobal("fetch", asked);
  vi.stubGlobal("document", { cookie: "other=1; csrftoken=abc123; more=2" });
});

afterEach(() => {
  asked.mockReset();
  vi.unstubAllGlobals();
});

describe("what is sent", () => {
  it("carries the token, and the version a change was made on", async () => {
    answer(200, { done: true });
    await expect(api.put("/pieces/7/lamp/", { azimuth_deg: 3 }, { version: 12 })).resolves.toEqual({ done: true });
    expect(asked.mock.calls[0]?.[0]).toBe("/api/v1/pieces/7/lamp/");
    expect(sent()).toMatchObject({ method: "PUT", body: '{"azimuth_deg":3}', keepalive: true });
    expect(sent().headers).toMatchObject({
      "X-CSRFToken": "abc123",
      "If-Match": '"12"',
      "Content-Type": "application/json",
    });
  });

  it("outlives its page only while it is small enough and nobody may give it up", async () => {
    for (const [body, options, outlives] of [
      [{ note: "x" }, {}, true],
      [{ note: "x".repeat(20_000) }, {}, false],
      [{ note: "x" }, { signal: new AbortController().signal }, false],
    ] as const) {
      asked.mockReset();
      answer(200, {});
      await api.post("/pieces/", body, options);
      expect(sent().keepalive).toBe(outlives);
    }
  });

  it("names no version and no kind where there is none", async () => {
    answer(200, []);
    await api.get("/pieces/");
    expect(Object.keys(sent().headers).sort()).toEqual(["Accept", "X-CSRFToken"]);
    expect(sent().keepalive).toBe(false);
  });

  it("sends a part of a file as it is", async () => {
    answer(200, {});
    await api.put("/restores/a/part/?at=0", new Blob(["PK"]));
    expect(sent().headers["Content-Type"]).toBe("application/octet-stream");
    expect(sent().body).toBeInstanceOf(Blob);
  });
});

describe("what comes back", () => {
  async function problemOf(promise: Promise<unknown>): Promise<Problem> {
    const error = await promise.then(
      () => null,
      (fault: unknown) => fault,
    );
    expect(error).toBeInstanceOf(Problem);
    return error as Problem;
  }

  it("is nothing where there is nothing", async () => {
    answer(204);
    await expect(api.delete("/pieces/7/")).resolves.toBeUndefined();
  });

  it("is a problem with its sentence, its code and the fields at fault", async () => {
    answer(422, {
      type: "/problems/invalid_fields",
      detail: "Some fields need another look.",
      errors: [{ pointer: "#/glows/0/x_mm", code: "max_value", detail: "Too far." }],
    });
    const problem = await problemOf(api.put("/x/", {}));
    expect(problem).toMatchObject({ status: 422, code: "invalid_fields", message: "Some fields need another look." });
    expect(problem.fields).toEqual({ "glows/0/x_mm": "Too far." });
  });

  it("is a sentence too where the answer is none of ours, or there is none", async () => {
    asked.mockResolvedValue(new Response("<h1>Bad gateway</h1>", { status: 502 }));
    expect(await problemOf(api.get("/x/"))).toMatchObject({ status: 502, code: "unreadable" });
    asked.mockRejectedValue(new TypeError("Failed to fetch"));
    expect(await problemOf(api.get("/x/"))).toMatchObject({ status: 0, code: "no_answer" });
  });

  it("stays an abort where whoever asked gave it up", async () => {
    const giveUp = new AbortController();
    giveUp.abort();
    asked.mockRejectedValue(new DOMException("aborted", "AbortError"));
    await expect(api.get("/x/", { signal: giveUp.signal })).rejects.not.toBeInstanceOf(Problem);
  });
});

import { sql } from "drizzle-orm";
import { afterAll, beforeAll, describe, expect, test, vi } from "vitest";
import type { Store } from "../db/store.ts";
import { Done, operation, z } from "../operations/operation.ts";
import { OPERATIONS } from "../operations/registry.ts";
import { UseCaseError } from "../usecases/failure.ts";
import { standIn, temporaryStore } from "../usecases/testStore.ts";
import { answer, makeRouter } from "./router.ts";
import { benchSecret } from "./secret.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("router"));
  leave = standIn(opened);
});
afterAll(async () => {
  leave();
  await close();
});

const HOST = "127.0.0.1:4310";
const SOME = "00000000-0000-4000-8000-000000000000";

type Sending = { headers?: Record<string, string>; body?: BodyInit; origin?: string | null };
function request(method: string, path: string, { headers = {}, body, origin = `http://${HOST}` }: Sending = {}): Request {
  const own = { host: HOST, ...(origin ? { origin } : {}), ...(body === undefined ? {} : { "content-type": "application/json" }) };
  return new Request(`http://${HOST}/api/${path}`, { method, headers: { ...own, ...headers }, body });
}
const ask = async (method: string, path: string, sending?: Sending) => {
  const found = await answer(request(method, path, sending));
  return {
    status: found.status,
    body: (await found.json().catch(() => undefined)) as { error?: string; details?: Record<string, string> } | undefined,
  };
};

describe("refused before anything is opened", () => {
  test.each([
    ["GET", "nothing/here", 404],
    ["POST", "cases", 403],
    ["DELETE", `cases/${SOME}`, 403],
    ["POST", "uploads", 403],
    ["POST", `cases/${SOME}/follow`, 403],
    ["DELETE", `recipes/${SOME}`, 403],
    ["GET", "uploads", 404],
    ["GET", "runs/not-an-id/history", 404],
    ["GET", "cases/..%2f..%2fetc/assessment", 404],
    ["PATCH", `cases/${SOME}`, 404],
  ])("%s %s without an origin: %i", async (method, path, status) => expect((await ask(method, path, { origin: null })).status).toBe(status));
  test.each(
    Object.values(OPERATIONS).flatMap((list) =>
      list.filter((o) => o.method !== "get").map((o) => [o.method.toUpperCase(), o.path, o.caller] as const),
    ),
  )("%s %s from elsewhere", async (method, path, caller) => {
    const place = path.replace(/\{\w+\}/g, SOME).slice(1);
    const { status } = await ask(method, place, { origin: "http://evil.example", body: method === "DELETE" ? undefined : "{}" });
    expect(status).toBe(caller === "node" ? 401 : 403);
  });
  test("a borrowed name", async () => {
    const borrowed = { headers: { host: "evil.example" }, origin: "http://evil.example" };
    expect((await ask("GET", "schema/report", borrowed)).status).toBe(421);
    // Uploads and what nodes send go past the proxy: the guard here is the only one.
    expect((await ask("POST", "uploads", borrowed)).status).toBe(421);
    expect((await ask("POST", "node/take", borrowed)).status).toBe(421);
    expect((await ask("GET", "nothing", borrowed)).status).toBe(421);
  });
});

describe("what is sent", () => {
  test("in the wrong shape: 422, where and why, for every field", async () => {
    const { status, body } = await ask("POST", `cases/${SOME}/answers`, { body: JSON.stringify({ rule: 3, reason: " " }) });
    expect(status).toBe(422);
    expect(body?.error).toMatch(/^rule: /);
    expect(body?.details).toEqual({ rule: expect.any(String), reason: "Say why it is accepted." });
  });
  test("that is no JSON, or nothing", async () => {
    expect(await ask("POST", `cases/${SOME}/answers`, { body: "{" })).toEqual({ status: 422, body: { error: "What was sent is not JSON." } });
    expect((await ask("POST", `cases/${SOME}/answers`)).status).toBe(422);
  });
  test("cut off, or too long", async () => {
    const cut = await ask("POST", `cases/${SOME}/answers`, { body: "{}", headers: { "content-length": "9" } });
    expect(cut).toMatchObject({ status: 422, body: { error: "What was sent arrived cut off. Try again." } });
    const long = await ask("POST", `cases/${SOME}/answers`, { body: "{}", headers: { "content-length": String(41 * 1024 * 1024) } });
    expect(long).toMatchObject({ status: 422, body: { error: "That is more than 40 MB." } });
    const unsaid = await ask("POST", `cases/${SOME}/answers`, { body: `"${"x".repeat(41 * 1024 * 1024)}"` });
    expect(unsaid).toMatchObject({ status: 422, body: { error: "That is more than 40 MB." } });
  });
  test("of nothing that is there: the use case's sentence", async () =>
    expect(await ask("GET", `cases/${SOME}/assessment`)).toMatchObject({ status: 404, body: { error: expect.stringContaining("no such case") } }));
  test("a made case is answered by its name alone, and can be asked for", async () => {
    const made = await ask("POST", "cases", {
      body: JSON.stringify({
        title: "Made here",
        purpose: "",
        problemId: "plates",
        parameters: {},
        fluidName: "air",
        temperature: "4 degC",
        pressure: "1 atm",
      }),
    });
    expect(made).toEqual({ status: 200, body: { id: expect.stringMatching(/^[0-9a-f-]{36}$/) } });
    const { id } = made.body as unknown as { id: string };
    expect(await ask("GET", `cases/${id}/assessment`)).toMatchObject({ status: 200, body: { caseId: id, stale: false, ladder: [] } });
    expect(await ask("DELETE", `cases/${id}`)).toEqual({ status: 200, body: { ok: true } });
  });
});

describe("nodes", () => {
  test("need the secret, and no origin", async () => {
    const take = (secret: string, body = '{"node":"n"}') => ask("POST", "node/take", { origin: null, body, headers: { "x-bench-secret": secret } });
    expect((await take("wrong")).status).toBe(401);
    const secret = await benchSecret(opened.folder);
    expect((await take(secret, "{}")).status).toBe(422);
  });
});

test("what was written into a deleted folder is not acknowledged; reading goes on", async () => {
  const leaveDeleted = standIn({ ...opened, intact: async () => false });
  try {
    const set = { headers: { "content-type": "application/json" }, body: JSON.stringify({ cores: 1 }) };
    const found = await ask("PUT", "settings/cores", set);
    expect(found).toMatchObject({ status: 503, body: { error: expect.stringContaining("was deleted or replaced") } });
    expect((await ask("GET", "logs")).status).toBe(200);
  } finally {
    leaveDeleted();
  }
});

describe("any list of operations", () => {
  const make = (run: () => Promise<unknown>) =>
    makeRouter({ some: [operation({ method: "get", path: "/some/{id}/{name}", says: "Some.", output: z.unknown(), run })] });
  const get = async (run: () => Promise<unknown>, path = `some/${SOME}/a%20b.csv`) => make(run).fetch(request("GET", path, { origin: null }));

  test("parts of the path arrive decoded, an id only as one", async () => {
    const told = vi.fn();
    const app = makeRouter({
      some: [operation({ method: "get", path: "/some/{id}/{name}", says: "Some.", output: Done, run: async ({ at }) => told(at) })],
    });
    expect((await app.fetch(request("GET", `some/${SOME}/a%20b.csv`))).status).toBe(200);
    expect(told).toHaveBeenCalledWith({ id: SOME, name: "a b.csv" });
    expect((await app.fetch(request("GET", "some/7/a"))).status).toBe(404);
  });
  test("failures: foreseen ones by their kind, others hide their words", async () => {
    const failing = (error: Error) =>
      get(async () => {
        throw error;
      });
    expect((await failing(new UseCaseError("conflict", "Two at once."))).status).toBe(409);
    // As it comes from another bundle, which has a class of its own by that name.
    const foreign = Object.assign(new Error("Given up."), { name: "UseCaseError", code: "conflict" });
    expect(foreign).toBeInstanceOf(UseCaseError);
    expect((await failing(foreign)).status).toBe(409);
    expect(new Error("x")).not.toBeInstanceOf(UseCaseError);
    expect((await failing(Object.assign(new Error("gone"), { name: "BlobError", code: "missing" }))).status).toBe(422);
    expect((await failing(new RangeError("Too far."))).status).toBe(422);
    // A database server that restarts: by the code of the system or of the server, or by the driver's words, however deep they lie.
    for (const away of [
      Object.assign(new Error("connect"), { code: "ECONNREFUSED" }),
      new Error("Failed query", { cause: Object.assign(new Error("terminating connection"), { code: "57P01" }) }),
      new Error("Failed query", { cause: new Error("Connection terminated unexpectedly") }),
      new Error("Failed query: rollback", { cause: new Error("Client has encountered a connection error and is not queryable") }),
    ]) {
      const answer = await failing(away);
      expect([answer.status, (await answer.json()).error]).toEqual([503, expect.stringContaining("does not answer at the moment")]);
    }
    const quiet = vi.spyOn(console, "error").mockImplementation(() => {});
    const broken = await failing(new Error("password"));
    expect(broken.status).toBe(500);
    expect(await broken.text()).not.toContain("password");
    expect(quiet).toHaveBeenCalledOnce();
    quiet.mockRestore();
  });
  test("files carry their type and a harmless name", async () => {
    const app = makeRouter({
      some: [
        operation({
          method: "get",
          path: "/file",
          says: "A file.",
          output: { file: "text/csv" },
          run: async () => ({ bytes: "a,b", name: 'a"\n../b.csv' }),
        }),
      ],
    });
    const found = await app.fetch(request("GET", "file"));
    expect([found.headers.get("content-type"), found.headers.get("content-disposition"), await found.text()]).toEqual([
      "text/csv",
      'attachment; filename="a-..-b.csv"',
      "a,b",
    ]);
  });
});

describe("the description", () => {
  test("names every operation once, with what it takes, gives and may refuse", async () => {
    const { status, body } = await ask("GET", "description", { origin: null });
    expect(JSON.stringify(body)).toContain("Takes a file of up to 2000 MB in pieces");
    expect(status).toBe(200);
    const { openapi, paths } = body as unknown as {
      openapi: string;
      paths: Record<
        string,
        Record<string, { summary: string; tags: string[]; requestBody?: object; security?: object; responses: Record<string, object> }>
      >;
    };
    expect(openapi).toBe("3.1.0");
    const listed = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((m) => `${m} ${path}`));
    const every = Object.values(OPERATIONS).flat();
    expect(listed.sort()).toEqual(every.map((o) => `${o.method} /api${o.path}`).sort());
    for (const o of every) {
      const told = paths[`/api${o.path}`][o.method];
      expect([told.summary, Boolean(told.requestBody), Boolean(told.security)]).toEqual([o.says, Boolean(o.input), o.caller === "node"]);
      expect(Object.keys(told.responses)).toEqual(["200", "default"]);
    }
  });
});

describe("the time line hears of changes", () => {
  const entries = async () => (await ask("GET", "time-line")).body as unknown as { says: string; by: string | null; path: string }[];
  test("of one that was made, with who signed it; of none that was refused, that asks only, or that stores nothing", async () => {
    const before = (await entries()).length;
    expect((await ask("POST", "programmes", { body: JSON.stringify({ name: "Entered" }) })).status).toBe(200);
    expect((await ask("POST", "programmes", { body: JSON.stringify({ name: "Entered" }) })).status).not.toBe(200);
    expect((await ask("POST", "rounds/state", { body: JSON.stringify({ runs: [] }) })).status).toBe(200);
    expect((await ask("POST", "programmes", { body: JSON.stringify({ name: "Foreign" }), origin: "http://elsewhere.example" })).status).toBe(403);
    await ask("GET", "programmes");
    const after = await entries();
    expect(after.length - before).toBe(1);
    expect(after[0]).toMatchObject({ says: "Makes a programme and opens it.", path: "/programmes", by: null });
    expect((await ask("GET", "time-line/check")).body).toMatchObject({ entries: after.length });
  });
  test("a change stands though the time line cannot be written, and the server says so", async () => {
    const told = vi.spyOn(console, "error").mockImplementation(() => undefined);
    await opened.db.execute(sql`alter table "event" rename to "event_away"`);
    try {
      expect((await ask("POST", "programmes", { body: JSON.stringify({ name: "Unentered" }) })).status).toBe(200);
    } finally {
      await opened.db.execute(sql`alter table "event_away" rename to "event"`);
    }
    expect(told.mock.calls.flat().join(" ")).toContain("could not be entered in the time line");
    told.mockRestore();
    expect((await ask("GET", "programmes")).body).toMatchObject({ list: expect.arrayContaining([expect.objectContaining({ name: "Unentered" })]) });
  });
});

import { afterAll, beforeAll, expect, test, vi } from "vitest";
import { z } from "zod";
import type { Store } from "../db/store.ts";
import type { Operation } from "../operations/operation.ts";
import { OPERATIONS } from "../operations/registry.ts";
import { listQuantities } from "../repositories/cases.ts";
import { insertRun } from "../repositories/runs.ts";
import { createCase } from "../usecases/cases.ts";
import { newCase, standIn, temporaryStore } from "../usecases/testStore.ts";
import { answer } from "./router.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
const nothing = async () => undefined;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("hostile"));
  const bench = { put: nothing, turn: nothing, stop: nothing, pause: nothing, resume: nothing, show: nothing, replay: () => [] };
  leave = standIn(opened, { bench, follower: { finish: async () => false, turn: nothing } });
});
afterAll(async () => {
  leave();
  await close();
});

const NOBODY = "00000000-0000-4000-8000-000000000000";
/** Whatever a person, a program or an attacker may put in the place of something sensible. */
const ODD: readonly unknown[] = [
  ...["", "x", "\ud800", "a\u0000b", "9".repeat(400), "__proto__", "constructor", NOBODY, "1e400 m", "NaN", "'; drop table run; --"],
  ...["sin(".repeat(60), "x^x^x^x", "=1+1", "<script>", "１ ｍ", -1, 0, 1.5, 3e9, 1e308, null, true, [], {}, ["x"], [null]],
];

interface Schema {
  readonly const?: unknown;
  readonly enum?: readonly unknown[];
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly type?: string;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly items?: Schema;
  readonly minItems?: number;
  readonly minimum?: number;
  readonly format?: string;
}

/** The plainest thing of a shape. */
function plainest(s: Schema): unknown {
  if (s.const !== undefined) return s.const;
  if (s.enum) return s.enum[0];
  const either = s.anyOf ?? s.oneOf;
  if (either) return plainest(either[0]);
  if (s.type === "object") return Object.fromEntries(Object.entries(s.properties ?? {}).map(([key, part]) => [key, plainest(part)]));
  if (s.type === "array") return Array.from({ length: s.minItems ?? 1 }, () => plainest(s.items ?? {}));
  if (s.type === "string") return s.format === "uuid" ? NOBODY : "1";
  if (s.type === "number" || s.type === "integer") return Math.max(2, s.minimum ?? 2);
  return s.type === "boolean" ? true : null;
}

const places = (v: unknown, at: readonly string[] = []): (readonly string[])[] =>
  v && typeof v === "object" ? [at, ...Object.entries(v).flatMap(([key, part]) => places(part, [...at, key]))] : [at];

function replaced(v: unknown, [key, ...rest]: readonly string[], by: unknown): unknown {
  if (key === undefined) return by;
  if (Array.isArray(v)) return v.map((part, i) => (String(i) === key ? replaced(part, rest, by) : part));
  return { ...(v as object), [key]: replaced((v as Record<string, unknown>)[key], rest, by) };
}

/** Everything odd in every place of what an operation takes. */
function bodiesFor(o: Operation): unknown[] {
  if (!o.input) return [undefined];
  const plain = plainest(z.toJSONSchema(o.input, { io: "input", unrepresentable: "any" }) as Schema);
  return places(plain).flatMap((at) => ODD.map((x) => replaced(plain, at, x)));
}

const partsFor = (o: Operation): readonly string[] =>
  /\{(?!id\})/.test(o.path) ? ["x", "a\u0000b", "9".repeat(40), "__proto__", NOBODY, "sin(("].slice(0, o.input ? 2 : 6) : ["x"];

test("whatever is sent to whichever operation: an answer that is no error of this side", async () => {
  const { id } = await createCase(opened, newCase());
  const bench = await createCase(opened, newCase({ problemId: "plates", parameters: {} }));
  const [q] = await listQuantities(opened.db, id);
  const settings = { problemId: null, parameters: {}, numerics: {}, mesh: { cells: 1, spacingM: 1, dimension: 3 }, code: "c" } as never;
  const result = { quantities: { [q.key]: 1 }, profiles: [], errorNorms: [] };
  const run = { caseId: id, label: "r", origin: "brought-in", code: "c", state: "done", settingsHash: "", setupHash: "", settings, result } as const;
  const { id: runId } = await insertRun(opened.db, run);
  const said = vi.spyOn(console, "error").mockImplementation(() => {});
  const broken: unknown[] = [];
  let tried = 0;
  const quick = (o: Operation) => o.caller !== "node" && o.most !== "stream" && !o.path.endsWith("/events");
  for (const o of Object.values(OPERATIONS).flat().filter(quick))
    for (const at of o.path.startsWith("/runs") ? [runId] : [id, bench.id])
      for (const part of partsFor(o))
        for (const body of bodiesFor(o)) {
          const path = o.path.replace("{id}", at).replace(/\{\w+\}/g, encodeURIComponent(part));
          const headers = { host: "127.0.0.1:4310", origin: "http://127.0.0.1:4310", "content-type": "application/json" };
          const sent = { method: o.method.toUpperCase(), headers, ...(body === undefined ? {} : { body: JSON.stringify(body) }) };
          const { status } = await answer(new Request(`http://127.0.0.1:4310/api${path}`, sent));
          tried++;
          if (status >= 500) broken.push([status, o.method, path, body, String(said.mock.calls.at(-1)?.[0]).slice(0, 200)]);
        }
  said.mockRestore();
  expect(broken).toEqual([]);
  expect(tried).toBeGreaterThan(5000);
});

test("signs that cannot be stored are refused where they stand", async () => {
  const send = (title: string) =>
    answer(
      new Request("http://127.0.0.1:4310/api/cases", {
        method: "POST",
        headers: { host: "127.0.0.1:4310", origin: "http://127.0.0.1:4310", "content-type": "application/json" },
        body: JSON.stringify(newCase({ title })),
      }),
    );
  for (const title of ["a\u0000b", "\ud800", "b\udfff"]) {
    const found = await send(title);
    expect([found.status, await found.json()]).toEqual([422, expect.objectContaining({ error: expect.stringContaining("title: it holds a sign") })]);
  }
  expect((await send("Ω ½ 😀")).status).toBe(200);
});

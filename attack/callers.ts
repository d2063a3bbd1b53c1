import { mkdtemp, readFile, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { randomFrom } from "../core/numeric/random.ts";
import { endServer, startServer } from "../e2e/server.ts";
import { OPERATIONS } from "../server/operations/registry.ts";
import type { Attack } from "./attack.ts";
import { BASE, PORT } from "./page.ts";

const NOBODY = "00000000-0000-4000-8000-000000000000";
const ODD = ["", "x", NOBODY, "../../etc/passwd", "9".repeat(300), "'; drop table run; --", "<script>", -1, 3e9, null, [], {}, [null], { a: {} }];

const STRANGE: readonly Record<string, string>[] = [
  {},
  { origin: "http://elsewhere.test" },
  { origin: "null" },
  { "x-bench-secret": "guess", origin: "http://127.0.0.1:1" },
];

const all = Object.values(OPERATIONS).flat();
const addressOf = (at: string) => `${BASE}/api${at.replace(/\{\w+\}/g, NOBODY)}`;

/** Whoever is not a page of this address: other origins, borrowed names, nodes without the secret. */
async function strangers() {
  const changing = all.filter((o) => o.method !== "get");
  let [asked, through] = [0, 0];
  for (const o of changing)
    for (const headers of STRANGE) {
      const answer = await fetch(addressOf(o.path), {
        method: o.method.toUpperCase(),
        headers: { "content-type": "application/json", ...headers },
        body: "{}",
      });
      await answer.arrayBuffer();
      asked++;
      if (answer.status !== 401 && answer.status !== 403) through++;
    }
  return {
    attack: "changes asked for by other origins, by none, and by nodes without the secret",
    tried: `${asked} calls of ${changing.length} routes`,
    answered: `${asked - through} refused, ${through} let through`,
    held: through === 0,
  };
}

/** Bodies of any shape at every route, with the right origin and the right secret. */
async function oddBodies(folder: string, count: number) {
  const secret = (await readFile(path.join(folder, "bench-secret"), "utf8")).trim();
  const random = randomFrom(11);
  const pick = () => ODD[Math.floor(ODD.length * random())];
  const accidents: string[] = [];
  const statuses = new Map<number, number>();
  const changing = all.filter((o) => o.method !== "get");
  for (let k = 0; k < count; k++) {
    const o = changing[k % changing.length];
    const keys = Object.keys((o.input as { shape?: object } | undefined)?.shape ?? { a: 1, b: 2 });
    const body = random() < 0.2 ? pick() : Object.fromEntries(keys.map((key) => [key, pick()]));
    const answer = await fetch(addressOf(o.path), {
      method: o.method.toUpperCase(),
      headers: { "content-type": "application/json", origin: BASE, "x-bench-secret": secret },
      body: JSON.stringify(body) ?? "null",
    });
    await answer.arrayBuffer();
    statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1);
    if (answer.status >= 500) accidents.push(`${o.method} ${o.path}`);
  }
  const told = [...statuses].sort((a, b) => a[0] - b[0]).map(([s, n]) => `${s}: ${n}`);
  return {
    attack: "odd bodies at every changing route, nodes' among them",
    tried: `${count} seeded`,
    answered: `${told.join(", ")}${accidents.length ? `; first 500 at ${accidents[0]}` : "; never 500"}`,
    held: accidents.length === 0,
  };
}

/** Calls from wherever, and calls that make no sense. */
export const callers: Attack = async ({ inputs }) => {
  const folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-callers-"));
  const server = await startServer(folder, PORT);
  try {
    return [await strangers(), await oddBodies(folder, Math.min(2000, inputs))];
  } finally {
    await endServer(server, "SIGKILL");
    await rm(folder, { recursive: true, force: true });
  }
};

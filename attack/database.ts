import { execFileSync } from "node:child_process";
import { existsSync, readdirSync } from "node:fs";
import { chmod, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { endServer, startServer } from "../e2e/server.ts";
import { type Attack, notTried, sleep } from "./attack.ts";

const PORT = 4318;
const BASE = `http://127.0.0.1:${PORT}`;
const DATABASE_PORT = 54_331;

const versions = existsSync("/usr/lib/postgresql") ? readdirSync("/usr/lib/postgresql") : [];
const bin = versions.length ? `/usr/lib/postgresql/${versions[versions.length - 1]}/bin` : undefined;

/** PostgreSQL's programs refuse to run as root: they are then run as the user Debian makes for them. */
function asServer(program: string, args: readonly string[]): void {
  const own = process.getuid?.() !== 0;
  const words = own ? [...args] : ["--reuid=postgres", "--regid=postgres", "--clear-groups", `${bin}/${program}`, ...args];
  execFileSync(own ? `${bin}/${program}` : "setpriv", words, { stdio: "ignore" });
}

const headers = { "content-type": "application/json", origin: BASE };
const make = (title: string) =>
  fetch(`${BASE}/api/cases`, {
    method: "POST",
    headers,
    body: JSON.stringify({ title, purpose: "", problemId: "plates", fluidName: "air", temperature: "", pressure: "", parameters: {} }),
  });

/** A PostgreSQL server that several processes share is restarted while runs go on and changes are made. */
export const database: Attack = async ({ rounds }) => {
  if (!bin) return [notTried("database server restarted", "no PostgreSQL on this machine")];
  const root = await mkdtemp(path.join(tmpdir(), "tin-ruler-database-"));
  await chmod(root, 0o777);
  const data = path.join(root, "server");
  const words = ["-D", data, "-w", "-l", path.join(root, "log"), "-o", `-p ${DATABASE_PORT} -k ${root} -c listen_addresses=127.0.0.1`];
  asServer("initdb", ["-D", data, "-U", "ruler", "--auth=trust", "--no-sync"]);
  asServer("pg_ctl", [...words, "start"]);
  const before = process.env.DATABASE_URL;
  process.env.DATABASE_URL = `postgres://ruler@127.0.0.1:${DATABASE_PORT}/postgres`;
  const server = await startServer(path.join(root, "files"), PORT);
  try {
    const { id } = (await (await make("box")).json()) as { id: string };
    const uniform = { kind: "uniform" };
    await fetch(`${BASE}/api/cases/${id}/family`, {
      method: "POST",
      headers,
      body: JSON.stringify({ baseNx: 32, baseNy: 32, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform }),
    });
    const acknowledged: string[] = [];
    const statuses = new Set<number>();
    for (let k = 0; k < rounds; k++) {
      const writing = (async () => {
        for (let i = 0; i < 20; i++) {
          const answer = await make(`round ${k}, ${i}`);
          statuses.add(answer.status);
          if (answer.ok) acknowledged.push(`round ${k}, ${i}`);
          await answer.arrayBuffer();
          await sleep(40);
        }
      })();
      await sleep(200);
      asServer("pg_ctl", [...words, "-m", k % 2 ? "fast" : "immediate", "restart"]);
      await writing;
    }
    let states: string[] = [];
    for (let k = 0; k < 240; k++) {
      const text = await (await fetch(`${BASE}/cases/${id}/runs`)).text();
      states = [...text.matchAll(/\\"state\\":\\"(waiting|running|done|stopped|failed|interrupted)\\"/g)].map((m) => m[1]);
      if (states.length && !states.includes("waiting") && !states.includes("running")) break;
      await sleep(500);
    }
    const titles = new Set(((await (await fetch(`${BASE}/api/cases`)).json()) as { title: string }[]).map((c) => c.title));
    const lost = acknowledged.filter((t) => !titles.has(t));
    const left = states.filter((s) => s === "waiting" || s === "running").length;
    return [
      {
        attack: "database server restarted while runs go on and cases are made",
        tried: `${rounds} restarts, every other one without warning; ${acknowledged.length} acknowledged writes, three runs`,
        answered: `${lost.length} lost; answers ${[...statuses].sort().join(", ")}; runs at the end: ${[...new Set(states)].join(", ")}`,
        held: lost.length === 0 && states.length >= 3 && left === 0,
      },
    ];
  } finally {
    await endServer(server, "SIGKILL");
    if (before === undefined) delete process.env.DATABASE_URL;
    else process.env.DATABASE_URL = before;
    try {
      asServer("pg_ctl", ["-D", data, "-m", "immediate", "stop"]);
    } catch {
      // It may not have come up again; nothing of it is kept.
    }
    await rm(root, { recursive: true, force: true });
  }
};

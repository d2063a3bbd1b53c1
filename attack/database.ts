import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { endServer, startServer } from "../e2e/server.ts";
import { hasPostgres, startPostgres } from "../server/db/postgresForTests.ts";
import { type Attack, notTried, sleep } from "./attack.ts";
import { ask, caseOf, PORT } from "./page.ts";

const DATABASE_PORT = 54_331;
const RUNS = 3;
const make = (title: string) => ask("POST", "/cases", caseOf(title));

/** A PostgreSQL server that several processes share is restarted while runs go on and changes are made. */
export const database: Attack = async ({ rounds }) => {
  if (!hasPostgres) return [notTried("database server restarted", "no PostgreSQL on this machine")];
  const root = await mkdtemp(path.join(tmpdir(), "tin-ruler-database-"));
  const postgres = await startPostgres(root, DATABASE_PORT);
  const before = process.env.DATABASE_URL;
  process.env.DATABASE_URL = postgres.address;
  const server = await startServer(path.join(root, "files"), PORT);
  try {
    const { id } = (await (await make("box")).json()) as { id: string };
    const uniform = { kind: "uniform" };
    await ask("POST", `/cases/${id}/family`, { baseNx: 32, baseNy: 32, ratio: 2, count: RUNS, gradingX: uniform, gradingY: uniform });
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
      await postgres.restart(k % 2 ? "fast" : "immediate");
      await writing;
    }
    let done = 0;
    for (let k = 0; k < 240 && done < RUNS; k++) {
      await sleep(500);
      const answer = await ask("GET", `/cases/${id}/assessment`);
      if (answer.ok) done = ((await answer.json()) as { ladder: string[] }).ladder.length;
    }
    const titles = new Set(((await (await ask("GET", "/cases")).json()) as { title: string }[]).map((c) => c.title));
    const lost = acknowledged.filter((t) => !titles.has(t));
    return [
      {
        attack: "database server restarted while runs go on and cases are made",
        tried: `${rounds} restarts, every other one without warning; ${acknowledged.length} acknowledged writes, three runs`,
        answered: `${lost.length} lost; answers ${[...statuses].sort().join(", ")}; ${done} of ${RUNS} runs finished`,
        held: lost.length === 0 && done === RUNS && [...statuses].every((s) => s < 300 || s === 503),
      },
    ];
  } finally {
    await endServer(server, "SIGKILL");
    if (before === undefined) delete process.env.DATABASE_URL;
    else process.env.DATABASE_URL = before;
    // It may not have come up again; nothing of it is kept.
    await postgres.stop();
    await rm(root, { recursive: true, force: true });
  }
};

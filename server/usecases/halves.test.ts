import { eq, sql } from "drizzle-orm";
import { afterAll, afterEach, beforeAll, describe, expect, test } from "vitest";
import { caseTable, report, run, sweep } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { answer } from "../http/router.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { bringIn, bringInFamily } from "./bringIn.ts";
import { createCase } from "./cases.ts";
import { startFamily, startSweep } from "./runs.ts";
import { newCase, standIn, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
const bench = { put: async () => {}, turn: async () => {} };
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("halves"));
  leave = standIn(opened, { bench });
});
afterAll(async () => {
  leave();
  await close();
});

const count = async (table: typeof run | typeof sweep) => (await opened.db.select({ id: table.id }).from(table)).length;
const exec = (text: string) => opened.db.execute(sql.raw(text));

describe("all of it or nothing", () => {
  afterEach(() => exec("drop trigger if exists breaking on run; drop trigger if exists breaking on history;").catch(() => undefined));
  /** Lets the database break when so many rows of a kind are there. */
  const breakAfter = async (table: string, rows: number) => {
    await exec(
      `create or replace function breaking() returns trigger language plpgsql as $$ begin if (select count(*) from ${table}) >= ${rows} then raise exception 'full'; end if; return new; end $$`,
    );
    await exec(`create trigger breaking before insert on ${table} for each row execute function breaking()`);
  };
  const uniform = { kind: "uniform" as const };

  test("a family or a sweep that breaks off after its first run leaves neither runs nor a plan", async () => {
    const { id } = await createCase(opened, newCase({ problemId: "plates", parameters: {} }));
    const before = await findCase(opened.db, id);
    const [runs, sweeps] = [await count(run), await count(sweep)];
    await breakAfter("run", runs + 2);
    const family = { baseNx: 4, baseNy: 4, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform };
    await expect(startFamily(opened, id, family)).rejects.toThrow();
    const axes = [{ key: "wallSpeedMS", values: ["0.1 m/s", "0.2 m/s", "0.3 m/s"] }];
    await expect(startSweep(opened, id, { axes, nx: 4, ny: 4, priority: 0 })).rejects.toThrow();
    expect([await count(run), await count(sweep)]).toEqual([runs, sweeps]);
    expect((await findCase(opened.db, id))?.setup).toEqual(before?.setup);
    await exec("drop trigger breaking on run");
    expect(await startFamily(opened, id, family)).toHaveLength(3);
  });
  test("a run that is brought in without its record is not there, nor is its family", async () => {
    const { id } = await createCase(opened, newCase());
    const [q] = await listQuantities(opened.db, id);
    const runs = await count(run);
    const history = { name: "h.csv", text: `iteration,${q.name} (N)\n1,2\n2,3\n3,3\n` };
    const words = { code: "c", volume: "1 m^3", dimension: 3 as const, roles: [] };
    const one = { ...words, label: "a", cells: 10, roles: ["iteration", `quantity:${q.key}`], rowRoles: [], history, quantities: null };
    await breakAfter("history", 1);
    await exec("insert into history (run_id, columns, rows, blob) select id, '[]', 0, '' from run limit 1");
    await expect(bringIn(opened, id, one)).rejects.toThrow();
    const columnRoles = { iteration: "iteration", [q.name]: `quantity:${q.key}` };
    const three = [1, 2, 3].map((k) => ({ label: `r${k}`, cells: 10 * k, history, quantities: null }));
    await expect(bringInFamily(opened, id, { ...words, runs: three, columnRoles })).rejects.toThrow();
    expect(await count(run)).toBe(runs);
    await exec("drop trigger breaking on history");
    expect((await bringInFamily(opened, id, { ...words, runs: three, columnRoles })).length).toBe(3);
  });
});

describe("several at once", () => {
  const send = (method: string, path: string, body: unknown) =>
    answer(
      new Request(`http://127.0.0.1:4310/api/${path}`, {
        method,
        headers: { host: "127.0.0.1:4310", origin: "http://127.0.0.1:4310", "content-type": "application/json" },
        body: JSON.stringify(body),
      }),
    );
  test("what is acknowledged is kept: none of ten answers to one case is lost", async () => {
    const { id } = await createCase(opened, newCase());
    const sources = ["domain", "inputs", "averaging", "time-step", "round-off", "balance", "iteration", "mesh"];
    const said = sources.map((source) => ({ source, quantityKey: null, kind: "not-applicable", value: "", reason: `not here: ${source}`, by: "AB" }));
    const answers = await Promise.all(said.map((s) => send("POST", `cases/${id}/settlements`, s)));
    expect(answers.map((a) => a.status)).toEqual(said.map(() => 200));
    const [row] = await opened.db.select().from(caseTable).where(eq(caseTable.id, id));
    expect((row.setup.settlements ?? []).map((s) => s.source).sort()).toEqual([...sources].sort());
  });
  test("reports issued at the same time have numbers of their own", async () => {
    const { id } = await createCase(opened, newCase());
    const answers = await Promise.all([1, 2, 3].map((k) => send("POST", `cases/${id}/reports`, { issuedBy: `A${k}` })));
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200]);
    const numbers = await opened.db.select({ number: report.number }).from(report).where(eq(report.caseId, id));
    expect(numbers.map((r) => r.number).sort()).toEqual([1, 2, 3]);
  });
});

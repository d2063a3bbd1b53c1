import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { insertYardstick, updateCase } from "../repositories/cases.ts";
import { listRuns, updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { startFamily, startSweep } from "./runs.ts";
import { newCase, standIn, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("swept-sets"));
  leave = standIn(opened, { bench: { put: async () => {}, turn: async () => {} }, follower: { finish: async () => false } });
});
afterAll(async () => {
  leave();
  await close();
});

const uniform = { kind: "uniform" as const };
/** A made-up law with an error of second order. */
const law = (re: number, n: number) => -0.2 - 0.03 * Math.log10(re) + (0.4 * re) / 1000 / n ** 2;

/** Runs a sweep of the box over the Reynolds number on n cells a side and finishes it by the law. */
async function swept(id: string, values: readonly string[], n: number, key = "reynolds") {
  const { id: set } = await startSweep(opened, id, { axes: [{ key, values: [...values] }], nx: n, ny: n, priority: 0 });
  for (const r of (await listRuns(opened.db, id)).filter((x) => x.sweepId === set)) {
    const { lidSpeedMS, sideM, densityKgM3, viscosityPaS } = r.settings.parameters;
    const re = (densityKgM3 * lidSpeedMS * sideM) / viscosityPaS;
    await updateRun(opened.db, r.id, {
      state: "done",
      result: { quantities: { uMin: law(re, n) }, profiles: [], errorNorms: [] },
      finishedAt: new Date(),
    });
  }
}

const yardstick = (profileKey: string, at: readonly number[]) => ({
  key: "",
  name: "Made-up table",
  kind: "table" as const,
  source: "made up",
  validity: { sentence: "", inside: true },
  values: [],
  profiles: [{ profileKey, abscissa: [...at], value: at.map((re) => law(re, 1e6)), standardUncertainty: 1e-4, uncertaintyNote: "" }],
});

test("sweeps over the Reynolds number stand as a curve beside a table over it, with what was not run and what two meshes tell", async () => {
  const { id } = await createCase(opened, newCase({ problemId: "lidded-box", parameters: {} }));
  const [finest] = await startFamily(opened, id, { baseNx: 16, baseNy: 16, ratio: 2, count: 1, gradingX: uniform, gradingY: uniform }, false);
  await updateRun(opened.db, finest.id, {
    state: "done",
    result: { quantities: { uMin: -0.38 }, profiles: [], errorNorms: [] },
    finishedAt: new Date(),
  });
  await swept(id, ["100", "400", "1000"], 16);
  await insertYardstick(opened.db, id, yardstick("sweep-reynolds-uMin", [100, 250, 400, 1000, 5000]));
  const found = async () => (await openCase(opened, id)).assessment.comparison.profiles.filter((p) => p.sweep);
  const [alone] = await found();
  expect(alone).toMatchObject({
    name: "lowest mid-plane velocity over Reynolds number",
    runLabel: "sweep on 16 × 16 graded",
    code: "bench",
    leading: true,
    compared: 4,
    outside: 1,
  });
  expect(alone.sweep).toMatchObject({ axisKey: "reynolds", mesh: { nx: 16, ny: 16 } });
  expect(alone.sweep?.notRun).toEqual([250, 5000]);
  expect(alone.points[0].simulated).toBeCloseTo(law(100, 16), 9);
  // One mesh tells nothing of its error: no point is weighed.
  expect(alone.many).toBeUndefined();

  await swept(id, ["100", "250", "400", "1000"], 32);
  const [both] = await found();
  expect(both.sweep?.mesh.nx).toBe(32);
  expect(both.sweep?.notRun).toEqual([5000]);
  const at = (re: number) => both.points.find((p) => p.at === re);
  // Three times the error of the finer mesh is its 95 % bound, half of that the standard one.
  expect(at(1000)?.uNum).toBeCloseTo((1.5 * 0.4) / 32 ** 2, 9);
  expect(Math.abs(at(1000)?.difference ?? 1)).toBeCloseTo(0.4 / 32 ** 2, 9);
  expect(both.many?.within).toBe(both.many?.points);
});

test("sweeps over two conditions, of a condition itself, and after the set-up changed", async () => {
  const { id } = await createCase(opened, newCase({ problemId: "lidded-box", parameters: {} }));
  await startSweep(opened, id, {
    axes: [
      { key: "sideM", values: ["0.02 m", "0.05 m"] },
      { key: "lidSpeedMS", values: ["1 m/s", "2 m/s"] },
    ],
    nx: 8,
    ny: 8,
    priority: 0,
  });
  expect((await openCase(opened, id)).evidence.sweeps).toBeUndefined();
  await swept(id, ["0.02 m", "0.05 m"], 8, "sideM");
  const { evidence, row } = await openCase(opened, id);
  expect(evidence.sweeps?.map((s) => [s.axis.key, s.points.map((p) => p.at)])).toEqual([["sideM", [0.02, 0.05]]]);
  // Without a run the case rests on, the sweep is a curve all the same.
  await insertYardstick(opened.db, id, { ...yardstick("sweep-sideM-uMin", [0.02, 0.03]), name: "By size" });
  expect((await openCase(opened, id)).assessment.comparison.profiles.map((p) => p.sweep?.notRun)).toEqual([[0.03]]);
  await updateCase(opened.db, id, { setup: { ...row.setup, parameters: { ...row.setup.parameters, viscosityPaS: 2e-5 } } });
  expect((await openCase(opened, id)).evidence.sweeps).toBeUndefined();
});

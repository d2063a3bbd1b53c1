import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { benchVersion } from "../method.ts";
import { findRun, insertRun, updateRun } from "../repositories/runs.ts";
import { bringIn, stateBuild } from "./bringIn.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { createProgramme } from "./programmes.ts";
import { roundState, roundsView, startRound } from "./rounds.ts";
import { FamilyInput, startFamily } from "./runs.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { FOREIGN_PARAMETERS, newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("rounds"));
});
afterAll(() => close());

let count = 0;
const programme = () => createProgramme(opened, { name: `P ${++count}`, purpose: "" });
/** A run of a version; records settle to ten digits, so that 0.3 % is far beyond their noise. */
async function version(caseId: string, name: string, value: number, cells = 1000) {
  const run = await bringSettled(opened, caseId, value, { label: name, cells });
  await stateBuild(opened, run.id, { version: name });
  return run;
}

describe("versions of a code", () => {
  test("a planted change of 0.3 % is found at its version over several benchmarks; the others are silent", async () => {
    await programme();
    for (const [title, moved] of [
      ["steady one", false],
      ["the one that moves", true],
    ] as const) {
      const { id } = await createCase(opened, newCase({ title, parameters: FOREIGN_PARAMETERS }));
      for (const [v, name] of ["4.0", "4.1", "4.2"].entries()) await version(id, name, 8 * (moved && v === 2 ? 1.003 : 1));
    }
    const { rounds, sentence, codes } = await roundsView(opened, undefined, 20_000);
    expect(codes).toEqual([{ code: "c", versions: 3 }]);
    expect(rounds?.versions).toEqual(["4.0", "4.1", "4.2"]);
    expect(rounds?.lines.map((l) => [l.title, l.cells.map((c) => c.moved), l.broke?.bad])).toEqual([
      ["steady one", [undefined, false, false], undefined],
      ["the one that moves", [undefined, false, true], "4.2"],
    ]);
    expect(sentence).toContain("1 of 2 figures moved beyond noise");
  });
  test("meshes of two versions are no family: the one with most meshes leads, a newer run on one mesh changes nothing", async () => {
    await programme();
    const { id } = await createCase(opened, newCase({ title: "family", parameters: FOREIGN_PARAMETERS }));
    const old = [];
    for (const cells of [1000, 8000, 64000]) old.push(await version(id, "1", 8 + 80 / cells, cells));
    const newer = await version(id, "2", 9.25, 64000);
    const { assessment, evidence } = await openCase(opened, id);
    expect(assessment.ladder).toEqual([old[2].id, old[1].id, old[0].id]);
    expect(evidence.runs.find((r) => r.id === newer.id)?.made?.version).toBe("2");
  });
  test("what is said of a build is kept and taken back; the bench says its own", async () => {
    await programme();
    const { id } = await createCase(opened, newCase({ title: "said", parameters: FOREIGN_PARAMETERS }));
    const run = await bringSettled(opened, id, 8);
    expect((await findRun(opened.db, run.id))?.build).toBeNull();
    await stateBuild(opened, run.id, { version: "3", compiler: "", machine: "node 4" });
    expect((await findRun(opened.db, run.id))?.build).toEqual({ version: "3", machine: "node 4" });
    await stateBuild(opened, run.id, {});
    expect((await findRun(opened.db, run.id))?.build).toBeNull();
    const lines = Array.from({ length: 30 }, (_, i) => `${i + 1},${8 + 0.5 ** i},${10 * 0.3 ** i}`).join("\n");
    const made = await bringIn(opened, id, {
      history: { name: "h.csv", text: `iteration,drag (N),mass\n${lines}\n` },
      quantities: null,
      label: "with its version",
      code: "c",
      build: { version: "5", options: "-fast" },
      cells: 10,
      volume: "1 m^3",
      dimension: 3,
      roles: ["iteration", "quantity:q1", "residual"],
      rowRoles: [],
    });
    expect(made.build).toEqual({ version: "5", options: "-fast" });
    await updateRun(opened.db, run.id, { origin: "bench" });
    await expect(stateBuild(opened, run.id, { version: "9" })).rejects.toThrow("knows its own version");
  });
});

describe("a round of the bench", () => {
  const plates = {
    ...newCase({ title: "Strip", problemId: "plates" }),
    parameters: {
      gapM: "10 mm",
      lengthM: "20 mm",
      wallSpeedMS: "0.1 m/s",
      pressureGradientPaM: "0",
      densityKgM3: "1.274 kg/m^3",
      viscosityPaS: "1.74e-5 Pa s",
      ends: "0",
    },
  };
  test("queues the leading run of every bench case once more, by this version; what waits or was run by it is left out", async () => {
    await programme();
    const { id } = await createCase(opened, plates);
    await createCase(opened, newCase({ title: "foreign", parameters: FOREIGN_PARAMETERS }));
    const uniform = { kind: "uniform" } as const;
    const family = FamilyInput.parse({ baseNx: 4, baseNy: 4, ratio: 2, count: 2, gradingX: uniform, gradingY: uniform });
    const runs = await startFamily(opened, id, family, false);
    expect((await startRound(opened, {}, false)).runs).toEqual([]);
    const result = { quantities: { flowRate: 1 }, profiles: [], errorNorms: [] };
    for (const r of runs) await updateRun(opened.db, r.id, { state: "done", result, finishedAt: new Date(), build: { version: "0.9" } });
    const { runs: made, had } = await startRound(opened, {}, false);
    expect([made.length, had]).toEqual([1, 0]);
    const finest = runs.find((r) => "nx" in r.settings.mesh && r.settings.mesh.nx === 8);
    expect(made[0].settingsHash).toBe(finest?.settingsHash);
    expect(await roundState(opened, [made[0].id])).toEqual({ open: 1, failed: [] });
    expect(await startRound(opened, {}, false)).toEqual({ runs: [], had: 1 });
    await updateRun(opened.db, made[0].id, { state: "done", result, finishedAt: new Date(), build: { version: benchVersion() } });
    expect((await startRound(opened, {}, false)).had).toBe(1);
    expect((await roundsView(opened, "bench", 20_000)).rounds?.versions).toEqual(["0.9", benchVersion()]);
    const broken = await insertRun(opened.db, { ...made[0], id: undefined, label: "broken", state: "diverged" });
    expect(await roundState(opened, [broken.id, made[0].id])).toEqual({ open: 0, failed: ["broken"] });
  });
});

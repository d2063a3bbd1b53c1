import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { listQuantities } from "../repositories/cases.ts";
import { listRuns } from "../repositories/runs.ts";
import { addToRun, bringIn, bringInFamily } from "./bringIn.ts";
import { copyCase, createCase, createYardstick, type NewCaseInput, type QuestionInput, saveQuestion } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { createQuantity } from "./quantities.ts";
import { chooseTake } from "./records.ts";
import { settleSource, statePrecision, withdrawSettlement } from "./sources.ts";
import { temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("verdict"));
});
afterAll(() => close());

const PARAMETERS = { velocityMS: "2 m/s", lengthM: "50 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "0.0174 cP" };
const make = (change: Partial<NewCaseInput> = {}) =>
  createCase(opened, {
    title: "x",
    purpose: "",
    problemId: null,
    fluidName: "air",
    temperature: "4 °C",
    pressure: "1.01325 bar",
    quantityName: "drag",
    quantityUnit: "N",
    parameters: PARAMETERS,
    ...change,
  });
const question = (change: Partial<QuestionInput> = {}): QuestionInput => ({
  title: "x",
  purpose: "",
  fluidName: "air",
  temperature: "4 °C",
  pressure: "1.01325 bar",
  reynolds: "",
  kinematicViscosity: "",
  dropOrders: "6",
  limits: {},
  parameters: PARAMETERS,
  ...change,
});
const record = (value: number) =>
  `iteration,mass residual,drag (N)\n${Array.from({ length: 60 }, (_, i) => `${i + 1},${(0.7 ** i).toExponential(4)},${(value * (1 + 0.7 ** i)).toFixed(8)}`).join("\n")}\n`;
const file = (name: string, text: string) => ({ name, text });
const MESHES = [
  ["coarse", 1000, 10.16],
  ["medium", 8000, 10.04],
  ["fine", 64_000, 10.01],
] as const;
const family = (caseId: string, change: object = {}) =>
  bringInFamily(opened, caseId, {
    code: "Lintel",
    volume: "1 m^3",
    roles: [],
    columnRoles: { iteration: "iteration", "mass residual": "residual", drag: "quantity:q1" },
    rowRolesByName: { "mass flow inlet": "boundary-mass", "mass flow outlet": "boundary-mass" },
    runs: MESHES.map(([label, cells, value]) => ({
      label,
      cells,
      history: file(`${label}.csv`, record(value)),
      quantities: label === "fine" ? file("flows.csv", "name,value,unit\nmass flow inlet,-1,kg/s\nmass flow outlet,1000.001,g/s\n") : null,
    })),
    ...change,
  });
const verdict = async (id: string) => (await openCase(opened, id)).assessment.verdicts[0];

describe("a case of another code reaches a verdict", () => {
  test("what is open is settled one by one; what was said is of the present set-up and can be taken back", async () => {
    const row = await make();
    const [q] = await listQuantities(opened.db, row.id);
    await createYardstick(opened, row.id, {
      name: "rig",
      kind: "measured",
      source: "made up",
      validity: "",
      quantityKey: q.key,
      value: "10 N",
      uncertainty: "1 %",
    });
    await family(row.id);
    const first = await verdict(row.id);
    expect(first.word).toBe("incomplete");
    expect(first.settles.map((s) => s.source)).toEqual(["domain", "inputs"]);
    await settleSource(opened, row.id, { source: "domain", quantityKey: null, kind: "not-applicable", value: "", reason: "closed box", by: "H. M." });
    await expect(
      settleSource(opened, row.id, { source: "inputs", quantityKey: null, kind: "bounded", value: "1,000", reason: "r", by: "H. M." }),
    ).rejects.toMatchObject({ details: { value: expect.stringContaining("may mean 1000 or 1.000") } });
    await settleSource(opened, row.id, {
      source: "inputs",
      quantityKey: "q1",
      kind: "bounded",
      value: "0.4 %",
      reason: "by the rig's book",
      by: "H. M.",
    });
    expect((await verdict(row.id)).word).toBe("holds");
    await withdrawSettlement(opened, row.id, "inputs", "q1");
    expect((await verdict(row.id)).word).toBe("incomplete");
    await saveQuestion(opened, row.id, question({ inputs: { velocityMS: { uncertainty: "1 %", sensitivities: { q1: "2" } } } }));
    const { assessment } = await openCase(opened, row.id);
    expect(assessment.rules[0].sources.find((s) => s.key === "inputs")?.relative).toBeCloseTo(0.02 * 1.001, 6);
    expect(assessment.verdicts[0].word).toBe("holds");
    // The pressure is a condition of the runs: they, and what was said of them, are of an earlier set-up now.
    await saveQuestion(opened, row.id, question({ pressure: "1 bar" }));
    const stale = await openCase(opened, row.id);
    expect(stale.assessment.verdicts[0].word).toBe("stale");
    expect(stale.assessment.rules[0].missing).toContain("domain");
  });

  test("the precision of a code is stated once and holds in every case", async () => {
    const rows = [await make(), await make()];
    for (const r of rows) await family(r.id);
    await statePrecision(opened, { code: "Lintel", precision: "single" });
    for (const r of rows) {
      const source = (await openCase(opened, r.id)).assessment.rules[0].sources.find((s) => s.key === "round-off");
      expect(source?.relative).toBeCloseTo(6e-8 * Math.sqrt(64_000), 10);
    }
    await statePrecision(opened, { code: "Lintel", precision: "unknown" });
    expect((await openCase(opened, rows[0].id)).assessment.rules[0].sources.find((s) => s.key === "round-off")?.note).toContain("last digit");
  });

  test("one file that cannot be used brings in none of the family", async () => {
    const row = await make();
    const runs = MESHES.map(([label, cells]) => ({
      label,
      cells,
      history: file(`${label}.csv`, label === "fine" ? "iteration,drag (N)\n1,x\n" : record(10)),
      quantities: null,
    }));
    await expect(family(row.id, { runs })).rejects.toThrow(/fine.csv, line 2/);
    expect(await listRuns(opened.db, row.id)).toEqual([]);
  });

  test("values and flows are added to a stored run, and replaced only when asked", async () => {
    const row = await make();
    await createQuantity(opened, row.id, { name: "lift", unit: "N", limit: "5 %" });
    const run = await bringIn(opened, row.id, {
      label: "L",
      code: "Lintel",
      cells: 1000,
      volume: "1 m^3",
      roles: ["iteration", "residual", "quantity:q1"],
      history: file("h.csv", record(10)),
      quantities: null,
      rowRoles: [],
    });
    const lift = { quantities: file("v.csv", "name,value,unit\nlift,3,N\n"), rowRoles: ["quantity:q2"] };
    await addToRun(opened, run.id, lift);
    const values = async () => (await listRuns(opened.db, row.id))[0].result?.quantities;
    expect(await values()).toMatchObject({ q1: expect.closeTo(10, 6), q2: 3 });
    const other = { quantities: file("w.csv", "name,value,unit\nlift,4,\n"), rowRoles: ["quantity:q2"], rowUnits: ["N"] };
    await expect(addToRun(opened, run.id, other)).rejects.toThrow(/has lift already/);
    expect((await values())?.q2).toBe(3);
    await addToRun(opened, run.id, { ...other, replace: true });
    expect((await values())?.q2).toBe(4);
    expect((await listRuns(opened.db, row.id))[0].settings.files?.map((f) => f.name)).toEqual(["h.csv", "v.csv", "w.csv"]);
  });

  test("a statistic is only taken where its unit fits", async () => {
    const row = await make();
    await expect(chooseTake(opened, row.id, "q1", "frequency")).rejects.toThrow(/is in N; a dominant frequency is in Hz/);
    await chooseTake(opened, row.id, "q1", "rms");
    expect((await openCase(opened, row.id)).evidence.quantities[0].take).toBe("rms");
    await chooseTake(opened, row.id, "q1", "last");
    expect((await openCase(opened, row.id)).evidence.quantities[0].take).toBeUndefined();
  });
});

describe("what was typed", () => {
  test("fields keep their text and values to the last bit while they are not touched; bare numbers are said", async () => {
    const row = await make();
    const before = (await openCase(opened, row.id)).row.setup;
    expect(before.typed?.viscosityPaS).toBe("0.0174 cP");
    expect(before.parameters.viscosityPaS).toBeCloseTo(1.74e-5, 18);
    const { said } = await saveQuestion(opened, row.id, question({ parameters: { ...PARAMETERS, lengthM: "0.06" } }));
    expect(said).toEqual(["0.06 was taken in m"]);
    const after = (await openCase(opened, row.id)).row.setup;
    expect(after.parameters.viscosityPaS).toBe(before.parameters.viscosityPaS);
    expect(after.typed).toMatchObject({ lengthM: "0.06 m", viscosityPaS: "0.0174 cP", temperature: "4 °C" });
    await expect(saveQuestion(opened, row.id, question({ temperature: "4" }))).rejects.toMatchObject({
      details: { temperature: expect.stringContaining("4 °C") },
    });
  });
  test("what does not rest on an entry stays: limits and how settling is judged make nothing stale", async () => {
    const row = await make();
    await family(row.id);
    const hash = (await openCase(opened, row.id)).evidence.setupHash;
    await saveQuestion(opened, row.id, question({ dropOrders: "5", title: "another name", limits: { q1: "2 %" } }));
    expect((await openCase(opened, row.id)).evidence.setupHash).toBe(hash);
    const physics = { time: "steady", model: "laminar", space: "three-dimensional", part: "whole", share: "", compressible: false } as const;
    await saveQuestion(opened, row.id, question({ physics }));
    expect((await openCase(opened, row.id)).evidence.setupHash).not.toBe(hash);
  });
  test("a copy takes the set-up, quantities and typed yardsticks, and leaves what was said and run", async () => {
    const row = await make();
    await createYardstick(opened, row.id, {
      name: "rig",
      kind: "measured",
      source: "s",
      validity: "",
      quantityKey: "q1",
      value: "10 N",
      uncertainty: "1 %",
    });
    await family(row.id);
    await settleSource(opened, row.id, { source: "domain", quantityKey: null, kind: "not-applicable", value: "", reason: "r", by: "H. M." });
    const copy = await openCase(opened, (await copyCase(opened, row.id, { title: "y" })).id);
    expect(copy.runs).toEqual([]);
    expect(copy.row.setup.settlements).toBeUndefined();
    expect(copy.row.setup.copiedFrom).toBe("x");
    expect(copy.evidence.yardsticks.map((y) => y.name)).toEqual(["rig"]);
    expect(copy.evidence.quantities.map((q) => [q.name, q.unit])).toEqual([["drag", "N"]]);
    expect(copy.assessment.setup.remarks.map((r) => r.rule)).toContain("turbulence-inherited");
  });
});

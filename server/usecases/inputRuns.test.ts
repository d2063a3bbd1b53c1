import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { listRuns, type RunRow, updateRun } from "../repositories/runs.ts";
import { createCase, saveQuestion } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { InputRunsInput, startInputRuns } from "./inputRuns.ts";
import { deleteSweep } from "./runs.ts";
import { newCase, questionOf, standIn, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let leave: () => void;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("input-runs"));
  leave = standIn(opened, { bench: { put: async () => {}, turn: async () => {}, stop: async () => {} }, follower: { finish: async () => false } });
});
afterAll(async () => {
  leave();
  await close();
});

const known = (uncertainty: string) => ({ uncertainty, sensitivities: {} });

/** A box whose lid's speed and size are known within two and one percent. */
async function boxCase(change: Partial<Parameters<typeof questionOf>[0]> = {}): Promise<string> {
  const { id } = await createCase(opened, newCase({ problemId: "lidded-box", parameters: {} }));
  await save(id, change);
  return id;
}

async function save(id: string, change: Partial<Parameters<typeof questionOf>[0]> = {}) {
  const { row, evidence } = await openCase(opened, id);
  const parameters = Object.fromEntries(Object.entries(row.setup.parameters).map(([key, value]) => [key, String(value)]));
  const limits = Object.fromEntries(evidence.quantities.map((q) => [q.key, "1 %"]));
  return saveQuestion(
    opened,
    id,
    questionOf({
      parameters: { ...parameters, ...change.parameters },
      limits,
      inputs: { lidSpeedMS: known("2 %"), sideM: known("1 %") },
      ...(change.correlations ? { correlations: change.correlations } : {}),
    }),
  );
}

/** Runs of a set as they were planned. */
const runsOf = async (set: { readonly id: string; readonly caseId: string }) =>
  (await listRuns(opened.db, set.caseId)).filter((r) => r.sweepId === set.id).sort((a, b) => a.createdAt.getTime() - b.createdAt.getTime());
const plan = (id: string, input: object) => startInputRuns(opened, id, InputRunsInput.parse({ nx: 8, ny: 8, ...input }));
const finish = (run: RunRow, of: (p: Readonly<Record<string, number>>) => number) =>
  updateRun(opened.db, run.id, {
    state: "done",
    result: { quantities: { uMin: of(run.settings.parameters) }, profiles: [], errorNorms: [] },
    finishedAt: new Date(),
  });
const sourceOf = async (id: string) => {
  const { assessment } = await openCase(opened, id);
  return { source: assessment.rules[0].sources.find((s) => s.key === "inputs"), budget: assessment.inputs[0] };
};

describe("runs that tell what a quantity answers to", () => {
  test("central differences go as far as each condition is uncertain, and become a source of the rule", async () => {
    const id = await boxCase();
    expect((await sourceOf(id)).source?.note).toMatch(/answers to .* is not known/);
    const set = await plan(id, { way: "differences" });
    const runs = await runsOf(set);
    const { row } = await openCase(opened, id);
    const { lidSpeedMS, sideM } = row.setup.parameters;
    expect(runs.map((r) => [r.label, r.settings.parameters.lidSpeedMS / lidSpeedMS, r.settings.parameters.sideM / sideM])).toEqual([
      ["as it is", 1, 1],
      ["Side of the box down", 1, expect.closeTo(0.99, 12)],
      ["Side of the box up", 1, expect.closeTo(1.01, 12)],
      ["Speed of the lid down", expect.closeTo(0.98, 12), 1],
      ["Speed of the lid up", expect.closeTo(1.02, 12), 1],
    ]);
    for (const run of runs) await finish(run, (p) => -3 * p.lidSpeedMS * p.sideM ** 0.5);
    const { source, budget } = await sourceOf(id);
    expect(budget.relative).toBeCloseTo(Math.hypot(0.02, 0.005), 9);
    expect(budget.largest).toBe("lidSpeedMS");
    expect(source?.note).toContain("by central differences");
  });

  test("conditions that go with each other count together; what contradicts itself is refused at its entry", async () => {
    const together = (coefficient: string) => [{ a: "sideM", b: "lidSpeedMS", coefficient }];
    const id = await boxCase({ correlations: together("1") });
    const set = await plan(id, { way: "differences" });
    for (const run of await runsOf(set)) await finish(run, (p) => p.lidSpeedMS * p.sideM);
    expect((await sourceOf(id)).budget.relative).toBeCloseTo(0.03, 9);
    expect((await sourceOf(id)).source?.note).toContain("correlated as stated");
    await expect(save(id, { correlations: together("1.5") })).rejects.toMatchObject({
      details: { "correlation-0": expect.stringContaining("between -1 and 1") },
    });
    await expect(save(id, { correlations: [...together("0.5"), { a: "lidSpeedMS", b: "sideM", coefficient: "0.2" }] })).rejects.toMatchObject({
      details: { "correlation-1": "These two are there already." },
    });
    await expect(save(id, { correlations: [{ a: "sideM", b: "sideM", coefficient: "0.2" }] })).rejects.toMatchObject({
      details: { "correlation-0": "Choose two different conditions." },
    });
  });

  test("a sample is the same for the same seed, and tells all answers at once", async () => {
    const id = await boxCase();
    const [a, b] = [await plan(id, { way: "sample", count: 12, seed: 5 }), await plan(id, { way: "sample", count: 12, seed: 5 })];
    const [first, second] = [await runsOf(a), await runsOf(b)];
    expect(first.map((r) => r.settings.parameters)).toEqual(second.map((r) => r.settings.parameters));
    for (const run of first) await finish(run, (p) => p.lidSpeedMS ** 2 / p.sideM);
    const { budget } = await sourceOf(id);
    expect(budget.shares.map((s) => s.sensitivity?.by)).toEqual(expect.arrayContaining(["sample", "sample"]));
    expect(budget.relative).toBeCloseTo(Math.hypot(0.04, 0.01), 3);
  });

  test("sets that were deleted, or made before the set-up changed, tell nothing; the latter are said", async () => {
    const id = await boxCase();
    const set = await plan(id, { way: "differences" });
    for (const run of await runsOf(set)) await finish(run, (p) => p.lidSpeedMS);
    expect((await sourceOf(id)).budget.relative).toBeDefined();
    const { row } = await openCase(opened, id);
    await save(id, { parameters: { viscosityPaS: String(1.5 * row.setup.parameters.viscosityPaS) } });
    const earlier = await sourceOf(id);
    expect(earlier.budget.relative).toBeUndefined();
    expect(earlier.source?.note).toContain("a set of runs made with an earlier set-up no longer counts");
    await save(id, { parameters: { viscosityPaS: String(row.setup.parameters.viscosityPaS) } });
    expect((await sourceOf(id)).budget.relative).toBeDefined();
    await deleteSweep(opened, set.id);
    expect((await sourceOf(id)).budget.relative).toBeUndefined();
  });

  test("what cannot be run is refused before anything is queued", async () => {
    const id = await boxCase();
    await expect(plan(id, { way: "sample", count: 4 })).resolves.toBeDefined();
    await expect(plan(id, { way: "differences", nx: 900, ny: 900 })).rejects.toThrow("more than the bench takes");
    const { id: bare } = await createCase(opened, newCase({ problemId: "lidded-box", parameters: {} }));
    await expect(plan(bare, { way: "differences" })).rejects.toThrow("Type how well a condition is known first");
    const { id: foreign } = await createCase(opened, newCase());
    await expect(plan(foreign, { way: "differences" })).rejects.toThrow("Only the bench can be asked");
    await expect(plan(crypto.randomUUID(), { way: "differences" })).rejects.toMatchObject({ code: "not-found" });
    expect(InputRunsInput.safeParse({ way: "sample", count: 3, nx: 8, ny: 8 }).success).toBe(false);
  });
});

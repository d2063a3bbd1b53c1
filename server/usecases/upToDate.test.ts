import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { listRuns, updateRun } from "../repositories/runs.ts";
import { createCase, type QuestionInput, saveQuestion } from "./cases.ts";
import { CredibilityInput, sayOfCredibility } from "./credibility.ts";
import { openCase } from "./evidence.ts";
import { FamilyInput, startFamily } from "./runs.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { settleSource } from "./sources.ts";
import { FOREIGN_PARAMETERS, newCase, questionOf, temporaryStore } from "./testStore.ts";
import { bringUpToDate, consequencesOf, dependenceIn } from "./upToDate.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("up-to-date"));
});
afterAll(() => close());

const fast = (): QuestionInput => questionOf({ parameters: { ...FOREIGN_PARAMETERS, velocityMS: "3 m/s" } });

describe("a question that would change the set-up", () => {
  test("says beforehand what goes stale and who makes it anew, and stores nothing", async () => {
    const { id } = await createCase(opened, newCase({ parameters: FOREIGN_PARAMETERS }));
    await bringSettled(opened, id, 8.1, { label: "fine", cells: 1000 });
    await settleSource(opened, id, { source: "domain", quantityKey: null, kind: "bounded", value: "1 %", reason: "walls", by: "H. M." });
    await sayOfCredibility(opened, id, CredibilityInput.parse({ factor: "inputs", kind: "lower", level: 0, reason: "r", by: "K. B." }));
    const before = (await openCase(opened, id)).evidence.setupHash;
    const { changes, list } = await consequencesOf(opened, id, fast());
    expect(changes).toBe(true);
    expect(list.map((c) => [c.what, c.names, c.anew])).toEqual([
      ["runs", ["fine"], "person"],
      ["settlements", ["domain"], "person"],
      ["credibility", ["inputs"], "person"],
    ]);
    expect((await openCase(opened, id)).evidence.setupHash).toBe(before);
    await saveQuestion(opened, id, fast());
    // What was foretold came true.
    const { assessment, evidence } = await openCase(opened, id);
    expect(assessment.stale).toBe(true);
    expect(evidence.settlements?.[0].setupHash).not.toBe(evidence.setupHash);
  });
  test("a change that is none of the set-up's, and an entry that cannot be read", async () => {
    const { id } = await createCase(opened, newCase({ parameters: FOREIGN_PARAMETERS }));
    await bringSettled(opened, id, 8.2, { label: "fine", cells: 1000 });
    expect(await consequencesOf(opened, id, questionOf({ title: "renamed", purpose: "more words" }))).toEqual({ changes: false, list: [] });
    await expect(consequencesOf(opened, id, questionOf({ temperature: "cold" }))).rejects.toMatchObject({
      details: { temperature: expect.any(String) },
    });
  });
});

describe("bringing up to date", () => {
  test("a person is told what to do of another code's runs and of what was said; with nothing stale it is refused", async () => {
    const { id } = await createCase(opened, newCase({ parameters: FOREIGN_PARAMETERS }));
    await bringSettled(opened, id, 8.3, { label: "fine", cells: 1000 });
    await settleSource(opened, id, { source: "domain", quantityKey: null, kind: "bounded", value: "1 %", reason: "walls all round", by: "H. M." });
    await expect(bringUpToDate(opened, id, false)).rejects.toMatchObject({ code: "conflict" });
    await saveQuestion(opened, id, fast());
    expect(await bringUpToDate(opened, id, false)).toEqual({
      runs: [],
      byHand: ["Make fine again with c and bring it in.", "Say again what holds for domain: walls all round (H. M.)."],
    });
  });
  test("the bench makes every mesh again with the present set-up, once, and keeps what single runs differed in", async () => {
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
    const { id } = await createCase(opened, plates);
    const uniform = { kind: "uniform" } as const;
    await startFamily(opened, id, FamilyInput.parse({ baseNx: 4, baseNy: 4, ratio: 2, count: 3, gradingX: uniform, gradingY: uniform }), false);
    const first = await listRuns(opened.db, id);
    const result = { quantities: { flowRate: 1 }, profiles: [], errorNorms: [] };
    for (const [k, r] of first.entries())
      await updateRun(opened.db, r.id, {
        state: "done",
        result,
        finishedAt: new Date(2026, 3, 1 + k),
        ...(k === 0 ? { settings: { ...r.settings, numerics: { ...r.settings.numerics, scheme: "upwind" } } } : {}),
      });
    const question = questionOf({ title: "Strip", parameters: { ...plates.parameters, viscosityPaS: "2e-5 Pa s" } });
    expect((await consequencesOf(opened, id, question)).list[0]).toMatchObject({ anew: "bench", names: first.map((r) => r.label) });
    await saveQuestion(opened, id, question);
    const { runs } = await bringUpToDate(opened, id, false);
    expect(runs.map((r) => [r.label, r.settings.parameters.viscosityPaS, r.settings.numerics.scheme === "upwind"]).sort()).toEqual(
      first.map((r, k) => [r.label, 2e-5, k === 0]).sort(),
    );
    const { evidence } = await openCase(opened, id);
    expect(runs.every((r) => r.setupHash === evidence.setupHash || r.settings.numerics.scheme === "upwind")).toBe(true);
    // Asked again, nothing is queued twice.
    await expect(bringUpToDate(opened, id, false)).rejects.toMatchObject({ code: "conflict" });
  });
  test("the graph of a case shows what is stale, to its end", async () => {
    const { id } = await createCase(opened, newCase({ parameters: FOREIGN_PARAMETERS }));
    await bringSettled(opened, id, 8.4, { label: "fine", cells: 1000 });
    const before = await dependenceIn(opened, id);
    expect(before.nodes.map((n) => [n.column, n.fresh])).toEqual([
      ["files and set-up", true],
      ["runs, yardsticks, statements", true],
      ["files and set-up", true],
      ["verdicts", true],
    ]);
    await saveQuestion(opened, id, fast());
    expect((await dependenceIn(opened, id)).nodes.filter((n) => !n.fresh).map((n) => n.column)).toEqual(["runs, yardsticks, statements", "verdicts"]);
  });
});

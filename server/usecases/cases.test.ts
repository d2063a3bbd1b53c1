import { readFile } from "node:fs/promises";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { insertRun, listRuns } from "../repositories/runs.ts";
import { bringIn } from "./bringIn.ts";
import {
  AnswerInput,
  answerRemark,
  compareSetups,
  copyCase,
  createCase,
  createYardstick,
  deleteCase,
  otherCases,
  QuestionInput,
  restoreCase,
  saveQuestion,
  withdrawAnswer,
} from "./cases.ts";
import { openCase } from "./evidence.ts";
import { chooseKind, createDerived, createMonitor, createQuantity, monitorChoices, removeQuantity } from "./quantities.ts";
import { newCase, questionOf, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("cases"));
});
afterAll(() => close());

const setup = async (id: string) => (await findCase(opened.db, id))!.setup;
const gone = "00000000-0000-4000-8000-000000000000";
const plates = (change: object = {}) => newCase({ problemId: "plates", parameters: {}, quantityName: undefined, quantityUnit: undefined, ...change });

describe("a new case", () => {
  test("of a template: its presets, quantities, kind and words", async () => {
    const row = await createCase(opened, plates());
    expect(row.kind).toBe("exact");
    expect(row.purpose).not.toBe("");
    expect((await listQuantities(opened.db, row.id)).map((q) => q.key)).toEqual(["flowRate", "shearResting", "shearSliding", "midVelocity"]);
    expect((await setup(row.id)).parameters).toMatchObject({ lengthM: 0.02, wallSpeedMS: 0.1 });
    expect((await setup(row.id)).physics).toBeUndefined();
    expect((await createCase(opened, plates({ purpose: "why" }))).purpose).toBe("why");
  });
  test("of another code: one quantity, measured, turbulent in space until said otherwise", async () => {
    const row = await createCase(opened, newCase());
    expect(row.kind).toBe("measured");
    const [q] = await listQuantities(opened.db, row.id);
    expect(q).toMatchObject({ key: "q1", name: "drag", unit: "N", limit: 0.05 });
    expect((await setup(row.id)).physics).toMatchObject({
      time: "steady",
      model: "turbulence model",
      space: "three-dimensional",
      part: "whole",
      share: 1,
    });
    expect((await setup(row.id)).parameters).toMatchObject({ lengthM: 0.05, viscosityPaS: expect.closeTo(1.74e-5, 15) });
    const unnamed = await createCase(opened, newCase({ quantityName: "", quantityUnit: "" }));
    expect((await listQuantities(opened.db, unnamed.id))[0]).toMatchObject({ name: "first quantity", unit: "1" });
  });
  test("every entry that cannot be used is named, and nothing is stored", async () => {
    const before = (await otherCases(opened, gone)).length;
    const bad = newCase({ temperature: "4", quantityUnit: "wombat", parameters: { lengthM: "-1 m", velocityMS: "fast" } });
    await expect(createCase(opened, bad)).rejects.toMatchObject({
      code: "invalid",
      details: {
        temperature: expect.any(String),
        quantityUnit: '"wombat" is no unit that is known here.',
        lengthM: expect.any(String),
        velocityMS: expect.any(String),
      },
    });
    expect((await otherCases(opened, gone)).length).toBe(before);
  });
  test("formulas of a manufactured case are read where they are typed", async () => {
    const make = (formulas: Record<string, string>) => createCase(opened, newCase({ problemId: "manufactured-flow", parameters: {}, formulas }));
    await expect(make({ streamFunction: "sin(" })).rejects.toMatchObject({ details: { streamFunction: expect.any(String) } });
    const row = await make({});
    expect(Object.keys((await setup(row.id)).formulas ?? {})).toEqual(expect.arrayContaining(["streamFunction", "pressure"]));
  });
});

describe("physics of another code", () => {
  const physics = (part: "whole" | "half model" | "periodic piece", share: string) =>
    ({ time: "steady", model: "laminar", space: "three-dimensional", part, share, compressible: false }) as const;
  const saved = async (part: Parameters<typeof physics>[0], share: string) => {
    const row = await createCase(opened, newCase());
    await saveQuestion(opened, row.id, questionOf({ physics: physics(part, share) }));
    return (await setup(row.id)).physics?.share;
  };
  test("the whole is one, a half model a half unless typed, a piece has to be typed", async () => {
    expect(await saved("whole", "0.3")).toBe(1);
    expect(await saved("half model", "")).toBe(0.5);
    expect(await saved("half model", "0.25")).toBe(0.25);
    expect(await saved("periodic piece", "1e-6")).toBe(1e-6);
    await expect(saved("periodic piece", "")).rejects.toThrow(/which share of the whole the piece is/);
    expect(await saved("half model", "1")).toBe(1);
    await expect(saved("half model", "1.001")).rejects.toThrow(/between 0 and 1/);
  });
});

describe("the question", () => {
  test("facts, stated numerics and inputs: typed ones are kept in SI, emptied ones are forgotten", async () => {
    const row = await createCase(opened, newCase());
    await saveQuestion(
      opened,
      row.id,
      questionOf({
        facts: { bodyFrontM2: "100 cm^2", domainSectionM2: "1 m^2", unknownFact: "5" },
        stated: { schemeOrder: "1", dropOrders: "3" },
        inputs: { velocityMS: { uncertainty: "2 %", sensitivities: { q1: "2", q2: "" } }, lengthM: { uncertainty: "", sensitivities: { q1: "1" } } },
      }),
    );
    const s = await setup(row.id);
    expect(s.facts).toEqual({ bodyFrontM2: expect.closeTo(0.01, 15), domainSectionM2: 1 });
    expect(s.stated).toEqual({ schemeOrder: 1, dropOrders: 3 });
    expect(s.inputs).toEqual({ velocityMS: { uncertainty: expect.closeTo(0.04, 15), sensitivities: { q1: 2 } } });
    expect(s.typed?.["fact-bodyFrontM2"]).toBe("100 cm^2");
    await saveQuestion(opened, row.id, questionOf({ facts: { bodyFrontM2: "" }, stated: { schemeOrder: "", dropOrders: "" } }));
    const after = await setup(row.id);
    expect([after.facts, after.stated, after.inputs]).toEqual([undefined, undefined, undefined]);
  });
  test("numerics of the bench within their ranges; limits of quantities; typed Reynolds number and viscosity", async () => {
    const row = await createCase(opened, plates());
    const q = questionOf({
      parameters: {},
      scheme: "upwind",
      courant: "2",
      maxIterations: "99.6",
      dropOrders: "7",
      reynolds: "150",
      kinematicViscosity: "14 mm^2/s",
      limits: { flowRate: "2 %" },
    });
    await saveQuestion(opened, row.id, q);
    const s = await setup(row.id);
    expect(s.numerics).toMatchObject({ scheme: "upwind", courant: 2, maxIterations: 100, dropOrders: 7 });
    expect([s.reynoldsTyped, s.kinematicViscosityM2S]).toEqual([150, expect.closeTo(14e-6, 15)]);
    expect((await listQuantities(opened.db, row.id))[0].limit).toBe(0.02);
    for (const [bad, field] of [
      [{ dropOrders: "0.9" }, "dropOrders"],
      [{ dropOrders: "14.1" }, "dropOrders"],
      [{ courant: "101" }, "courant"],
      [{ maxIterations: "0.5" }, "maxIterations"],
      [{ reynolds: "-1" }, "reynolds"],
      [{ limits: { flowRate: "0" } }, "limit-flowRate"],
      [{ limits: { flowRate: "11" } }, "limit-flowRate"],
    ] as const)
      await expect(saveQuestion(opened, row.id, { ...q, ...bad }), field).rejects.toMatchObject({ details: { [field]: expect.any(String) } });
    expect((await setup(row.id)).numerics.dropOrders).toBe(7);
    await saveQuestion(opened, row.id, questionOf({ parameters: {} }));
    expect((await setup(row.id)).numerics).toMatchObject({ scheme: "upwind", courant: 2, maxIterations: 100, dropOrders: 6 });
  });
  test("of a case that is gone", async () => {
    await expect(saveQuestion(opened, gone, questionOf())).rejects.toMatchObject({ code: "not-found" });
    expect(QuestionInput.safeParse({ ...questionOf(), title: " " }).success).toBe(false);
  });
});

describe("answers to remarks", () => {
  test("are kept with the words they answer, count once withdrawn no more, and need a remark and a reason", async () => {
    const row = await createCase(opened, newCase());
    await saveQuestion(opened, row.id, questionOf({ reynolds: "1" }));
    const state = async () => (await openCase(opened, row.id)).assessment.setup.state;
    expect(await state()).toBe("fails");
    await answerRemark(opened, row.id, { rule: "reynolds-typed", reason: "of the model" }, new Date("2026-04-02T09:00:00Z"));
    const [answer] = (await setup(row.id)).answers ?? [];
    expect(answer).toMatchObject({
      rule: "reynolds-typed",
      reason: "of the model",
      at: "2026-04-02T09:00:00.000Z",
      sentence: expect.stringContaining("typed as 1"),
    });
    expect(await state()).not.toBe("fails");
    await expect(answerRemark(opened, row.id, { rule: "blockage", reason: "r" })).rejects.toMatchObject({ code: "conflict" });
    await withdrawAnswer(opened, row.id, "reynolds-typed");
    expect(await state()).toBe("fails");
    await expect(answerRemark(opened, gone, { rule: "x", reason: "r" })).rejects.toMatchObject({ code: "not-found" });
    await expect(withdrawAnswer(opened, gone, "x")).rejects.toMatchObject({ code: "not-found" });
    expect(AnswerInput.safeParse({ rule: "x", reason: "  " }).success).toBe(false);
  });
});

describe("yardsticks", () => {
  const rig = { name: "rig", kind: "measured" as const, source: "made up", validity: "", quantityKey: "q1", value: "10 N", uncertainty: "1 %" };
  test("a typed 95 % figure is halved to the standard one; none stays none", async () => {
    const row = await createCase(opened, newCase());
    await createYardstick(opened, row.id, rig);
    await createYardstick(opened, row.id, { ...rig, uncertainty: "0.5 N", validity: "Re below 1e4" });
    await createYardstick(opened, row.id, { ...rig, uncertainty: "" });
    const yardsticks = (await openCase(opened, row.id)).evidence.yardsticks;
    expect(yardsticks.map((y) => y.values[0].standardUncertainty)).toEqual([expect.closeTo(0.05, 15), 0.25, undefined]);
    expect(yardsticks.map((y) => y.values[0].uncertaintyNote)).toEqual(["as typed, 95 %", "as typed, 95 %", "none stated"]);
    expect(yardsticks.map((y) => y.validity.sentence)).toEqual([
      "No range of validity was stated.",
      "Re below 1e4",
      "No range of validity was stated.",
    ]);
    expect(yardsticks.every((y) => y.validity.inside)).toBe(true);
    await expect(createYardstick(opened, row.id, { ...rig, quantityKey: "q9" })).rejects.toThrow(/Choose the quantity/);
    await expect(createYardstick(opened, row.id, { ...rig, value: "10 kg" })).rejects.toMatchObject({ details: { value: expect.any(String) } });
  });
});

describe("copies, comparison, deletion", () => {
  test("what was asked about another case's turbulence is not asked of laminar or bench cases", async () => {
    const turbulent = await createCase(opened, newCase());
    expect((await copyCase(opened, turbulent.id, { title: "c" })).setup.facts).toEqual({ turbulenceInherited: 1 });
    const bench = await createCase(opened, plates());
    const copy = await copyCase(opened, bench.id, { title: "c" });
    expect(copy.setup.facts).toBeUndefined();
    expect(copy).toMatchObject({ title: "c", kind: "exact", setup: { copiedFrom: "Curtain", problemId: "plates" } });
    await expect(copyCase(opened, gone, { title: "c" })).rejects.toMatchObject({ code: "not-found" });
  });
  test("two set-ups: only what differs, without what was said or typed", async () => {
    const a = await createCase(opened, newCase());
    const b = await createCase(
      opened,
      newCase({ parameters: { velocityMS: "3 m/s", lengthM: "50 mm", densityKgM3: "1.274 kg/m^3", viscosityPaS: "0.0174 cP" } }),
    );
    await answerRemark(opened, b.id, { rule: "numerics-not-stated", reason: "r" });
    expect(await compareSetups(opened, a.id, b.id)).toEqual([{ path: "parameters.velocityMS", left: "2", right: "3" }]);
    await expect(compareSetups(opened, a.id, gone)).rejects.toMatchObject({ code: "not-found" });
    expect((await otherCases(opened, a.id)).map((c) => c.id)).not.toContain(a.id);
    expect((await otherCases(opened, a.id)).map((c) => c.id)).toContain(b.id);
  });
  test("a case is not deleted under its runs, and comes back as it was", async () => {
    const row = await createCase(opened, newCase());
    const run = (state: "running" | "waiting" | "done") =>
      insertRun(opened.db, {
        caseId: row.id,
        label: "r",
        origin: "brought-in",
        code: "Lintel",
        state,
        settings: { problemId: null, parameters: {}, numerics: row.setup.numerics, mesh: { cells: 1, spacingM: 1, dimension: 3 }, code: "Lintel" },
        settingsHash: "",
        setupHash: "",
      });
    await run("done");
    await deleteCase(opened, row.id);
    expect(await findCase(opened.db, row.id)).toBeUndefined();
    await restoreCase(opened, row.id);
    expect(await findCase(opened.db, row.id)).toBeDefined();
    await run("waiting");
    await run("running");
    await expect(deleteCase(opened, row.id)).rejects.toThrow("2 of its runs are under way; stop them first.");
  });
});

describe("quantities", () => {
  test("added with a key of its own, never one that was used before; the last one stays", async () => {
    const row = await createCase(opened, newCase());
    await createQuantity(opened, row.id, { name: "lift", unit: "N", limit: "3 %" });
    await createQuantity(opened, row.id, { name: "ratio", unit: "", limit: "3 %" });
    expect((await listQuantities(opened.db, row.id)).map((q) => [q.key, q.unit, q.limit])).toEqual([
      ["q1", "N", 0.05],
      ["q2", "N", 0.03],
      ["q3", "1", 0.03],
    ]);
    await removeQuantity(opened, row.id, "q2", new Date());
    await createQuantity(opened, row.id, { name: "side force", unit: "N", limit: "3 %" });
    expect((await listQuantities(opened.db, row.id)).map((q) => q.key)).toEqual(["q1", "q3", "q4"]);
    await removeQuantity(opened, row.id, "q2", null);
    expect((await listQuantities(opened.db, row.id)).map((q) => q.key)).toContain("q2");
    for (const key of ["q2", "q3", "q4"]) await removeQuantity(opened, row.id, key, new Date());
    await expect(removeQuantity(opened, row.id, "q1", new Date())).rejects.toThrow("A case needs at least one quantity.");
    await expect(createQuantity(opened, row.id, { name: "x", unit: "wombat", limit: "0" })).rejects.toMatchObject({
      details: { unit: '"wombat" is no unit.', limit: expect.any(String) },
    });
  });
  test("what it is is stated, kept, changed, and copied with the case; a template's is known", async () => {
    const row = await createCase(opened, newCase({ quantityKind: "efficiency" }));
    await createQuantity(opened, row.id, { name: "lift", unit: "N", limit: "3 %" });
    await createQuantity(opened, row.id, { name: "push", unit: "N", limit: "3 %", kind: "cross-force" });
    const kinds = async (id: string) => (await openCase(opened, id)).evidence.quantities.map((q) => q.kind);
    expect(await kinds(row.id)).toEqual(["efficiency", undefined, "cross-force"]);
    await chooseKind(opened, row.id, "q2", "cross-force");
    await chooseKind(opened, row.id, "q3", "plain");
    expect(await kinds(row.id)).toEqual(["efficiency", "cross-force", undefined]);
    const copy = await copyCase(opened, row.id, { title: "Copy" });
    expect(await kinds(copy.id)).toEqual(["efficiency", "cross-force", undefined]);
    const bench = await createCase(opened, plates());
    await expect(chooseKind(opened, bench.id, "flowRate", "efficiency")).rejects.toThrow(/what it is/);
    await expect(chooseKind(opened, gone, "q1", "efficiency")).rejects.toMatchObject({ code: "not-found" });
  });
  test("cases from before kinds were stated keep what rules read off their names", async () => {
    const row = await createCase(opened, newCase({ quantityName: "Lift coefficient" }));
    for (const name of ["side force", "forklift speed", "fan efficiency", "lift efficiency", "inefficiency"])
      await createQuantity(opened, row.id, { name, unit: "", limit: "3 %" });
    const text = await readFile("server/db/migrations/0008_kinds_of_quantities.sql", "utf8");
    for (const statement of text.split("--> statement-breakpoint").slice(1)) await opened.db.execute(statement);
    expect((await listQuantities(opened.db, row.id)).map((q) => q.kind)).toEqual([
      "cross-force",
      "cross-force",
      undefined,
      "efficiency",
      "cross-force",
      undefined,
    ]);
  });
  test("a template's own cannot be taken off; watched ones can", async () => {
    const row = await createCase(opened, plates());
    await expect(removeQuantity(opened, row.id, "flowRate", new Date())).rejects.toThrow(/template's own/);
    await expect(removeQuantity(opened, gone, "x", new Date())).rejects.toMatchObject({ code: "not-found" });
    const choices = await monitorChoices(opened, row.id);
    expect(choices.fields.map((f) => f.key)).toEqual(expect.arrayContaining(["u", "v", "p"]));
    expect(choices.extentM[0]).toEqual([0, expect.closeTo(0.02, 12)]);
    await createMonitor(opened, row.id, { name: "speed", limit: "1 %", monitor: { on: "point", field: "u", at: [0.01, 0.001] } });
    const made = (await listQuantities(opened.db, row.id)).at(-1);
    expect(made).toMatchObject({ key: "m1", unit: "m/s", limit: 0.01 });
    expect((await setup(row.id)).monitors).toEqual([{ key: "m1", monitor: { on: "point", field: "u", at: [0.01, 0.001] } }]);
    await expect(
      createMonitor(opened, row.id, { name: "x", limit: "1 %", monitor: { on: "point", field: "nothing", at: [0.01, 0.001] } }),
    ).rejects.toMatchObject({
      details: { monitor: expect.any(String) },
    });
    await removeQuantity(opened, row.id, "m1", new Date());
    const foreign = await createCase(opened, newCase());
    await expect(monitorChoices(opened, foreign.id)).rejects.toThrow(/Only cases of the bench/);
    await expect(createMonitor(opened, foreign.id, { name: "x", limit: "1 %", monitor: { on: "point", field: "u", at: [0, 0] } })).rejects.toThrow(
      /Only cases/,
    );
  });
  test("a limit is at most ten times the yardstick and more than nothing, however the quantity comes", async () => {
    const foreign = await createCase(opened, newCase());
    const bench = await createCase(opened, plates());
    const at = { on: "point" as const, field: "u", at: [0.01, 0.001] as [number, number] };
    const ways: ((limit: string) => Promise<unknown>)[] = [
      (limit) => createDerived(opened, foreign.id, { name: "c", formula: "2 * q1", unit: "N", limit }),
      (limit) => createMonitor(opened, bench.id, { name: "c", limit, monitor: at }),
    ];
    for (const way of ways) {
      for (const limit of ["1000 %", "1e-10 %"]) await way(limit);
      for (const limit of ["1001 %", "0", "0.9e-10 %", "", "wide"])
        await expect(way(limit), limit).rejects.toMatchObject({ code: "invalid", details: { limit: expect.any(String) } });
    }
    expect((await listQuantities(opened.db, foreign.id)).map((q) => q.limit)).toEqual([0.05, 10, 1e-12]);
  });
  test("worked out by formula: units, names and circles are checked where they are typed", async () => {
    const row = await createCase(opened, newCase());
    const make = (formula: string, unit: string) => createDerived(opened, row.id, { name: "c", formula, unit, limit: "2 %" });
    await make("q1 / (0.5 * densityKgM3 * velocityMS^2 * lengthM^2)", "1");
    expect((await setup(row.id)).derived).toEqual([{ key: "d1", formula: "q1 / (0.5 * densityKgM3 * velocityMS^2 * lengthM^2)", unit: "1" }]);
    await expect(make("q1 / nothing", "N")).rejects.toMatchObject({ details: { formula: expect.any(String) } });
    await expect(make("q1", "m")).rejects.toMatchObject({ details: { formula: expect.any(String) } });
    await expect(make("q1", "wombat")).rejects.toMatchObject({ details: { unit: '"wombat" is no unit.' } });
    await expect(make("d2 * 2", "1")).rejects.toMatchObject({ details: { formula: expect.any(String) } });
    await expect(createDerived(opened, gone, { name: "c", formula: "q1", unit: "N", limit: "1 %" })).rejects.toMatchObject({ code: "not-found" });
    await bringIn(opened, row.id, {
      label: "L",
      code: "Lintel",
      cells: 1000,
      volume: "1 m^3",
      roles: [],
      history: null,
      quantities: { name: "q.csv", text: "name,value,unit\ndrag,1,N\n" },
      rowRoles: ["quantity:q1"],
    });
    const { evidence, assessment } = await openCase(opened, row.id);
    expect(evidence.derived?.specs).toHaveLength(1);
    expect(assessment.derived[0].value).toBeCloseTo(1 / (0.5 * 1.274 * 4 * 0.0025), 9);
    expect((await listRuns(opened.db, row.id))[0].result?.quantities).toEqual({ q1: 1 });
    // A formula whose part is taken off is left out, and comes back with it.
    await createQuantity(opened, row.id, { name: "lift", unit: "N", limit: "3 %" });
    await make("q2 / q1", "1");
    await removeQuantity(opened, row.id, "q2", new Date());
    expect((await openCase(opened, row.id)).evidence.derived?.specs.map((s) => s.key)).toEqual(["d1"]);
  });
});

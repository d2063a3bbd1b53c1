import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { insertYardstick } from "../repositories/cases.ts";
import { currentProgramme, updateProgramme } from "../repositories/programmes.ts";
import { boardView } from "./board.ts";
import { bringIn } from "./bringIn.ts";
import { copyCase, createCase, saveQuestion } from "./cases.ts";
import { CredibilityInput, caseCredibility, sayOfCredibility, withdrawCredibility } from "./credibility.ts";
import { openCase } from "./evidence.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { FOREIGN_PARAMETERS, newCase, questionOf, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("credibility"));
});
afterAll(() => close());

const said = (change: object = {}) =>
  CredibilityInput.parse({ factor: "inputs", kind: "lower", level: 1, reason: "the rig was not documented", by: "K. B.", ...change });
const factor = async (id: string, key: string) => (await caseCredibility(opened, id, "q1")).factors.find((f) => f.key === key);
async function make(title = "Curtain") {
  const { id } = await createCase(opened, newCase({ title, parameters: FOREIGN_PARAMETERS }));
  await bringSettled(opened, id, 8.1, { cells: 1000 });
  return id;
}

describe("credibility of a case", () => {
  test("levels come from evidence: one mesh of an unproven code, compared with nothing, then with a yardstick", async () => {
    const id = await make();
    const before = await caseCredibility(opened, id, "q1");
    expect(before.code).toBe("c");
    expect(Object.fromEntries(before.factors.map((f) => [f.key, f.level]))).toMatchObject({
      code: 0,
      solution: 0,
      validation: 0,
      history: 0,
      people: 0,
    });
    const value = { quantityKey: "q1", value: 8, standardUncertainty: 0.1, uncertaintyNote: "" };
    const validity = { sentence: "", inside: true };
    await insertYardstick(opened.db, id, { key: "", name: "Traverse", kind: "measured", source: "made up", validity, values: [value], profiles: [] });
    expect(await factor(id, "validation")).toMatchObject({ level: 2, because: expect.stringContaining("Traverse") });
  });
  test("people of the programme and what hangs on it count at once", async () => {
    const id = await make();
    const programme = await currentProgramme(opened.db);
    const people = [
      { initials: "H. M.", role: "prepares" },
      { initials: "K. B.", role: "checks" },
    ];
    await updateProgramme(opened.db, programme?.id ?? "", { people, stakes: { consequence: 4, influence: 3 } });
    const found = await caseCredibility(opened, id, "q1");
    expect(found.factors.find((f) => f.key === "people")?.level).toBe(2);
    expect(found).toMatchObject({ target: 3, meetsTarget: false });
  });
  test("errors another code made in an exact case prove that code, with the terms the case exercises; of a code nobody proved the level stays nought", async () => {
    const foreign = await make("proven elsewhere");
    expect(await factor(foreign, "code")).toMatchObject({ level: 0 });
    const { id } = await createCase(opened, newCase({ title: "Wake by another code", problemId: "wake", parameters: {} }));
    for (const [k, n] of [16, 32, 64].entries()) {
      const [l1, l2, max] = [0.5, 1, 4].map((c) => (c * 0.01) / 4 ** k);
      const text = `name,value,unit\nL1 error of u,${l1},m/s\nL2 error of u,${l2},m/s\nLinf error of u,${max},m/s\nlargest exact value of u,1,m/s\n`;
      await bringIn(opened, id, {
        history: null,
        quantities: { name: "errors.csv", text },
        label: `${n} x ${n}`,
        code: "c",
        cells: n * n,
        volume: "1 m^2",
        dimension: 2,
        roles: [],
        rowRoles: ["norm-l1", "norm-l2", "norm-max", "norm-scale"],
      });
    }
    const { assessment } = await openCase(opened, id);
    expect(assessment.comparison.methods).toMatchObject([{ code: "c", formalOrder: 2, orders: { field: "u", verdict: "formal-order" } }]);
    await boardView(opened, 30_000);
    const found = await caseCredibility(opened, foreign, "q1");
    expect(found.factors.find((f) => f.key === "code")?.level).toBeGreaterThanOrEqual(1);
    expect(found.proofs).toMatchObject([
      { caseId: id, field: "u", verdict: "formal-order", exercises: expect.stringMatching(/^momentum along x: .*viscosity \d+ %/) },
    ]);
    expect(found.proofs[0].order).toBeCloseTo(2, 9);
  });
  test("another judged case of the same code is its use history", async () => {
    const id = await make("one");
    const judged = await make("judged before");
    const value = { quantityKey: "q1", value: 8, standardUncertainty: 0.1, uncertaintyNote: "" };
    const outside = { sentence: "", inside: false };
    await insertYardstick(opened.db, judged, { key: "", name: "T", kind: "table", source: "s", validity: outside, values: [value], profiles: [] });
    await boardView(opened, 20_000);
    expect(await factor(id, "history")).toMatchObject({ level: 1, because: expect.stringContaining("judged before") });
  });
  test("a person lowers with a reason, signed and dated, and takes it back; the assessment stays as it was", async () => {
    const id = await make();
    const { evidenceHash } = await openCase(opened, id);
    const before = (await factor(id, "inputs"))?.level;
    expect(before).toBeGreaterThan(0);
    await sayOfCredibility(opened, id, said({ level: 0 }), new Date("2026-04-03T08:00:00Z"));
    expect(await factor(id, "inputs")).toMatchObject({
      level: 0,
      changed: `lowered from ${before} by K. B. on 2026-04-03: the rig was not documented`,
    });
    expect((await openCase(opened, id)).evidenceHash).toBe(evidenceHash);
    await sayOfCredibility(opened, id, said({ kind: "raise", level: 4, link: "audit A 3" }));
    expect((await factor(id, "inputs"))?.level).toBe(4);
    await withdrawCredibility(opened, id, "inputs");
    expect((await factor(id, "inputs"))?.level).toBe(before);
  });
  test("a changed set-up takes the words away with it, and what a copy is of says nothing of the copy", async () => {
    const id = await make();
    await sayOfCredibility(opened, id, said({ kind: "raise", level: 4, link: "audit A 3" }));
    const copy = await copyCase(opened, id, { title: "copy" });
    expect((await openCase(opened, copy.id)).row.setup.credibility).toBeUndefined();
    await saveQuestion(opened, id, questionOf({ parameters: { ...FOREIGN_PARAMETERS, velocityMS: "3 m/s" } }));
    expect((await factor(id, "inputs"))?.level).toBeLessThan(4);
    // One mesh was worth nothing to the solution; of an earlier set-up it is worth no more.
    expect((await factor(id, "solution"))?.level).toBe(0);
  });
  test.each([
    [{ kind: "raise", level: 3 }, "link"],
    [{ kind: "lower", level: undefined }, "level"],
    [{ reason: " " }, "reason"],
    [{ by: "" }, "by"],
    [{ level: 5 }, "level"],
  ])("%o is refused where it stands", (change, field) => {
    const found = CredibilityInput.safeParse({ factor: "inputs", kind: "lower", level: 1, reason: "r", by: "K. B.", ...change });
    expect(found.success ? [] : found.error.issues.map((i) => i.path[0])).toContain(field);
  });
  test("no such case or quantity", async () => {
    const id = await make();
    await expect(caseCredibility(opened, id, "q9")).rejects.toThrow("no such quantity");
    await expect(sayOfCredibility(opened, "00000000-0000-4000-8000-000000000000", said())).rejects.toMatchObject({ code: "not-found" });
  });
});

import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { listRuns } from "../repositories/runs.ts";
import { copyCase, createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { decideStudy, StudyInput, withdrawStudy } from "./studies.ts";
import { newCase, temporaryStore } from "./testStore.ts";

const NOBODY = "00000000-0000-4000-8000-000000000000";
const SIGNED = { reason: "the mesh folds over", by: "AB" };
const AT = new Date("2026-04-01T10:00:00Z");
let opened: Store;
let close: () => Promise<void>;
let caseId = "";
let key = "";
const runs: string[] = [];

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("studies"));
  caseId = (await createCase(opened, newCase({ title: "Studies" }))).id;
  // 2 + 8 h^2 on four meshes, and a fifth that is off.
  for (const [label, cells, value] of [
    ["fine", 64 ** 2, 2 + 8 / 64 ** 2],
    ["third", 32 ** 2, 2 + 8 / 32 ** 2],
    ["second", 16 ** 2, 2 + 8 / 16 ** 2],
    ["folded", 8 ** 2, 2.9],
  ] as const)
    await bringSettled(opened, caseId, value, { label, cells });
  key = (await listQuantities(opened.db, caseId))[0].key;
  runs.push(...(await listRuns(opened.db, caseId)).map((r) => r.id));
}, 60_000);
afterAll(() => close());

const refined = async () => (await openCase(opened, caseId)).assessment.refinement[0];
const studies = async () => (await findCase(opened.db, caseId))?.setup.studies;

describe("decisions about the ladders", () => {
  test("a run left out changes what is judged, with the reason; taken back it counts again", async () => {
    const before = await refined();
    expect(before.adopted?.key).toBe("least-squares");
    await decideStudy(opened, caseId, { kind: "leave-out", runId: runs[3], ...SIGNED }, AT);
    const after = await refined();
    expect(after.rungs.find((g) => g.label === "folded")).toMatchObject({ used: false, leftOut: SIGNED });
    expect(after.adopted?.key).toBe("three-mesh");
    expect((await studies())?.leftOut).toEqual([{ runId: runs[3], ...SIGNED, at: AT.toISOString() }]);
    await withdrawStudy(opened, caseId, "leave-out", runs[3]);
    expect((await refined()).uncertainty).toBe(before.uncertainty);
  });
  test("a second decision about the same quantity takes the place of the first", async () => {
    await decideStudy(opened, caseId, { kind: "adopt", quantityKey: key, procedure: "factor-of-safety", ...SIGNED }, AT);
    await decideStudy(opened, caseId, { kind: "adopt", quantityKey: key, procedure: "three-mesh", reason: "the coarse mesh is off", by: "CD" }, AT);
    expect((await studies())?.adopted).toHaveLength(1);
    expect((await refined()).adopted).toEqual({
      key: "three-mesh",
      because: "chosen by hand",
      by: { initials: "CD", reason: "the coarse mesh is off" },
    });
    await withdrawStudy(opened, caseId, "adopt", key);
    expect((await refined()).adopted?.by).toBeUndefined();
  });
  test("a quantity said not to converge stops nothing any more", async () => {
    expect((await refined()).state).toBe("fails");
    await decideStudy(opened, caseId, { kind: "divergent", quantityKey: key, ...SIGNED }, AT);
    expect(await refined()).toMatchObject({ state: "remark", divergent: SIGNED });
    await withdrawStudy(opened, caseId, "divergent", key);
    expect((await refined()).state).toBe("fails");
  });
  test("what is not there, and what nobody signed, is refused and nothing is kept", async () => {
    const kept = await studies();
    await expect(decideStudy(opened, NOBODY, { kind: "divergent", quantityKey: key, ...SIGNED })).rejects.toMatchObject({ code: "not-found" });
    await expect(decideStudy(opened, caseId, { kind: "divergent", quantityKey: "none", ...SIGNED })).rejects.toThrow("no such quantity");
    await expect(decideStudy(opened, caseId, { kind: "leave-out", runId: NOBODY, ...SIGNED })).rejects.toThrow("no such run");
    await expect(withdrawStudy(opened, caseId, "toString", key)).rejects.toThrow("no such kind");
    expect(StudyInput.safeParse({ kind: "adopt", quantityKey: key, procedure: "three-mesh", reason: " ", by: "AB" }).success).toBe(false);
    expect(StudyInput.safeParse({ kind: "adopt", quantityKey: key, procedure: "guess", ...SIGNED }).success).toBe(false);
    expect(await studies()).toEqual(kept);
  });
});

describe("decisions about the comparison", () => {
  const evidence = async () => (await openCase(opened, caseId)).evidence;
  test("how the error lies holds for the whole case, signed; a second choice takes the place of the first", async () => {
    await decideStudy(opened, caseId, { kind: "spread", spread: "centred", reason: "as usual", by: "AB" }, AT);
    await decideStudy(opened, caseId, { kind: "spread", spread: "shifted", reason: "meshes run from one side", by: "CD" }, AT);
    expect((await evidence()).spread).toEqual({ spread: "shifted", reason: "meshes run from one side", by: "CD", at: AT.toISOString() });
    await withdrawStudy(opened, caseId, "spread", "case");
    expect(await evidence()).not.toHaveProperty("spread");
    expect(StudyInput.safeParse({ kind: "spread", spread: "shifted", by: "CD" }).success).toBe(false);
  });
  test("a run is put beside the others and taken away; one of another case is refused", async () => {
    await decideStudy(opened, caseId, { kind: "amongst", runId: runs[1] }, AT);
    expect((await openCase(opened, caseId)).assessment.comparison.codes[key]?.each.length).toBe(2);
    await withdrawStudy(opened, caseId, "amongst", runs[1]);
    expect((await openCase(opened, caseId)).assessment.comparison.codes[key]).toBeUndefined();
    await expect(decideStudy(opened, caseId, { kind: "amongst", runId: NOBODY }, AT)).rejects.toThrow("no such run");
  });
  test("a copy of the case does not take over what was decided about the runs of this one", async () => {
    await decideStudy(opened, caseId, { kind: "amongst", runId: runs[1] }, AT);
    const copy = await copyCase(opened, caseId, { title: "A copy" });
    expect((await findCase(opened.db, copy.id))?.setup).not.toHaveProperty("studies");
    await withdrawStudy(opened, caseId, "amongst", runs[1]);
  });
});

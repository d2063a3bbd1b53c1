import { afterAll, beforeAll, describe, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { findCase, insertYardstick, listQuantities } from "../repositories/cases.ts";
import { currentProgramme, findProgramme, updateProgramme } from "../repositories/programmes.ts";
import { boardView } from "./board.ts";
import { copyCase, createCase, deleteCase, restoreCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import {
  createProgramme,
  deleteProgramme,
  openProgramme,
  PlaceInput,
  ProgrammeInput,
  placeInProgramme,
  programmeSummary,
  programmes,
  restoreProgramme,
  saveProgramme,
  takeLimitsOver,
} from "./programmes.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { FOREIGN_PARAMETERS, newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("programmes"));
});
afterAll(() => close());

let count = 0;
const made = () => createProgramme(opened, { name: `Programme ${++count}`, purpose: "" });
const input = (change: object = {}) =>
  ProgrammeInput.parse({ name: `Saved ${++count}`, people: [], limits: [], decision: "both-ways", stakes: null, ...change });
const place = (programmeId: string, change: object = {}) => PlaceInput.parse({ level: null, tags: [], programmeId, ...change });
const LENGTH = Number.parseFloat(FOREIGN_PARAMETERS.lengthM);
/** A case at a speed, held against a yardstick: one that is outside its range, which is a verdict too. */
async function judged(title: string, velocityMS: string) {
  const { id } = await createCase(opened, newCase({ title, parameters: { ...FOREIGN_PARAMETERS, velocityMS } }));
  await bringSettled(opened, id, 8.1, { label: "fine", cells: 1000 });
  const [q] = await listQuantities(opened.db, id);
  const value = { quantityKey: q.key, value: 8, standardUncertainty: 0.1, uncertaintyNote: "" };
  const validity = { sentence: "Elsewhere.", inside: false };
  await insertYardstick(opened.db, id, { key: "", name: "Table", kind: "table", source: "made up", validity, values: [value], profiles: [] });
  return id;
}

describe("programmes", () => {
  test("the one made last is open; new cases and the board belong to it; another one shows its own", async () => {
    const a = await made();
    const { id } = await createCase(opened, newCase({ title: "of a", parameters: FOREIGN_PARAMETERS }));
    const b = await made();
    expect((await currentProgramme(opened.db))?.id).toBe(b.id);
    expect((await boardView(opened, 20_000, b.id)).rows).toEqual([]);
    expect((await boardView(opened, 20_000, a.id)).rows.map((r) => [r.title, r.programmeId, r.level])).toEqual([["of a", a.id, "rig"]]);
    await openProgramme(opened, a.id);
    expect((await programmes(opened)).list.find((p) => p.id === a.id)?.cases).toBe(1);
    await placeInProgramme(opened, id, place(b.id, { level: "application", tags: ["door", "door", "site"] }));
    expect((await boardView(opened, 20_000, a.id)).rows).toEqual([]);
    expect((await boardView(opened, 20_000, b.id)).rows[0]).toMatchObject({ level: "application", tags: ["door", "site"] });
  });
  test("a twin's name, a person twice and a limit that is none are refused where they stand, and nothing is saved", async () => {
    const a = await made();
    await expect(createProgramme(opened, { name: a.name.toUpperCase(), purpose: "" })).rejects.toMatchObject({
      details: { name: expect.any(String) },
    });
    const person = { initials: "H.M.", role: "prepares" };
    const wrong = input({ people: [person, { ...person, initials: "h.m." }], limits: [{ quantity: "drag", limit: "two" }] });
    await expect(saveProgramme(opened, a.id, wrong)).rejects.toMatchObject({
      details: { people: '"H.M." stands there twice.', "limits-0": expect.any(String) },
    });
    expect((await findProgramme(opened.db, a.id))?.name).toBe(a.name);
    expect(ProgrammeInput.safeParse({ ...input(), stakes: { consequence: 5, influence: 1 } }).success).toBe(false);
  });
  test("one with cases is not deleted, an empty one is and comes back; the last one stays", async () => {
    const a = await made();
    await createCase(opened, newCase({ title: "keeps it", parameters: FOREIGN_PARAMETERS }));
    await expect(deleteProgramme(opened, a.id)).rejects.toThrow("1 case belongs to it");
    const b = await made();
    await deleteProgramme(opened, b.id);
    expect((await programmes(opened)).list.some((p) => p.id === b.id)).toBe(false);
    expect((await currentProgramme(opened.db))?.id).not.toBe(b.id);
    await expect(openProgramme(opened, b.id)).rejects.toThrow("may have been deleted");
    await restoreProgramme(opened, b.id);
    expect((await currentProgramme(opened.db))?.id).toBe(b.id);
  });
  test("a case that comes back brings its programme back", async () => {
    const a = await made();
    const { id } = await createCase(opened, newCase({ title: "away and back", parameters: FOREIGN_PARAMETERS }));
    await deleteCase(opened, id);
    await deleteProgramme(opened, a.id);
    await restoreCase(opened, id);
    expect((await programmes(opened)).list.find((p) => p.id === a.id)?.cases).toBe(1);
  });
  test("its limits are given to new quantities, wider ones are named and taken over; the rule reaches the verdicts", async () => {
    const a = await made();
    const first = await createCase(opened, newCase({ title: "before", parameters: FOREIGN_PARAMETERS }));
    const [q] = await listQuantities(opened.db, first.id);
    await saveProgramme(opened, a.id, input({ limits: [{ quantity: q.name.toUpperCase(), limit: "1 %" }], decision: "guarded" }));
    const second = await createCase(opened, newCase({ title: "after", parameters: FOREIGN_PARAMETERS }));
    expect((await listQuantities(opened.db, second.id))[0].limit).toBe(0.01);
    const { wide } = await programmeSummary(opened, a.id, 20_000);
    expect(wide).toEqual([{ caseId: first.id, title: "before", quantityKey: q.key, quantity: q.name, limit: q.limit, allowed: 0.01 }]);
    expect(await takeLimitsOver(opened, a.id)).toBe(1);
    expect((await programmeSummary(opened, a.id, 20_000)).wide).toEqual([]);
    const before = (await openCase(opened, first.id)).evidenceHash;
    expect((await openCase(opened, first.id)).evidence.decision).toBe("guarded");
    await updateProgramme(opened.db, a.id, { decision: "both-ways" });
    const after = await openCase(opened, first.id);
    expect(after.evidence.decision).toBeUndefined();
    expect(after.evidenceHash).not.toBe(before);
  });
  test("what is said of people and purpose alone changes no verdict's evidence", async () => {
    const a = await made();
    const { id } = await createCase(opened, newCase({ title: "still", parameters: FOREIGN_PARAMETERS }));
    const before = (await openCase(opened, id)).evidenceHash;
    await saveProgramme(opened, a.id, input({ people: [{ initials: "K.B.", role: "checks" }], purpose: "The store." }));
    expect((await openCase(opened, id)).evidenceHash).toBe(before);
  });
  test("the application is covered by cases that were judged, and no further than they go", async () => {
    const a = await made();
    await judged("slow", "1 m/s");
    await judged("fast", "10 m/s");
    await createCase(opened, newCase({ title: "never judged", parameters: { ...FOREIGN_PARAMETERS, velocityMS: "100 m/s" } }));
    const inside = await judged("inside", "5 m/s");
    const beyond = await judged("beyond", "40 m/s");
    for (const id of [inside, beyond]) await placeInProgramme(opened, id, place(a.id, { level: "application" }));
    const { applications, points } = await programmeSummary(opened, a.id, 20_000);
    expect(points.map((p) => p.title)).toEqual(["slow", "fast"]);
    expect(applications.map((x) => [x.title, x.coverage.conditions.find((c) => c.key === "reynolds")?.state])).toEqual([
      ["inside", "inside"],
      ["beyond", "beyond"],
    ]);
    expect(applications[1].coverage.conditions.find((c) => c.key === "reynolds")?.nearest).toMatchObject({
      title: "fast",
      factor: expect.closeTo(4, 6),
    });
    expect(LENGTH).toBeGreaterThan(0);
  });
  test("a copied case stands where the other one stood", async () => {
    const a = await made();
    const { id } = await createCase(opened, newCase({ title: "one", parameters: FOREIGN_PARAMETERS }));
    await placeInProgramme(opened, id, place(a.id, { level: "benchmark", tags: ["lid"] }));
    const copy = await copyCase(opened, id, { title: "two" });
    expect(await findCase(opened.db, copy.id)).toMatchObject({ level: "benchmark", tags: ["lid"], programmeId: a.id });
  });
});

import { writeFile } from "node:fs/promises";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readSheet } from "../../core/formats/sheet.ts";
import type { Store } from "../db/store.ts";
import { startReading } from "../jobs/readings.ts";
import { namedBlobs } from "../repositories/blobs.ts";
import { findYardstick } from "../repositories/cases.ts";
import { listRuns } from "../repositories/runs.ts";
import { bringIn } from "./bringIn.ts";
import { createCase } from "./cases.ts";
import { AddCurvesInput, addCurves, BringCurvesInput, bringCurves, CurvesInput, doubtPoint, previewCurves } from "./curves.ts";
import { openCase } from "./evidence.ts";
import { newCase, temporaryStore } from "./testStore.ts";
import { TurnInput, turnCurve } from "./turnedCurves.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("curves"));
});
afterAll(() => close());

const file = { name: "traverse.csv", text: "station,y (mm),u (m/s)\n1,0,0\n1,10,1\n1,20,2.02\n4,0,0\n4,10,0.9\n4,20,1.8\n" };
const mapping = { roles: ["station", "abscissa", "value"], units: ["1", "mm", "m/s"] };
const bring = (change: object = {}) =>
  BringCurvesInput.parse({
    file,
    mapping: { ...mapping, own: "0.02 m/s + 1 %" },
    name: "Traverse",
    kind: "measured",
    source: "wind box, made up",
    ...change,
  });
const foreign = () =>
  createCase(opened, newCase({ parameters: { velocityMS: "2 m/s", lengthM: "50 mm", densityKgM3: "1.27 kg/m^3", viscosityPaS: "1.7e-5 Pa s" } }));
async function withRun() {
  const { id } = await foreign();
  const run = await bringIn(opened, id, {
    history: null,
    quantities: { name: "q.csv", text: "name,value,unit\ndrag,3,N\n" },
    label: "L1",
    code: "Lintel",
    cells: 1000,
    volume: "1 m^3",
    dimension: 3,
    roles: [],
    rowRoles: ["quantity:q1"],
  });
  return { id, run };
}
const add = (change: object = {}) =>
  AddCurvesInput.parse({
    file: { name: "c.csv", text: "station,y (m),u (m/s)\n1,0,0\n1,0.01,1\n1,0.02,2\n4,0,0\n4,0.01,1\n4,0.02,2\n" },
    mapping: { ...mapping, units: ["1", "m", "m/s"] },
    ...change,
  });

describe("measured curves", () => {
  test("are looked at before anything is stored", async () => {
    const found = await previewCurves(CurvesInput.parse({ file }));
    expect(found.roles).toEqual(["station", "abscissa", "value"]);
    expect(found.units).toEqual([null, "mm", "m/s"]);
    expect(found.problems).toEqual([]);
    await expect(previewCurves(CurvesInput.parse({ file: { name: "x.csv", text: "no table" } }))).rejects.toMatchObject({ code: "invalid" });
    await expect(previewCurves(CurvesInput.parse({ file, mapping: { ...mapping, own: "2 kg" } }))).rejects.toMatchObject({
      details: { own: expect.stringContaining("kg") },
    });
    await expect(previewCurves(CurvesInput.parse({ file, mapping: { ...mapping, place: "2 %" } }))).rejects.toMatchObject({
      details: { place: expect.any(String) },
    });
  });
  test("become a yardstick with its stations, uncertainties, conditions and file, which is kept", async () => {
    const { id } = await foreign();
    await bringCurves(opened, id, bring({ who: "E.M.", conditions: { velocity: "2 m/s" }, windowTo: "15 mm" }));
    const [y] = (await openCase(opened, id)).evidence.yardsticks;
    expect(y.profiles.map((p) => [p.profileKey, p.abscissa, p.window?.[1]])).toEqual([
      ["u-at-station-1", [0, 10, 20], 15],
      ["u-at-station-4", [0, 10, 20], 15],
    ]);
    expect((y.profiles[0].standardUncertainty as number[])[1]).toBeCloseTo(Math.hypot(0.02, 0.01) / 2, 12);
    expect(y.validity).toEqual({ inside: true, sentence: "No range of validity was stated. Its reference velocity of 2 m/s is the case's." });
    expect(y.provenance).toMatchObject({ who: "E.M.", file: { name: "traverse.csv" } });
    expect((await namedBlobs(opened.db)).has(y.provenance?.file?.hash ?? "")).toBe(true);
  });
  test.each([
    [["station", "abscissa", "value"], { own: "", shared: "", place: "" }, "none stated"],
    [
      ["station", "abscissa", "value"],
      { own: " 2 % ", shared: "1 %", place: "0.3 mm" },
      "each point's own 2 %, shared by all 1 %, of the place 0.3 mm; as 95 % figures",
    ],
    [["abscissa", "place-uncertainty", "value"], { own: "", shared: "", place: "0.3 mm" }, "of the place by column; as 95 % figures"],
    [["abscissa", "value", "uncertainty"], { own: "", shared: "", place: "" }, "each point's own by column; as 95 % figures"],
    [
      ["abscissa", "value", "uncertainty"],
      { own: "2 %", shared: "", place: "" },
      "each point's own by column, 2 % where there is none; as 95 % figures",
    ],
  ])("say where their uncertainties come from: columns %j", async (roles, typed, note) => {
    const { id } = await foreign();
    const units = roles.map((r) => (r === "station" ? "1" : r === "value" || r === "uncertainty" ? "m/s" : "mm"));
    const table = { name: "t.csv", text: "a,b,c\n1,0.5,2\n1,0.6,3\n2,0.7,4\n2,0.8,5\n" };
    await bringCurves(opened, id, bring({ file: table, mapping: { ...mapping, roles, units, ...typed } }));
    const [y] = (await openCase(opened, id)).evidence.yardsticks;
    expect(new Set(y.profiles.map((p) => p.uncertaintyNote))).toEqual(new Set([note]));
  });
  test("of readings repeated at every place the scatter is the uncertainty, and is called so", async () => {
    const { id } = await foreign();
    const text = `x,v\n${[0, 1].flatMap((x) => [1, 2, 3].map((v) => `${x},${v}`)).join("\n")}\n`;
    const as = { ...mapping, roles: ["abscissa", "value"], units: ["mm", "m/s"], own: "", shared: "", place: "" };
    await bringCurves(opened, id, bring({ file: { name: "r.csv", text }, mapping: as }));
    const [p] = (await openCase(opened, id)).evidence.yardsticks[0].profiles;
    expect(p.uncertaintyNote).toBe("each point's own from its repeats; as 95 % figures");
    expect((p.standardUncertainty as number[])[0]).toBeCloseTo(1 / Math.sqrt(3), 12);
  });
  test("made at other conditions they do not hold for the case", async () => {
    const { id } = await foreign();
    await bringCurves(opened, id, bring({ conditions: { length: "80 mm" } }));
    expect((await openCase(opened, id)).evidence.yardsticks[0].validity.inside).toBe(false);
  });
  test("what cannot be used is refused with the place, and nothing is stored", async () => {
    const { id } = await foreign();
    await expect(bringCurves(opened, id, bring({ mapping: { ...mapping, units: ["1", "mm", null] } }))).rejects.toThrow(
      /traverse.csv, line \d+, column "u": The unit/,
    );
    await expect(bringCurves(opened, id, bring({ windowFrom: "9 mm", windowTo: "3 mm" }))).rejects.toMatchObject({
      details: { windowTo: expect.any(String) },
    });
    await expect(bringCurves(opened, id, bring({ conditions: { mach: "fast" } }))).rejects.toMatchObject({
      details: { "condition-mach": expect.any(String) },
    });
    expect((await openCase(opened, id)).evidence.yardsticks).toEqual([]);
  });
  test("a point is doubted with a reason, and believed again", async () => {
    const { id } = await foreign();
    await bringCurves(opened, id, bring());
    const [y] = (await openCase(opened, id)).evidence.yardsticks;
    await doubtPoint(opened, y.key, { profileKey: "u-at-station-4", index: 1, reason: "the probe slipped" });
    const doubts = async () => (await openCase(opened, id)).evidence.yardsticks[0].profiles[1].doubtful;
    expect(await doubts()).toEqual([{ index: 1, reason: "the probe slipped" }]);
    await doubtPoint(opened, y.key, { profileKey: "u-at-station-4", index: 1, reason: "" });
    expect(await doubts()).toEqual([]);
    await expect(doubtPoint(opened, y.key, { profileKey: "u-at-station-4", index: 9, reason: "x" })).rejects.toThrow("no such point");
  });
});

describe("curves of a run of another code", () => {
  test("are compared with the yardstick of their name, in its units; a second time only when asked", async () => {
    const { id, run } = await withRun();
    await bringCurves(opened, id, bring());
    await addCurves(opened, run.id, add());
    const { comparison } = (await openCase(opened, id)).assessment;
    expect(comparison.refused).toEqual([]);
    expect(comparison.profiles.map((p) => [p.name, p.points.length, p.leading])).toEqual([
      ["u at station 1", 3, true],
      ["u at station 4", 3, true],
    ]);
    expect(comparison.profiles[0].worst).toMatchObject({ at: 0.02, difference: expect.closeTo(-0.02, 12) });
    await expect(addCurves(opened, run.id, add())).rejects.toThrow("L1 has u at station 1, u at station 4 already");
    await addCurves(opened, run.id, add({ replace: true }));
    expect((await listRuns(opened.db, id))[0].result?.profiles).toHaveLength(2);
    expect((await listRuns(opened.db, id))[0].settings.files?.map((f) => f.name)).toEqual(["q.csv", "c.csv", "c.csv"]);
  });
  test("of another name they stand beside the curve they are aimed at", async () => {
    const { id, run } = await withRun();
    await bringCurves(opened, id, bring({ targets: { "u at station 1": "first", "u at station 4": "fourth" } }));
    await addCurves(opened, run.id, add({ targets: { "u at station 1": "first" } }));
    const { comparison } = (await openCase(opened, id)).assessment;
    expect(comparison.profiles.map((p) => p.profileKey)).toEqual(["first"]);
  });
});

describe("figures that are counted otherwise", () => {
  const turn = (change: object = {}) => TurnInput.parse({ profileKey: "u-at-station-1", abscissa: {}, value: {}, ...change });
  const pure = { ...mapping, units: ["1", "1", "1"] };
  /** a case with a curve of its own, and a dimensionless traverse beside it */
  async function beside() {
    const { id, run } = await withRun();
    await addCurves(opened, run.id, add());
    await bringCurves(opened, id, bring({ mapping: pure }));
    const [y] = (await openCase(opened, id)).evidence.yardsticks;
    const compared = async () => (await openCase(opened, id)).assessment.comparison;
    return { y: y.key, compared };
  }
  test("are refused until a factor and an origin are stated; then they are compared, and what was done is said", async () => {
    const { y, compared } = await beside();
    expect((await compared()).refused[0].sentence).toContain("pure numbers");
    await turnCurve(opened, y, turn({ abscissa: { times: "1 mm" }, value: { times: "100 cm/s", plus: "0.5 m/s" } }));
    const found = (await compared()).profiles.find((p) => p.profileKey === "u-at-station-1");
    expect(found?.points.map((p) => [p.at, p.reference])).toEqual([
      [0, 0.5],
      [0.01, 1.5],
      [0.02, expect.closeTo(2.52, 12)],
    ]);
    expect(found?.notes).toContain("u of the yardstick: times 100 cm/s, plus 0.5 m/s.");
    await turnCurve(opened, y, turn());
    expect((await compared()).profiles.find((p) => p.profileKey === "u-at-station-1")).toBeUndefined();
  });
  test("a line that is not normal to the wall is counted by its distance from it, and a sign is turned", async () => {
    const { y, compared } = await beside();
    await turnCurve(opened, y, turn({ inclined: "60°", abscissa: { times: "1 mm" }, value: { times: "1 m/s", otherSign: true } }));
    const found = (await compared()).profiles.find((p) => p.profileKey === "u-at-station-1");
    expect(found?.points.map((p) => p.at)).toEqual([0, expect.closeTo(0.005, 12), expect.closeTo(0.01, 12)]);
    expect(found?.points[1].reference).toBe(-1);
    const typed = (await findYardstick(opened.db, y))?.data.profiles.find((p) => p.turned)?.turned;
    expect(typed?.abscissa?.entries).toEqual({ times: "1 mm", plus: "", otherSign: false, inclined: "60°" });
    expect(typed?.value?.entries).toEqual({ times: "1 m/s", plus: "", otherSign: true });
    expect(found?.notes.join(" ")).toContain("inclined by 60° to its normal");
  });
  test.each([
    [{ value: { times: "2 kg" } }, "value-times"],
    [{ value: { times: "0" } }, "value-times"],
    [{ abscissa: { times: "1 mm", plus: "3 s" } }, "abscissa-plus"],
    [{ inclined: "90" }, "inclined"],
  ])("%o is refused where it stands", async (change, field) => {
    const { y } = await beside();
    await expect(turnCurve(opened, y, turn(change))).rejects.toMatchObject({ details: { [field]: expect.any(String) } });
  });
  test("figures that have units are multiplied by pure numbers alone; a curve that is not there is said to be none", async () => {
    const { id } = await withRun();
    await bringCurves(opened, id, bring());
    const [y] = (await openCase(opened, id)).evidence.yardsticks;
    await expect(turnCurve(opened, y.key, turn({ value: { times: "2 m/s" } }))).rejects.toMatchObject({
      details: { "value-times": expect.any(String) },
    });
    await turnCurve(opened, y.key, turn({ value: { times: "2", plus: "10 cm/s" } }));
    expect((await openCase(opened, id)).evidence.yardsticks[0].profiles[0].turned?.value).toMatchObject({ factor: 2, shift: 0.1, unit: "m/s" });
    await expect(turnCurve(opened, y.key, turn({ profileKey: "none" }))).rejects.toThrow("no such curve");
  });
});

describe("files that were read before", () => {
  /** A reading as its thread leaves it. */
  async function readBefore(text: string) {
    const found = readSheet(text);
    if (!found.ok) throw new Error("a table was to be read");
    const hash = await opened.blobs.put(new TextEncoder().encode(text));
    const entry = path.join(path.dirname(opened.folder), "reader-stand-in.mjs");
    await writeFile(entry, "");
    const reading = startReading({ name: "traverse.xlsx", path: opened.blobs.locate(hash), hash }, entry);
    Object.assign(reading, { state: "done", sheet: found.sheet });
    return { hash, reading: reading.id };
  }
  test("a workbook becomes a yardstick like a text, under the hash it was sent with, and is then forgotten", async () => {
    const { id } = await foreign();
    const { hash, reading } = await readBefore(file.text);
    const looked = await previewCurves(CurvesInput.parse({ file: { reading } }));
    expect(looked.header).toEqual(["station", "y", "u"]);
    await bringCurves(opened, id, bring({ file: { reading } }));
    const [y] = (await openCase(opened, id)).evidence.yardsticks;
    expect(y.provenance?.file).toEqual({ name: "traverse.xlsx", hash });
    expect(y.profiles.map((p) => p.profileKey)).toEqual(["u-at-station-1", "u-at-station-4"]);
    await expect(previewCurves(CurvesInput.parse({ file: { reading } }))).rejects.toThrow("no longer at hand");
  });
  test("a table of very many rows is a record, not a curve", async () => {
    const { reading } = await readBefore(`x,y\n${"1,2\n".repeat(400_001)}`);
    await expect(previewCurves(CurvesInput.parse({ file: { reading } }))).rejects.toThrow("400000 rows; this one has 400001");
  });
});

import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { boxFaces, polygons } from "../../core/dataset/made.ts";
import { stitch } from "../../core/dataset/stitch.ts";
import { writeStl } from "../../core/formats/surface/stl.ts";
import { writeVtkSurface } from "../../core/formats/vtk/writeSurface.ts";
import type { Store } from "../db/store.ts";
import { assessPack } from "../pack/assessPack.ts";
import { unpacked } from "../pack/readPack.ts";
import { listQuantities } from "../repositories/cases.ts";
import { findRun, updateRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { createQuantity } from "./quantities.ts";
import { issueReport } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import {
  addPoints,
  addStations,
  dropSurface,
  lookAtSurfaceOf,
  PointsInput,
  StationsInput,
  surfaceFile,
  TakeSurfaceInput,
  takeSurfaceOf,
} from "./surfaces.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let runId = "";
let caseId = "";
let hash = "";
let key = "";
const { surface } = stitch(polygons(boxFaces([0, 0, 0], [2000, 1000, 500], 3)));
/** falls by 100 Pa/m along x, over density */
const pressure = Float64Array.from({ length: surface.points.length / 3 }, (_, k) => (40 - surface.points[3 * k] / 10) / 1.2);

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("surface"));
  caseId = (
    await createCase(
      opened,
      newCase({
        title: "Leaf in space",
        parameters: { velocityMS: "2 m/s", lengthM: "1 m", densityKgM3: "1.2 kg/m^3", viscosityPaS: "1.74e-5 Pa s" },
      }),
    )
  ).id;
  await createQuantity(opened, caseId, { name: "push", unit: "N", limit: "5 %" });
  key = (await listQuantities(opened.db, caseId)).find((q) => q.name === "push")?.key ?? "";
  const run = await bringSettled(opened, caseId, 47, { label: "fine", cells: 50 });
  runId = run.id;
  const text = writeVtkSurface(surface, [{ name: "p", on: "points", components: 1, values: pressure }]);
  hash = await opened.blobs.put(new TextEncoder().encode(text));
});
afterAll(() => close());

const input = (change: object = {}) =>
  TakeSurfaceInput.parse({
    hash,
    name: "leaf.vtp",
    length: "mm",
    arrays: [{ name: "p", on: "points", role: "pressure", unit: "m^2/s^2" }],
    division: { by: "angle", degrees: 40 },
    names: [{ at: [0, 500, 250], name: "front" }],
    splits: [],
    normals: "out of the body",
    shearOn: "wall",
    reference: "0 Pa",
    aboutM: [0, 0, 0],
    links: [],
    ...change,
  });
const link = { of: "force" as const, patches: [], direction: [1, 0, 0] as [number, number, number], factor: 1 };

describe("the surface of another code's run", () => {
  test("is looked at first, divided as it is asked for", async () => {
    const found = await lookAtSurfaceOf(opened, runId, { hash });
    expect(found).toMatchObject({
      faces: 54,
      points: 56,
      normals: "out of the body",
      why: expect.stringContaining("closed"),
      division: { by: "angle" },
    });
    expect(found.pieces).toHaveLength(6);
    expect((await lookAtSurfaceOf(opened, runId, { hash, division: { by: "angle", degrees: 100 } })).pieces).toHaveLength(1);
    expect((await findRun(opened.db, runId))?.result?.surface).toBeUndefined();
  });
  test("is taken in SI, with what was done to it; its file is kept with the run", async () => {
    const { notes } = await takeSurfaceOf(opened, runId, input());
    expect(notes.join(" ")).toContain("p is over density; it was multiplied by the density of the case, 1.2 kg/m^3.");
    const run = await findRun(opened.db, runId);
    const found = run?.result?.surface?.found;
    expect(found?.patches[0]).toMatchObject({ name: "front", faces: 9, area: expect.closeTo(0.5, 12) });
    expect(found?.patches[0].pressureForce[0]).toBeCloseTo(40 * 0.5, 9);
    expect(found?.unnamed).toMatchObject({ pieces: 5, faces: 45 });
    expect(run?.settings.files).toContainEqual({ name: "leaf.vtp", hash });
    expect((await surfaceFile(opened, runId)).bytes.length).toBeGreaterThan(1000);
    expect(run?.result?.quantities).toBeDefined();
  });
  test("is held against what the run reported, at Balance, in the report, and in a pack that is made again", async () => {
    const run = await findRun(opened.db, runId);
    const reported = { ...run?.result?.quantities, [key]: 103 };
    await updateRun(opened.db, runId, { result: { ...(run?.result as object), quantities: reported } as never });
    await takeSurfaceOf(opened, runId, input({ links: [{ ...link, quantityKey: key }] }));
    const { assessment } = await openCase(opened, caseId);
    const found = assessment.balance.find((b) => b.runId === runId)?.surface;
    // 100 Pa/m over 1 m^3.
    expect(found?.lines[0]).toMatchObject({ name: "push", reported: 103, integrated: expect.closeTo(100, 8), state: "remark" });
    const pack = await opened.blobs.get((await issueReport(opened, caseId, "H. M.")).archive);
    expect(Object.keys(unpacked(pack))).toContain("files/leaf.vtp");
    expect(await assessPack(pack)).toMatchObject({ holds: true, differences: [], otherFiles: [] });
  });
  test.each<[string, object, string]>([
    ["another unit", { length: "kg" }, "Unit of length"],
    ["an array of another kind", { arrays: [{ name: "p", on: "points", role: "pressure", unit: "kg" }] }, "cannot be turned into Pa"],
    ["an array that is not there", { arrays: [{ name: "q", on: "points", role: "pressure", unit: "Pa" }] }, "no such array"],
    ["one component for a stress", { arrays: [{ name: "p", on: "points", role: "shear", unit: "Pa" }] }, "has 3"],
    ["a division that is not there", { division: { by: "array", array: "zone" } }, 'no array "zone"'],
    ["a reference of another kind", { reference: "3 m" }, "Reference pressure"],
    ["a link without anything to integrate", { arrays: [], links: [{ ...link, quantityKey: "k" }] }, 'no quantity "k"'],
  ])("refused, and nothing changed: %s", async (_what, change, words) => {
    const before = (await findRun(opened.db, runId))?.settingsHash;
    await expect(takeSurfaceOf(opened, runId, input(change))).rejects.toThrow(words);
    expect((await findRun(opened.db, runId))?.settingsHash).toBe(before);
  });
  test("a quantity in other units, and a coefficient without what it was made with, are refused", async () => {
    await expect(takeSurfaceOf(opened, runId, input({ links: [{ ...link, quantityKey: key, of: "moment" }] }))).rejects.toThrow(
      "push is in N; a moment is in N m",
    );
    const made = { density: "1.2 kg/m^3", speed: "2 m/s", area: "1 m^2" };
    await expect(takeSurfaceOf(opened, runId, input({ links: [{ ...link, quantityKey: key, coefficient: made }] }))).rejects.toThrow(
      "it needs nothing it was made with",
    );
  });
  test("a file of triangles alone is taken for its shape", async () => {
    const stl = await opened.blobs.put(writeStl(surface, "leaf"));
    await takeSurfaceOf(opened, runId, input({ hash: stl, name: "leaf.stl", arrays: [] }));
    const run = await findRun(opened.db, runId);
    expect(run?.result?.surface?.found).toMatchObject({ faces: 108, has: { pressure: false, shear: false } });
    expect(run?.settings.files?.map((f) => f.name)).toContain("leaf.stl");
    expect(run?.settings.files?.map((f) => f.name)).not.toContain("leaf.vtp");
  });
  test("curves along cuts are kept with the run, under names a yardstick can have; twice only where that is said", async () => {
    await takeSurfaceOf(opened, runId, input());
    const cuts = StationsInput.parse({
      across: 2,
      along: 0,
      stations: [250],
      of: "pressure",
      abscissa: "axis",
      names: ["cp far", "cp near"],
      coefficient: { density: "1.2 kg/m^3", speed: "10 m/s" },
    });
    const told = await addStations(opened, runId, cuts);
    expect(told).toEqual({ kept: ["cp far at z 0.25", "cp near at z 0.25"], notes: [] });
    const found = (await findRun(opened.db, runId))?.result?.profiles.find((p) => p.key === "cp-near-at-z-0-25");
    // 40 Pa less 100 Pa/m, over 60 Pa.
    found?.abscissa.values.forEach((x, k) => {
      expect(found.value.values[k]).toBeCloseTo((40 - 100 * x) / 60, 9);
    });
    await expect(addStations(opened, runId, cuts)).rejects.toThrow("has cp far at z 0.25, cp near at z 0.25 already");
    await addStations(opened, runId, { ...cuts, replace: true });
    expect((await findRun(opened.db, runId))?.result?.profiles.filter((p) => p.key.startsWith("cp-"))).toHaveLength(2);
    await expect(addStations(opened, runId, { ...cuts, stations: [9000], replace: true })).rejects.toThrow("none of the planes cuts the surface");
    await expect(addStations(opened, runId, { ...cuts, coefficient: { density: "fog", speed: "10 m/s" } })).rejects.toThrow("Density");
  });
  test("points of a table are read off the surface, and stand beside what was measured there at Comparison", async () => {
    await takeSurfaceOf(opened, runId, input());
    const text = "x (mm),y (mm),z (mm),tap (Pa)\n200,0,250,19\n1000,0,250,-61\n0,500,250,40\n";
    const points = PointsInput.parse({
      file: { name: "taps.csv", text },
      of: "pressure",
      name: "taps of the leaf",
      yardstick: { source: "yard, made up", uncertainty: "2 Pa" },
    });
    expect(await addPoints(opened, runId, points)).toEqual({ notes: [] });
    const { assessment } = await openCase(opened, caseId);
    const compared = assessment.comparison.profiles.find((p) => p.runId === runId && p.profileKey === "taps-of-the-leaf");
    expect(compared?.worst).toMatchObject({ at: 1 });
    expect((await findRun(opened.db, runId))?.result?.profiles.find((p) => p.key === "taps-of-the-leaf")?.value.values).toEqual(
      [20, -60, 40].map((v) => expect.closeTo(v, 9)),
    );
    await expect(addPoints(opened, runId, points)).rejects.toThrow("has taps of the leaf already");
    await expect(addPoints(opened, runId, { ...points, name: "bare", file: { name: "t.csv", text: "x (m),y (m),z (m)\n1,1,0\n" } })).rejects.toThrow(
      "no column with what was measured",
    );
    await expect(addPoints(opened, runId, { ...points, name: "odd", yardstick: { source: "s", uncertainty: "2 kg" } })).rejects.toThrow(
      "Uncertainty",
    );
    await addPoints(opened, runId, { ...points, replace: true, yardstick: undefined });
  });
  test("gives the run its balance where it has none of its own, and takes it along when it goes; a reported one stays", async () => {
    const u = Float64Array.from({ length: surface.points.length }, (_, i) => (i % 3 ? 0 : 2));
    const text = writeVtkSurface(surface, [
      { name: "p", on: "points", components: 1, values: pressure },
      { name: "U", on: "points", components: 3, values: u },
    ]);
    const flowing = {
      hash: await opened.blobs.put(new TextEncoder().encode(text)),
      normals: "into the body",
      arrays: [{ name: "U", on: "points", role: "velocity", unit: "m/s" }],
      names: [
        { at: [0, 500, 250], name: "inlet" },
        { at: [2000, 500, 250], name: "outlet" },
      ],
    };
    const result = async () => (await findRun(opened.db, runId))?.result;
    const { notes } = await takeSurfaceOf(opened, runId, input(flowing));
    expect(notes).toContain("Mass flows are made with the density of the case, 1.2 kg/m^3.");
    expect((await result())?.balance).toMatchObject({
      from: "surface",
      boundaries: [{ name: "inlet", mass: expect.closeTo(-1.2, 9) }, { name: "outlet", outlet: true }, {}],
    });
    const { assessment } = await openCase(opened, caseId);
    expect(assessment.balance.find((b) => b.runId === runId)?.lines.map((l) => [l.what, l.state])).toEqual([["mass", "holds"]]);
    await dropSurface(opened, runId);
    expect(await result()).not.toHaveProperty("balance");
    const own = {
      boundaries: [
        { name: "inlet", mass: -1 },
        { name: "outlet", mass: 1 },
      ],
    };
    await updateRun(opened.db, runId, { result: { ...(await result()), balance: own } as never });
    expect((await takeSurfaceOf(opened, runId, input(flowing))).notes.join(" ")).toContain("they stay");
    expect((await result())?.balance).toEqual(own);
  });
  test("a file that gave the run its fields too stays when the surface goes, and stands once among its files", async () => {
    const settings = (await findRun(opened.db, runId))?.settings;
    const shared = { name: "both.vtp", hash };
    const fieldsFrom = { file: "both.vtp", length: "mm" };
    await updateRun(opened.db, runId, { settings: { ...settings, files: [shared], fieldsFrom } as never });
    await takeSurfaceOf(opened, runId, input({ name: "both.vtp" }));
    expect((await findRun(opened.db, runId))?.settings.files).toEqual([shared]);
    await dropSurface(opened, runId);
    expect((await findRun(opened.db, runId))?.settings.files).toEqual([shared]);
    await takeSurfaceOf(opened, runId, input());
  });
  test("is taken away again; a bench run has none", async () => {
    await dropSurface(opened, runId);
    expect((await findRun(opened.db, runId))?.result?.surface).toBeUndefined();
    await expect(dropSurface(opened, runId)).rejects.toThrow("has no surface");
    await expect(surfaceFile(opened, runId)).rejects.toThrow("has no surface");
  });
});

import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { FileMaker } from "../../core/formats/vtk/vtkForTests.ts";
import { writeVtkGrid } from "../../core/formats/vtkGrid.ts";
import { rectangleMesh } from "../../core/mesh/rectangle.ts";
import type { Store } from "../db/store.ts";
import { readFields } from "../desk/fields.ts";
import { assessPack } from "../pack/assessPack.ts";
import { unpacked } from "../pack/readPack.ts";
import { findMesh, findRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { fieldList, fieldSource, fieldsFile, runsWithFieldsOf } from "./fields.ts";
import { lookAtGrid, TakeGridInput, takeFields } from "./gridFields.ts";
import { issueReport } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let runId = "";
let caseId = "";
let hash = "";
const uniform = { kind: "uniform" } as const;
const mesh = rectangleMesh({ lengthM: 2, heightM: 1, nx: 10, ny: 5, gradingX: uniform, gradingY: uniform, periodicX: false });
const along = Float64Array.from({ length: 50 }, (_, c) => 3 * mesh.centroidM[2 * c + 1]);
const pressure = Float64Array.from({ length: 50 }, (_, c) => 1 - mesh.centroidM[2 * c]);

/** A velocity of three components, as codes write it. */
function gridFile(): string {
  const text = writeVtkGrid(mesh, [
    { name: "p", values: pressure },
    { name: "marker", values: along },
  ]);
  const vector = `<DataArray type="Float64" Name="U" NumberOfComponents="3" format="ascii">\n${[...along].map((u) => `${u} 0 0`).join("\n")}\n</DataArray>`;
  return text.replace("<CellData>", `<CellData>\n${vector}`);
}

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("grid"));
  caseId = (await createCase(opened, newCase({ title: "Curtain in a plane" }))).id;
  runId = (await bringSettled(opened, caseId, 47, { label: "fine", cells: 50 })).id;
  hash = await opened.blobs.put(new TextEncoder().encode(gridFile()));
});
afterAll(() => close());

const input = (change: object = {}) =>
  TakeGridInput.parse({
    hash,
    name: "fine.vtu",
    length: "mm",
    arrays: [
      { name: "U", on: "cells", role: "velocity", unit: "m/s" },
      { name: "p", on: "cells", role: "pressure", unit: "m^2/s^2" },
      { name: "marker", on: "cells", role: "ignore", unit: "" },
    ],
    ...change,
  });

describe("a file whose values are appended as they are", () => {
  test.each([false, true])("is read on the server as anywhere, packed: %s", async (packed) => {
    const m = new FileMaker({ format: "appended", packed });
    const values = [1.5, -2.25];
    const body = `<Piece Extent="0 2 0 1 0 0"><CellData>${m.array("p", "Float64", values)}</CellData><Points>${m.array(
      "Points",
      "Float64",
      [0, 1].flatMap((j) => [0, 1, 2].map((i) => [i, j, 0])).flat(),
      3,
    )}</Points></Piece>`;
    const appended = await opened.blobs.put(m.file("StructuredGrid", body, 'WholeExtent="0 2 0 1 0 0"'));
    const found = await lookAtGrid(opened, runId, { hash: appended });
    expect(found).toMatchObject({ cells: 2, points: 6, low: [0, 0, 0], high: [2, 1, 0], plane: { cells: 2, width: 2, height: 1 } });
    expect(found.arrays).toMatchObject([{ name: "p", low: -2.25, high: 1.5 }]);
  });
});

describe("fields of another code's run", () => {
  test("are looked at first: cells, arrays with what they may be, the plane", async () => {
    const found = await lookAtGrid(opened, runId, { hash });
    expect(found).toMatchObject({ cells: 50, points: 66, kinds: [{ name: "polygon", count: 50 }], plane: { cells: 50 } });
    expect(found.arrays.map((a) => [a.name, a.components, a.role, a.unit])).toEqual([
      ["U", 3, "velocity", "m/s"],
      ["p", 1, "pressure", "Pa"],
      ["marker", 1, "ignore", ""],
    ]);
    expect(await fieldList(opened, runId)).toEqual([]);
  });
  test("are taken in SI with their mesh, and say what was done to them", async () => {
    const { notes } = await takeFields(opened, runId, input());
    expect(notes).toEqual(["p is pressure over density; it was multiplied by the density of the case, 1.274 kg/m^3."]);
    expect(await fieldList(opened, runId)).toEqual([
      { name: "u", unit: "m/s" },
      { name: "v", unit: "m/s" },
      { name: "p", unit: "Pa" },
    ]);
    const { mesh: kept, fields } = await readFields(opened.blobs.folder, await fieldSource(opened, runId));
    expect(kept.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(2e-6, 18);
    const of = (key: string) => fields.find((f) => f.key === key)?.values ?? new Float64Array();
    expect([...of("u")]).toEqual([...along]);
    expect(of("p")[3]).toBeCloseTo(1.274 * pressure[3], 14);
    // A shear of 3 m/s over a metre, on a mesh that was in millimetres.
    expect(of("vorticity")[22]).toBeCloseTo(-3000, 6);
    const run = await findRun(opened.db, runId);
    expect(run?.settings.files?.map((f) => f.name)).toEqual(["h.csv", "fine.vtu"]);
    expect((await findMesh(opened.db, run?.meshId ?? ""))?.quality?.cells).toBe(50);
    expect((await fieldsFile(opened, runId, "csv")).length).toBeGreaterThan(1000);
    expect(await runsWithFieldsOf(opened, caseId)).toMatchObject([{ label: "fine", code: "c", fields: ["u", "v", "p"] }]);
  });
  test("stand in the report and in its pack, from which both are made again", async () => {
    const pack = await opened.blobs.get((await issueReport(opened, caseId, "H. M.")).archive);
    const names = Object.keys(unpacked(pack));
    expect(names).toEqual(expect.arrayContaining(["pictures/speed.png", "fields/fine.vtu", "files/fine.vtu"]));
    expect(await assessPack(pack)).toMatchObject({ holds: true, differences: [], otherFiles: [] });
  });
  test("are replaced only when that is said; another number of cells is said", async () => {
    await expect(takeFields(opened, runId, input())).rejects.toMatchObject({ code: "conflict", details: { replace: "fields" } });
    const other = (await bringSettled(opened, caseId, 48, { label: "coarse", cells: 12 })).id;
    expect((await takeFields(opened, other, input({ length: "m" }))).notes).toContain(
      "The file has 50 cells in the plane; the run was said to have 12. Both stand as they are.",
    );
    const only = input({ replace: true, arrays: [{ name: "marker", on: "cells", role: "other", unit: "K" }] });
    await takeFields(opened, other, only);
    expect(await fieldList(opened, other)).toEqual([{ name: "marker", unit: "K" }]);
  });
  test.each<[string, object, object]>([
    ["no unit of length", { length: "kg" }, { details: { length: expect.stringContaining("Unit of length") } }],
    [
      "a unit of another kind",
      { arrays: [{ name: "p", on: "cells", role: "pressure", unit: "K" }] },
      { details: { p: expect.stringContaining('"K" cannot be turned into Pa') } },
    ],
    ["a file that is none", { hash: "0".repeat(64) }, { code: "not-found" }],
  ])("%s: refused, and nothing is changed", async (_name, change, refusal) => {
    const before = await fieldList(opened, runId);
    await expect(takeFields(opened, runId, input({ replace: true, ...change }))).rejects.toMatchObject(refusal);
    expect(await fieldList(opened, runId)).toEqual(before);
  });
  test("cells in space are judged, though their fields cannot be a run's", async () => {
    const m = new FileMaker({ format: "binary" });
    const points = [0, 1, 2].flatMap((k) => [0, 1, 2].flatMap((j) => [0, 1, 2].flatMap((i) => [i, j, k === 2 ? 12 : k])));
    const body = `<Piece Extent="0 2 0 2 0 2"><CellData>${m.array("p", "Float64", Array(8).fill(1))}</CellData><Points>${m.array("P", "Float64", points, 3)}</Points></Piece>`;
    const found = await lookAtGrid(opened, runId, { hash: await opened.blobs.put(m.file("StructuredGrid", body)) });
    expect(found.refusal).toContain("lies in space, 8 cells");
    expect(found.quality).toMatchObject({ cells: 8, faces: 36, outside: 24, inverted: [], open: [], crowded: 0 });
    expect(found.quality?.volume).toBeCloseTo(48, 12);
    const ratio = found.quality?.metrics.find((q) => q.metric === "volumeRatio");
    expect(ratio).toMatchObject({ beyond: 8 });
    expect(ratio?.worst).toBeCloseTo(11, 12);
  });
  test("cells in space are cut with a plane, and what is known there becomes the fields of the run, with the cut among its settings", async () => {
    const m = new FileMaker({ format: "binary" });
    const points = [0, 1, 2, 3].flatMap((k) => [0, 1, 2].flatMap((j) => [0, 1, 2].flatMap((i) => [100 * i, 100 * j, 50 * k])));
    const u = Array.from({ length: 12 }, (_, c) => [c, 10 * c, 100 * c]).flat();
    const body = `<Piece Extent="0 2 0 2 0 3"><CellData>${m.array("U", "Float64", u, 3)}</CellData><Points>${m.array("P", "Float64", points, 3)}</Points></Piece>`;
    const block = await opened.blobs.put(m.file("StructuredGrid", body));
    const whole = await lookAtGrid(opened, runId, { hash: block });
    expect(whole).toMatchObject({ solid: 12, low: [0, 0, 0], high: [200, 200, 150], refusal: expect.stringContaining("Cut it with one.") });
    const cut = { across: 0 as const, at: 150 };
    const found = await lookAtGrid(opened, runId, { hash: block, cut });
    expect(found).toMatchObject({ plane: { cells: 6, width: 200, height: 150 } });
    expect(found.notes.join(" ")).toContain("its y and z are the x and y of the fields");
    expect((await lookAtGrid(opened, runId, { hash: block, cut: { across: 2, at: 500 } })).refusal).toContain("cuts no cell");
    const third = (await bringSettled(opened, caseId, 49, { label: "in space", cells: 12 })).id;
    const arrays = [{ name: "U", on: "cells", role: "velocity", unit: "m/s" }];
    const { notes } = await takeFields(opened, third, input({ hash: block, name: "block.vts", arrays, cut }));
    expect(notes.join(" ")).toContain("Cut at x 150 of the file's unit of length: 6 of 12 cells lie there.");
    const { mesh: plane, fields } = await readFields(opened.blobs.folder, await fieldSource(opened, third));
    expect(plane.volumeM2.reduce((s, v) => s + v, 0)).toBeCloseTo(0.2 * 0.15, 12);
    // Every second cell lies behind x = 100; u is the part along y, v that along z.
    expect([...(fields.find((f) => f.key === "u")?.values ?? [])]).toEqual([10, 30, 50, 70, 90, 110]);
    expect([...(fields.find((f) => f.key === "v")?.values ?? [])]).toEqual([100, 300, 500, 700, 900, 1100]);
    expect((await findRun(opened.db, third))?.settings.fieldsFrom).toEqual({ file: "block.vts", length: "mm", cut: { across: "x", at: 150 } });
    await expect(takeFields(opened, third, input({ hash: block, arrays, cut: { across: 1, at: -3 }, replace: true }))).rejects.toThrow(
      "cuts no cell",
    );
  });
  test("a file that is no grid is refused in its own words", async () => {
    const text = await opened.blobs.put(new TextEncoder().encode("x,y\n1,2\n"));
    await expect(lookAtGrid(opened, runId, { hash: text })).rejects.toMatchObject({
      code: "invalid",
      message: expect.stringContaining("does not begin with VTKFile"),
    });
  });
});

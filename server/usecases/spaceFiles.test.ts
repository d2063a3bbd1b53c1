import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { hexahedra } from "../../core/dataset/made.ts";
import { writeVtkCells } from "../../core/formats/vtk/writeCells.ts";
import type { Store } from "../db/store.ts";
import { findRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { TakeGridInput, takeFields } from "./gridFields.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { keepLine, LineInput, spaceFile, spaceFileOf, spaceFilesOf } from "./spaceFiles.ts";
import { keepQuality, QualityInput } from "./spaceQuality.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let [caseId, runId, cutId, bare] = ["", "", "", ""];

/** 4 x 4 x 4 hexahedra in centimetres, with a pressure that is 5 x + z of each cell's middle, cm. */
const file = (): string => {
  const values = Float64Array.from({ length: 64 }, (_, c) => 5 * ((c % 4) + 0.5) + Math.floor(c / 16) + 0.5);
  return writeVtkCells(hexahedra([4, 4, 4], (i, j, k) => [i, j, k], [{ name: "p, Pa", components: 1, values }]));
};

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("space-files"));
  caseId = (await createCase(opened, newCase({ title: "Yard in space" }))).id;
  const hash = await opened.blobs.put(new TextEncoder().encode(file()));
  runId = (await bringSettled(opened, caseId, 61, { label: "judged", cells: 64 })).id;
  await keepQuality(opened, runId, QualityInput.parse({ hash, name: "yard.vtu", length: "cm" }));
  cutId = (await bringSettled(opened, caseId, 62, { label: "cut", cells: 64 })).id;
  const arrays = [{ name: "p, Pa", on: "cells", role: "pressure", unit: "Pa" }];
  const cut = { normal: [1, 1, 0], through: [2, 2, 2] };
  await takeFields(opened, cutId, TakeGridInput.parse({ hash, name: "again.vtu", length: "cm", arrays, cut }));
  bare = (await bringSettled(opened, caseId, 63, { label: "plane", cells: 64 })).id;
});
afterAll(() => close());

const line = (change: object = {}) =>
  LineInput.parse({
    name: "pressure along x",
    of: { name: "p, Pa", on: "cells" },
    component: 0,
    smooth: false,
    unit: "Pa",
    from: [-1, 1.5, 1.5],
    to: [4, 1.5, 1.5],
    count: 11,
    against: "x",
    ...change,
  });

describe("files in space", () => {
  test("are those whose cells were judged, or that were cut askew for fields; a run without has none", async () => {
    expect((await spaceFilesOf(opened, caseId)).map((f) => [f.label, f.file, f.length])).toEqual([
      ["judged", "yard.vtu", "cm"],
      ["cut", "again.vtu", "cm"],
    ]);
    expect(new TextDecoder().decode((await spaceFile(opened, runId)).bytes)).toBe(file());
    expect((await findRun(opened.db, cutId))?.settings.fieldsFrom?.cut).toEqual({ normal: [1, 1, 0], through: [2, 2, 2] });
    await expect(spaceFile(opened, bare)).rejects.toMatchObject({ code: "not-found" });
    expect(spaceFileOf({ settings: {} as never, result: null })).toBeUndefined();
  });
  test("are read along a line, in metres, places outside left out and said; the curve is the run's", async () => {
    const { notes } = await keepLine(opened, runId, line());
    expect(notes).toEqual(["pressure along x: values of the cells it goes through; 2 of 11 places lie in no cell."]);
    const [curve] = (await findRun(opened.db, runId))?.result?.profiles?.filter((p) => p.name === "pressure along x") ?? [];
    expect(curve.abscissa).toMatchObject({ name: "x", unit: "m" });
    expect(curve.abscissa.values).toHaveLength(9);
    curve.abscissa.values.forEach((x, k) => {
      expect(x).toBeCloseTo(0.005 * k, 12);
    });
    expect(curve.value.unit).toBe("Pa");
    expect(curve.value.values[1]).toBeCloseTo(4, 12);
  });
  test.each([
    ["the same name again", {}, "conflict"],
    ["a field that is not there", { of: { name: "q", on: "cells" } }, "invalid"],
    ["a coordinate that does not change", { name: "b", against: "y" }, "invalid"],
    ["a coordinate that turns back on the way", { name: "b", by: [[5, 1.5, 1.5]] }, "invalid"],
    ["a corner that stands twice", { name: "c", by: [[4, 1.5, 1.5]] }, "invalid"],
    ["a line of no length", { name: "c", to: [-1, 1.5, 1.5] }, "invalid"],
    ["a line beside the cells", { name: "d", from: [9, 9, 9], to: [9, 9, 10] }, "invalid"],
  ])("%s is refused, and nothing is kept", async (_name, change, code) => {
    const before = (await findRun(opened.db, runId))?.result?.profiles;
    await expect(keepLine(opened, runId, line(change))).rejects.toMatchObject({ code });
    expect((await findRun(opened.db, runId))?.result?.profiles).toEqual(before);
  });
  test("turn at corners, over the whole way or a coordinate that only grows", async () => {
    const corners = { from: [0.5, 0.5, 0.5], by: [[0.5, 2.5, 0.5]], to: [2.5, 2.5, 0.5], count: 5 };
    await keepLine(opened, runId, line({ ...corners, name: "round the corner", against: "way" }));
    const [curve] = (await findRun(opened.db, runId))?.result?.profiles?.filter((p) => p.name === "round the corner") ?? [];
    curve.abscissa.values.forEach((s, k) => {
      expect(s).toBeCloseTo(0.01 * k, 12);
    });
    expect(curve.abscissa.values).toHaveLength(5);
    // Along the first leg x stays, and with it the pressure's share of it.
    await expect(keepLine(opened, runId, line({ ...corners, name: "over x", against: "x" }))).rejects.toThrow(
      "x does not go one way all along the line",
    );
    await keepLine(opened, runId, line({ name: "bent", from: [0.5, 0.5, 0.5], by: [[1.5, 2.5, 0.5]], to: [2.5, 0.5, 0.5], count: 5, against: "x" }));
    const [bent] = (await findRun(opened.db, runId))?.result?.profiles?.filter((p) => p.name === "bent") ?? [];
    bent.abscissa.values.forEach((x, k) => {
      expect(x).toBeCloseTo(0.005 + 0.005 * k, 12);
    });
  });
  test("the same name again takes its place where that is said; a run without a file has no line", async () => {
    await keepLine(opened, runId, line({ replace: true, count: 21, smooth: true, against: "way" }));
    const curves = (await findRun(opened.db, runId))?.result?.profiles?.filter((p) => p.name === "pressure along x");
    expect(curves).toHaveLength(1);
    expect(curves?.[0].abscissa.name).toBe("way along the line");
    await expect(keepLine(opened, bare, line())).rejects.toMatchObject({ code: "not-found" });
  });
});

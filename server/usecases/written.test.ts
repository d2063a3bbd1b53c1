import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { createCase } from "./cases.ts";
import { newCase, temporaryStore } from "./testStore.ts";
import { writtenFile, writtenOnMesh, writtenSolution } from "./written.ts";

let opened: Store;
let close: () => Promise<void>;
beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("written"));
});
afterAll(() => close());

test("a manufactured case is written out, checked, and given in every language", async () => {
  const { id } = await createCase(
    opened,
    newCase({
      problemId: "manufactured-flow",
      parameters: {},
      formulas: { streamFunction: "y ^ 3 * (1 + 0.1 * x)", pressure: "sin(x)" },
      quantityName: undefined,
      quantityUnit: undefined,
    }),
  );
  const found = await writtenSolution(opened, id);
  expect(found.fields.map((f) => f.key)).toEqual(["velocity_x", "velocity_y", "pressure_over_density"]);
  expect(found.fields[2].typeset).toContain("katex");
  expect(found.distance).toBeLessThan(1e-6);
  expect(found.terms.filter((t) => t.untested).map((t) => t.term)).toContain("change in time");
  const c = await writtenFile(opened, id, "c");
  expect(c.name).toBe("manufactured.c");
  expect(c.bytes).toContain("double source_x(double x, double y, double t)");
  expect((await writtenFile(opened, id, "fortran")).name).toBe("manufactured.f90");
  await expect(writtenFile(opened, id, "algol")).rejects.toThrow("There is no algol");
});

test("a case that was not written down has nothing to write out", async () => {
  const { id } = await createCase(opened, newCase());
  await expect(writtenSolution(opened, id)).rejects.toThrow("Only a manufactured case");
  await expect(writtenSolution(opened, "00000000-0000-4000-8000-000000000000")).rejects.toMatchObject({ code: "not-found" });
});

test("heat round an axis: means over cells and fluxes through faces are tables, at the end where it changes in time", async () => {
  const formulas = { carried: "x + y + t", streamFunction: "0", pressure: "0" };
  const { id } = await createCase(
    opened,
    newCase({
      problemId: "manufactured-carried",
      parameters: { round: "1", endTimeS: "2 s" },
      formulas,
      quantityName: undefined,
      quantityUnit: undefined,
    }),
  );
  expect((await writtenSolution(opened, id)).distance).toBeLessThan(1e-6);
  const cells = await writtenOnMesh(opened, id, "cells", "4x4");
  expect(cells.name).toBe("manufactured cells 4x4.csv");
  const [header, ...rows] = cells.bytes
    .trim()
    .split("\n")
    .map((line) => line.split(","));
  expect(rows.length).toBe(16);
  const at = (name: string) => header.findIndex((h) => h.includes(name));
  for (const row of rows) expect(Number(row[at("what is carried (K)")])).toBeCloseTo(Number(row[at("x (m)")]) + Number(row[at("y (m)")]) + 2, 9);
  // x + y + t is supplied one a second, less what the widening ring conducts away.
  for (const row of rows) expect(Number(row[at("supply")])).toBeLessThan(1);
  expect((await writtenOnMesh(opened, id, "faces", "4x4")).bytes.split("\n")[0]).toContain("volume flux");
  await expect(writtenOnMesh(opened, id, "corners", "4x4")).rejects.toThrow("no table of corners");
  for (const mesh of ["4", "1x4", "300x300", "4x4x4", "axb"]) await expect(writtenOnMesh(opened, id, "cells", mesh)).rejects.toThrow("is no mesh");
});

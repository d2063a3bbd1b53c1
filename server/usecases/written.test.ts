import { afterAll, beforeAll, expect, test } from "vitest";
import type { Store } from "../db/store.ts";
import { createCase } from "./cases.ts";
import { newCase, temporaryStore } from "./testStore.ts";
import { writtenFile, writtenSolution } from "./written.ts";

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

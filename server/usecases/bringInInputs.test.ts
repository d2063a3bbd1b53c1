import { describe, expect, test } from "vitest";
import { AddInput, BringInInput, FamilyInInput, PreviewInput, Role, RowRoleInput } from "./bringInInputs.ts";

const run = {
  label: "L1",
  code: "Lintel",
  cells: 96_000,
  volume: "1.08 m^3",
  roles: ["iteration", "residual"],
  history: null,
  quantities: null,
  rowRoles: [],
};
const takes = (schema: { safeParse: (x: unknown) => { success: boolean } }, input: unknown) => schema.safeParse(input).success;
const many = <T>(n: number, of: T) => Array.from({ length: n }, () => of);

describe("what columns and rows may be", () => {
  test("the roles there are, and quantities by their key", () => {
    for (const role of ["iteration", "time", "residual", "log-residual", "ignore", "boundary-mass", "boundary-x", "boundary-energy", "quantity:q1"])
      expect([role, takes(Role, role)]).toEqual([role, true]);
    for (const role of ["", "pressure", "quantity:", "quantity:a b", "boundary-z", "xiteration", "iterations"])
      expect([role, takes(Role, role)]).toEqual([role, false]);
  });
  test("a row is no iteration, no time and no residual", () => {
    expect(["ignore", "boundary-species", "quantity:d-2"].map((r) => takes(RowRoleInput, r))).toEqual([true, true, true]);
    expect(["iteration", "time", "residual", "log-residual"].map((r) => takes(RowRoleInput, r))).toEqual([false, false, false, false]);
  });
});

describe("what is said of a run", () => {
  test("everything a run needs, and no more", () => {
    const read = BringInInput.parse(run);
    expect(read.fluxes).toEqual({ signs: "outward", factor: 1 });
    expect(BringInInput.parse({ ...run, label: "  L1 " }).label).toBe("L1");
  });
  test.each([
    ["no name", { label: " " }],
    ["no code", { code: "" }],
    ["no cells", { cells: 0 }],
    ["half a cell", { cells: 0.5 }],
    ["more cells than there are", { cells: 1.1e10 }],
    ["a dimension of one", { dimension: 1 }],
    ["a role there is not", { roles: ["pressure"] }],
    ["a part larger than the whole", { fluxes: { signs: "outward", factor: 0.5 } }],
    ["a third order", { own: { schemeOrder: 3 } }],
    ["a time step of nothing", { own: { timeStepS: 0 } }],
  ])("refused: %s", (_, change) => expect(takes(BringInInput, { ...run, ...change })).toBe(false));
  test("as many columns and rows as files have, within reason", () => {
    expect(
      takes(BringInInput, { ...run, roles: many(400, "ignore"), units: many(400, null), rowRoles: many(4000, "ignore"), rowUnits: many(4000, "N") }),
    ).toBe(true);
    expect(takes(BringInInput, { ...run, roles: many(401, "ignore") })).toBe(false);
    expect(takes(BringInInput, { ...run, rowRoles: many(4001, "ignore") })).toBe(false);
  });
  test("a history is a text or a reading that is at hand", () => {
    expect(takes(BringInInput, { ...run, history: { name: "a.csv", text: "it,r" } })).toBe(true);
    expect(takes(BringInInput, { ...run, history: { reading: "2f1f6f0e-3b8a-4e6d-9d4a-0c1b2a3d4e5f" } })).toBe(true);
    expect(takes(BringInInput, { ...run, history: { reading: "the last one" } })).toBe(false);
    expect(takes(PreviewInput, { history: { name: "a.csv", text: "x".repeat(16 * 1024 * 1024 + 1) }, quantities: null })).toBe(false);
  });
});

test("a family says its cells run by run, of one to forty runs", () => {
  const one = { label: "L1", cells: 10, history: null, quantities: null };
  const family = { code: "Lintel", volume: "1 m^3", roles: [], columnRoles: { it: "iteration" }, runs: [one] };
  expect(takes(FamilyInInput, family)).toBe(true);
  expect(takes(FamilyInInput, { ...family, runs: [] })).toBe(false);
  expect(takes(FamilyInInput, { ...family, runs: many(40, one) })).toBe(true);
  expect(takes(FamilyInInput, { ...family, runs: many(41, one) })).toBe(false);
  expect(takes(FamilyInInput, { ...family, runs: [{ ...one, cells: 0 }] })).toBe(false);
});

test("what is added to a run replaces nothing unless it says so", () => {
  const read = AddInput.parse({ quantities: { name: "t.csv", text: "name,value" }, rowRoles: ["quantity:q1"] });
  expect([read.replace, read.fluxes.factor]).toEqual([false, 1]);
  expect(takes(AddInput, { quantities: { name: "t.csv", text: "" }, rowRoles: ["time"] })).toBe(false);
});

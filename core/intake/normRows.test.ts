import { describe, expect, test } from "vitest";
import { fieldOfNorm, guessNorm, type NormRow, normsOf } from "./normRows.ts";
import { buildQuantities, guessRowRoles } from "./quantityImport.ts";

describe("rows of errors", () => {
  test.each([
    ["L2 error of u", "norm-l2", "u"],
    ["u error, L1 norm", "norm-l1", "u"],
    ["Linf norm of pressure", "norm-max", "pressure"],
    ["largest error of the temperature", "norm-max", "temperature"],
    ["RMS error of v", "norm-l2", "v"],
    ["largest exact value of u", "norm-scale", "u"],
    ["drag error bar", undefined, "drag bar"],
    ["L2 cache", undefined, "cache"],
    ["reattachment length", undefined, "reattachment length"],
  ])("%s is %s of %s", (name, role, field) => {
    expect(guessNorm(name)).toBe(role);
    expect(fieldOfNorm(name)).toBe(field);
  });
});

const rows = (change: Partial<Record<NormRow["role"], Partial<NormRow>>> = {}): NormRow[] =>
  (
    [
      ["norm-l1", "L1 error of u", 1e-3],
      ["norm-l2", "L2 error of u", 2e-3],
      ["norm-max", "Linf error of u", 8e-3],
      ["norm-scale", "largest exact value of u", 1],
    ] as const
  ).map(([role, name, value], k) => ({ line: k + 2, name, role, value, unit: "m/s", ...change[role] }));

describe("norms by field", () => {
  test("three norms and what they are small against are one field's", () => {
    expect(normsOf(rows())).toEqual({ problems: [], norms: [{ field: "u", unit: "m/s", l1: 1e-3, l2: 2e-3, linf: 8e-3, scale: 1 }] });
  });
  test.each<[string, NormRow[], string]>([
    ["one is missing", rows().slice(1), "The error of u lacks its L1 norm."],
    ["one stands twice", [...rows(), { ...rows()[1], line: 9 }], "Two rows give its L2 norm of u."],
    ["units differ", rows({ "norm-max": { unit: "mm/s" } }), "Linf error of u is in mm/s, other rows of u in m/s."],
    ["one is negative", rows({ "norm-l1": { value: -1 } }), "L1 error of u is negative; a norm is not."],
    [
      "sums instead of means",
      rows({ "norm-l1": { value: 3e-3 } }),
      "The norms of u are no means over the volume: L1 is at most L2, and L2 at most the largest error.",
    ],
    ["L2 above the largest", rows({ "norm-l2": { value: 9e-3 } }), "L2 at most the largest error."],
  ])("%s: refused, with the line", (_name, given, sentence) => {
    const { norms, problems } = normsOf(given);
    expect(norms).toEqual([]);
    expect(problems[0].sentence).toContain(sentence);
    expect(problems[0].line).toBeGreaterThan(1);
  });
  test("a table of results gives them beside its quantities; without a unit it is asked for", () => {
    const table = rows().map(({ line, name, value, unit }) => ({ line, name, value, unit }));
    const roles = guessRowRoles(table, []);
    expect(roles).toEqual(["norm-l1", "norm-l2", "norm-max", "norm-scale"]);
    const built = buildQuantities(table, roles, []);
    expect(built).toMatchObject({ ok: true, quantities: {}, errorNorms: [{ field: "u", scale: 1 }] });
    const bare = buildQuantities([{ line: 2, name: "L2 error of u", value: 1 }], ["norm-l2"], []);
    expect(bare.ok ? "" : bare.problems[0].sentence).toBe("The unit of L2 error of u is not given: type it, or 1 for a pure number.");
  });
});

import { expect, test } from "vitest";
import { columnsOf, familyInput, type Read, rowsOf, runsOf } from "./family";

const record = (name: string, header: string[], roles: string[]): Read => ({
  name,
  text: `text of ${name}`,
  record: { header, roles, units: header.map(() => undefined), delimiter: ",", rows: 1, sample: [], notes: [] } as unknown as Read["record"],
  problems: [],
});
const table = (name: string, rows: [string, string | undefined][]): Read => ({
  name,
  text: `text of ${name}`,
  table: { rows: rows.map(([n, unit]) => ({ name: n, value: 1, unit })), roles: rows.map(() => "quantity:q1") },
  problems: [],
});

test("one run a record, with the table whose name speaks of it", () => {
  const read = [
    record("coarse 1k.csv", ["it"], ["iteration"]),
    record("fine 8k.csv", ["it"], ["iteration"]),
    table("fine 8k values.csv", [["force", "N"]]),
  ];
  expect(runsOf(read)).toEqual([
    { label: expect.stringContaining("coarse"), cells: "1000", record: "coarse 1k.csv", table: "" },
    { label: expect.stringContaining("fine"), cells: "8000", record: "fine 8k.csv", table: "fine 8k values.csv" },
  ]);
});

test("one record and one table belong together whatever they are called; tables alone are runs of their own", () => {
  expect(runsOf([record("a.csv", [], []), table("z.csv", [])])[0]).toMatchObject({ record: "a.csv", table: "z.csv" });
  expect(runsOf([table("a.csv", []), table("b.csv", [])]).map((r) => [r.record, r.table])).toEqual([
    ["", "a.csv"],
    ["", "b.csv"],
  ]);
});

test("columns and rows of one name are mapped once, as the first file has them", () => {
  expect(columnsOf([record("a", ["p", "q"], ["time", "ignore"]), record("b", ["q", "r"], ["residual", "residual"])])).toEqual({
    p: { role: "time", unit: "" },
    q: { role: "ignore", unit: "" },
    r: { role: "residual", unit: "" },
  });
  expect(rowsOf([table("a", [["force", "N"]]), table("b", [["force", "kN"]])])).toEqual({ force: { role: "quantity:q1", unit: "N" } });
});

test("what is sent: texts of the files, roles of all, units of those that have one, cells as a whole number", () => {
  const read = [record("a.csv", ["p"], ["residual"])];
  const runs = [{ label: "a", cells: "12,000.4", record: "a.csv", table: "" }];
  expect(familyInput(read, runs, { p: { role: "residual", unit: " " }, t: { role: "time", unit: " ms " } }, {})).toEqual({
    roles: [],
    columnRoles: { p: "residual", t: "time" },
    columnUnits: { t: "ms" },
    rowRolesByName: {},
    rowUnitsByName: {},
    runs: [{ label: "a", cells: 12000, history: { name: "a.csv", text: "text of a.csv" }, quantities: null }],
  });
});

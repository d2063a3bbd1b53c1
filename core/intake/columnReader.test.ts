import { describe, expect, test } from "vitest";
import { readSheet, type Sheet } from "../formats/sheet.ts";
import { lastFlows, netsOf, type Through } from "./boundaryRecord.ts";
import { columnReader } from "./columnReader.ts";
import type { ColumnRole } from "./columnRoles.ts";

function sheetOf(text: string): Sheet {
  const read = readSheet(text);
  if (!read.ok) throw new Error(read.problems[0].sentence);
  return read.sheet;
}
const DRAG = sheetOf("it,drag (mN),warmth (degC),share (%)\n1,1500,20,12\n2,,21,13\n3,1700,22,14\n");
const readerOf = (
  sheet: Sheet,
  units: readonly (string | undefined)[] = sheet.units,
  roles: readonly ColumnRole[] = sheet.header.map(() => "ignore"),
) => columnReader(sheet, roles, units);

describe("columns in the units that are wanted", () => {
  test("linear units by their factor, temperatures by their zero, shares as pure numbers; gaps stay gaps", () => {
    const reader = readerOf(DRAG);
    expect([...reader.read(1, "N")]).toEqual([1.5, Number.NaN, 1.7]);
    expect([...reader.read(2, "K")].map((v) => Math.round(100 * v))).toEqual([29315, 29415, 29515]);
    expect([...reader.read(3, "1")]).toEqual([0.12, 0.13, 0.14]);
    expect(reader.problems).toEqual([]);
  });
  test("as they stand where no unit is wanted, or it is the one they have", () => {
    const reader = readerOf(DRAG);
    expect(reader.read(1)).toBe(DRAG.columns[1]);
    expect(reader.read(1, "mN")).toBe(DRAG.columns[1]);
  });
  test("a unit that is not given is asked for at the head of its column; one of another kind cannot be turned", () => {
    const reader = readerOf(DRAG, [undefined, undefined, "kg", "%"]);
    expect(reader.read(1, "N")).toBe(DRAG.columns[1]);
    reader.read(2, "K");
    reader.read(2, "1");
    expect(reader.problems).toEqual([
      { line: 2, column: "drag", sentence: 'The unit of "drag" is not given: type it, N or another of its kind.' },
      { line: 2, column: "warmth", sentence: '"kg" cannot be turned into K; correct the unit or what the column is.' },
      { line: 2, column: "warmth", sentence: '"kg" cannot be turned into a pure number; correct the unit or what the column is.' },
    ]);
    expect(readerOf(DRAG, [undefined, undefined]).read(1, "1")).toBe(DRAG.columns[1]);
  });
  test("cells that are no numbers are told by their line", () => {
    const reader = readerOf(sheetOf("it,drag\n1,2\n2,much\n3,4\n"));
    reader.read(1);
    expect(reader.problems).toEqual([{ line: 3, column: "drag", sentence: '"much" is not a number.' }]);
  });
});

describe("columns that must be there", () => {
  test("gaps of a whole column are told one by one, a dozen at most", () => {
    const reader = readerOf(DRAG);
    reader.readWhole(1, "time");
    expect(reader.problems).toEqual([{ line: 3, column: "drag", sentence: "The time is missing." }]);
    const long = readerOf(sheetOf(`it,t\n${Array.from({ length: 30 }, (_, i) => `${i},`).join("\n")}\n`));
    long.readWhole(1, "time");
    expect(long.problems.length).toBe(12);
    expect(long.problems[11].line).toBe(13);
  });
  test("the only column of a role; two are a problem, none is none", () => {
    const reader = readerOf(DRAG, DRAG.units, ["iteration", "time", "time", "ignore"]);
    expect([reader.only("iteration", "iteration"), reader.only("time", "time"), reader.only("residual", "residual")]).toEqual([0, 1, -1]);
    expect(reader.problems).toEqual([{ line: 1, sentence: "Two columns are marked as the time." }]);
  });
});

describe("flows through boundaries, row by row", () => {
  const flow = (name: string, ...values: number[]) => ({ name, values: Float64Array.from(values) });
  const through: Through = new Map([
    ["boundary-mass", [flow("inlet", -1, -1, -1), flow("outlet", 0.9, 0.99, Number.NaN), flow("leak", 0.05, 0.01, 0.01)]],
    ["boundary-energy", [flow("inlet", -30, -31, -32)]],
  ]);
  test("net over the larger of in and out, of what two boundaries give; what one gives alone is said", () => {
    const { nets, notes } = netsOf(through);
    expect(nets.map(([name, net]) => [name, [...net]])).toEqual([["mass", [expect.closeTo(0.05, 12), 0, Number.NaN]]]);
    expect(notes).toEqual(["Only one boundary gives its energy: nothing to balance it with over the iterations."]);
    const more = new Map([["boundary-x", [flow("a", -1, 0), flow("b", 3, 0)]]]) as Through;
    expect([...netsOf(more).nets[0][1]]).toEqual([expect.closeTo(2 / 3, 12), 0]);
  });
  test("the end is the last row each boundary has, in the order of the iterations", () => {
    const found = lastFlows(through, 1, undefined);
    expect(found?.boundaries.map((b) => [b.name, b.mass])).toEqual([
      ["inlet", -1],
      ["outlet", 0.99],
      ["leak", 0.01],
    ]);
    expect(lastFlows(through, 1, [2, 1, 0])?.boundaries.map((b) => b.mass)).toEqual([-1, 0.9, 0.05]);
    expect(lastFlows(through, 12, undefined)?.factor).toBe(12);
    expect(lastFlows(new Map(), 1, undefined)).toBeUndefined();
  });
});

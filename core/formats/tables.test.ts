import { describe, expect, test } from "vitest";
import { numberOf } from "./cellNumber.ts";
import { DelimitedReader, readDelimited } from "./delimited.ts";
import { readSheet, type Sheet, SheetReader } from "./sheet.ts";

const sheet = (text: string): Sheet => {
  const r = readSheet(text);
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.line}: ${p.sentence}`).join("; "));
  return r.sheet;
};
const problems = (text: string) => {
  const r = readSheet(text);
  return r.ok ? [] : r.problems;
};
const column = (text: string, index = 1) => [...sheet(text).columns[index]];

describe("cells", () => {
  test.each<[string, string, number | undefined]>([
    ["1.5", ",", 1.5],
    ["1,5", ";", 1.5],
    ["1,5", ",", undefined],
    ["-,5", ";", -0.5],
    ["1.5D-3", ",", 1.5e-3],
    ["1d2", ",", 100],
    ["1e5", ",", 1e5],
    ["", ",", Number.NaN],
    ["NaN", ",", Number.NaN],
    ["-nan(ind)", ",", Number.NaN],
    ["Infinity", ",", Number.NaN],
    ["-inf", ",", Number.NaN],
    ["n/a", ",", Number.NaN],
    ["NA", ",", Number.NaN],
    ["---", ",", Number.NaN],
    ["****", ",", Number.NaN],
    ["null", ",", Number.NaN],
    ["nanny", ",", undefined],
    ["1.2.3", ",", undefined],
    ["1e999", ",", undefined],
    ["word", ",", undefined],
  ])("%s between %s", (cell, delimiter, value) => expect(numberOf(cell, delimiter)).toEqual(value));
});

describe("what every row needs", () => {
  test("the first twelve problems are told, by line", () => {
    const text = `a,b\n${"1,2\n".repeat(30)}${"1\n".repeat(20)}1,2\n`;
    expect(problems(text)).toHaveLength(12);
    expect(problems(text)[11]).toEqual({ line: 43, sentence: "1 cells where the header has 2." });
  });
  test("only a fault in the very last row tells of a file cut off", () => {
    expect(problems("a,b\n1,2\n3\n")[0].sentence).toContain("cut off here");
    expect(problems("a,b\n1,2\n3\n3,4\n")[0].sentence).not.toContain("cut off");
    expect(problems("a,b\n1,2\n3\n# end\n")[0].sentence).toContain("cut off here");
  });
  test("a delimiter at the end of every line opens no column; a cell there does", () => {
    expect(column("a,b\n1,2,\n3,4,\n")).toEqual([2, 4]);
    expect(problems("a,b\n1,2,3\n4,5\n")).toEqual([{ line: 2, sentence: "3 cells where the header has 2." }]);
  });
  test("a header that stands again after a restart is no row, comments and blank lines neither", () => {
    expect(column("it,res\n1,1\n\n# again\nit,res\n2,0.5\n")).toEqual([1, 0.5]);
  });
  test("columns that join from a line on are gaps before it", () => {
    const s = sheet("it,res\n1,1\nit,res,drag\n2,0.5,7\n");
    expect(s.header).toEqual(["it", "res", "drag"]);
    expect([...s.columns[2]]).toEqual([Number.NaN, 7]);
    const t = readDelimited("it,res\n1,1\nit,res,drag\n2,0.5,7\n");
    expect(t.ok && t.table.cells).toEqual([
      ["1", "1", ""],
      ["2", "0.5", "7"],
    ]);
    expect(t.ok && t.table.lines).toEqual([2, 4]);
  });
  test("a line of a million characters and one is no row; one of a million is", () => {
    const reader = new SheetReader();
    reader.push(`a,b\n1,2\n${"x".repeat(1_000_001)}`);
    expect(reader.failed).toBe(true);
    expect(reader.problems).toEqual([{ line: 3, sentence: "A line of more than a million characters is no row of a table." }]);
    const fits = new SheetReader();
    fits.push(`a,b\n1,2\n${" ".repeat(999_990)}`);
    expect(fits.failed).toBe(false);
  });
  test("sheets grow beyond their first thousand rows without losing one", () => {
    const s = sheet(`a,b\n${Array.from({ length: 2500 }, (_, i) => `${i},${2 * i}`).join("\n")}\n`);
    expect(s.rows).toBe(2500);
    expect([s.columns[1][1023], s.columns[1][1024], s.columns[1][2499]]).toEqual([2046, 2048, 4998]);
    expect([s.lines[0], s.lines[2499]]).toEqual([2, 2501]);
    expect(s.sample).toHaveLength(5);
  });
  test("faults of a column: the first twelve, with their cell", () => {
    const s = sheet(`a,b\n1,1\n${"2,x\n".repeat(15)}`);
    expect(s.faults[1]).toHaveLength(12);
    expect(s.faults[1][0]).toEqual({ line: 3, column: "b", sentence: '"x" is not a number.' });
    expect(s.faults[0]).toEqual([]);
  });
});

describe("a file that is still being written", () => {
  test("two rows of numbers tell its shape; before that nothing is decided", () => {
    const reader = new SheetReader();
    reader.push("it,res\n1,1\n");
    reader.settle();
    expect(reader.columnCount).toBe(0);
    reader.push("2,0.5\n");
    reader.settle();
    expect([reader.columnCount, reader.rows]).toEqual([2, 2]);
    reader.push("3,0.2");
    expect(reader.rows).toBe(2);
    reader.push("5\n");
    expect([...reader.sheet(2).columns[1]]).toEqual([0.25]);
  });
  test("line ends of every kind, also split between two pieces", () => {
    const rows: string[][] = [];
    const reader = new DelimitedReader({ columns: () => undefined, row: (cells) => rows.push([...cells]) });
    for (const piece of ["a,b\r", "\n1,2\r", "3,4\r\n", "5,6"]) reader.push(piece);
    expect(reader.end()).toEqual([]);
    expect(rows).toEqual([
      ["1", "2"],
      ["3", "4"],
      ["5", "6"],
    ]);
  });
});

describe("headers", () => {
  test("a mark at the beginning of the file is no letter of the first name", () =>
    expect(sheet("\uFEFFit,res\n1,2\n").header).toEqual(["it", "res"]));
  test("titles above the names, groups joined with them, units below", () => {
    const s = sheet("made by Lintel\njet,jet,\nspeed,force,it\nm/s,N,-\n1,2,3\n");
    expect(s.header).toEqual(["jet speed", "jet force", "it"]);
    expect(s.units).toEqual(["m/s", "N", "1"]);
  });
  test("a unit in brackets leaves the name; of a logarithm the bracket stays", () => {
    const s = sheet("drag (N),ratio [-],log10(res)\n1,2,3\n");
    expect(s.header).toEqual(["drag", "ratio", "log10(res)"]);
    expect(s.units).toEqual(["N", "1", undefined]);
  });
  test("vectors of up to three components by letters, longer ones by numbers", () => {
    expect(sheet("t u\n1 (1 2 3)\n2 (4 5 6)\n").header).toEqual(["t", "u x", "u y", "u z"]);
    expect(sheet("t u\n1 (1 2 3 4)\n2 (4 5 6 7)\n").header).toEqual(["t", "u 1", "u 2", "u 3", "u 4"]);
  });
  test("delimiters: one that most lines agree on", () => {
    expect(sheet("a;b\n1;2\n").delimiter).toBe(";");
    expect(sheet("a b\n1 2\n").delimiter).toBe(" ");
    expect(sheet("a\tb\n1,5\t2\n").delimiter).toBe("\t");
  });
});

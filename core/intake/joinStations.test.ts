import { describe, expect, test } from "vitest";
import { readSheet } from "../formats/sheet.ts";
import { readCurves } from "./curveImport.ts";
import { joinStations } from "./joinStations.ts";

const file = (name: string, ...rows: string[]) => ({ name, text: `y (mm),u (m/s)\n${rows.join("\n")}\n` });

describe("files of several stations", () => {
  test("are one table: the station by the number in each name, in its order", () => {
    const joined = joinStations([file("traverse x10.csv", "0,3", "1,4"), file("traverse x2.csv", "0,1", "1,2")]);
    if (!joined.ok) throw new Error(joined.sentence);
    expect(joined.text).toBe("station,y (mm),u (m/s)\n2,0,1\n2,1,2\n10,0,3\n10,1,4\n");
    expect(joined.name).toBe("traverse x10.csv and 1 more");
    expect(joined.notes[0]).toContain("the last number in each file's name: 2: traverse x2.csv, 10: traverse x10.csv");
    const sheet = readSheet(joined.text);
    if (!sheet.ok) throw new Error("a table was joined");
    const curves = readCurves(sheet.sheet, { roles: ["station", "abscissa", "value"], units: sheet.sheet.units, coverage: 2 });
    if (!curves.ok) throw new Error("curves were joined");
    expect(curves.curves.map((c) => [c.station, c.value])).toEqual([
      [2, [1, 2]],
      [10, [3, 4]],
    ]);
  });
  test("whose names do not tell them apart go by their order, and that is said", () => {
    const joined = joinStations([file("run7 a.csv", "0,1"), file("run7 b.csv", "0,2")]);
    if (!joined.ok) throw new Error(joined.sentence);
    expect(joined.text).toContain("\n1,0,1\n2,0,2\n");
    expect(joined.notes[0]).toContain("the order of the files");
  });
  test("keep their delimiter, and lines that end otherwise or are empty do no harm", () => {
    const joined = joinStations([
      { name: "s1.dat", text: "\uFEFF\r\ny;u\r\n0,5;1,5\r\n\r\n" },
      { name: "s2.dat", text: "y;u\r0,5;2,5\r" },
    ]);
    expect(joined).toMatchObject({ ok: true, text: "station;y;u\n1;0,5;1,5\n2;0,5;2,5\n" });
  });
  test("with different headings, or without rows, are refused by name", () => {
    expect(joinStations([file("s1.csv", "0,1"), { name: "s2.csv", text: "y,v\n0,1\n" }])).toMatchObject({
      ok: false,
      sentence: expect.stringContaining("s2.csv has another heading"),
    });
    expect(joinStations([file("s1.csv", "0,1"), { name: "s2.csv", text: "y (mm),u (m/s)\n" }])).toMatchObject({
      ok: false,
      sentence: "s2.csv has no rows below its heading.",
    });
    expect(joinStations([])).toMatchObject({ ok: false });
  });
});

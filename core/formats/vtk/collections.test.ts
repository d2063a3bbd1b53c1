import { describe, expect, test } from "vitest";
import { byNumbers, momentsOf, readCollection } from "./collections.ts";
import { joined, readVtkGrid } from "./readGrid.ts";
import { GridFileError } from "./scan.ts";
import { everyKind } from "./vtkForTests.ts";

const bytes = (text: string) => new TextEncoder().encode(text);
const series = (rows: string) => bytes(`<?xml version="1.0"?><VTKFile type="Collection" version="0.1"><Collection>${rows}</Collection></VTKFile>`);
const pieces = (rows: string) =>
  bytes(`<VTKFile type="PUnstructuredGrid"><PUnstructuredGrid GhostLevel="0"><PPoints/>${rows}</PUnstructuredGrid></VTKFile>`);

describe("files that name others", () => {
  test("a series comes in the order of its times, without folders, files of one time together", () => {
    const rows = `<DataSet timestep="0.2" part="0" file="out/b.vtu"/><DataSet timestep="0.1" file="out\\a.vtu"/><DataSet timestep="0.2" part="1" file="c &amp; d.vtu"/>`;
    expect(readCollection(series(rows))).toEqual({
      kind: "series",
      moments: [
        { time: 0.1, files: ["a.vtu"] },
        { time: 0.2, files: ["b.vtu", "c & d.vtu"] },
      ],
    });
  });
  test("a parallel file names its pieces; a file with cells names none", () => {
    expect(readCollection(pieces(`<Piece Source="x/a_0.vtu"/><Piece Source="x/a_1.vtu"/>`))).toEqual({
      kind: "pieces",
      files: ["a_0.vtu", "a_1.vtu"],
    });
    expect(readCollection(everyKind({ format: "ascii" }))).toBeUndefined();
    expect(readCollection(bytes("solid a"))).toBeUndefined();
  });
  test.each([
    ["a time that is none", series(`<DataSet timestep="soon" file="a.vtu"/>`), 'The time "soon" is no number.'],
    ["an empty time", series(`<DataSet timestep="" file="a.vtu"/>`), 'The time "" is no number.'],
    ["no file", series(""), "names no file that has"],
    ["a data set without a file", series(`<DataSet timestep="1"/>`), "A DataSet names no file."],
  ])("%s is refused with the place", (_name, file, sentence) => {
    expect(() => readCollection(file)).toThrow(GridFileError);
    expect(() => readCollection(file)).toThrow(sentence);
  });
});

describe("files that were chosen together", () => {
  const of = (known: Record<string, ReturnType<typeof readCollection>>) => (name: string) => known[name];
  test("one file is one moment; several are moments by their numbers, which is said", () => {
    expect(momentsOf(["a.vtu"], of({}))).toEqual({ moments: [{ files: ["a.vtu"] }], notes: [] });
    const { moments, notes } = momentsOf(["r_10.vtu", "r_9.vtu"], of({}));
    expect(moments.map((m) => m.files[0])).toEqual(["r_9.vtu", "r_10.vtu"]);
    expect(notes).toEqual(["2 files are taken for moments of one result, in the order of the numbers in their names; no file says their times."]);
    expect(byNumbers("x2", "x10")).toBeLessThan(0);
  });
  test("a series says their times, through parallel files as well; what was not chosen is named", () => {
    const known = {
      "all.pvd": readCollection(
        series(`<DataSet timestep="1" file="one.pvtu"/><DataSet timestep="2" file="two.vtu"/><DataSet timestep="3" file="three.vtu"/>`),
      ),
      "one.pvtu": readCollection(pieces(`<Piece Source="one_0.vtu"/><Piece Source="one_1.vtu"/>`)),
    };
    const { moments, notes } = momentsOf(["all.pvd", "one.pvtu", "one_0.vtu", "one_1.vtu", "two.vtu"], of(known));
    expect(moments).toEqual([
      { time: 1, files: ["one_0.vtu", "one_1.vtu"] },
      { time: 2, files: ["two.vtu"] },
    ]);
    expect(notes).toEqual(["Named but not chosen: three.vtu. Choose them together."]);
  });
  test("parallel files without a series are a moment each", () => {
    const known = { "a.pvtu": readCollection(pieces(`<Piece Source="a_0.vtu"/><Piece Source="a_1.vtu"/>`)) };
    expect(momentsOf(["a_0.vtu", "a.pvtu", "a_1.vtu"], of(known))).toEqual({ moments: [{ files: ["a_0.vtu", "a_1.vtu"] }], notes: [] });
  });
  test("their grids are joined: every cell of both, with the arrays both have", () => {
    const one = readVtkGrid(everyKind({ format: "binary" }));
    const both = joined([one, one]);
    expect(both.kinds.length).toBe(2 * one.kinds.length);
    expect(both.onCells.map((a) => a.name)).toEqual(one.onCells.map((a) => a.name));
    expect(both.notes.at(-1)).toBe("2 pieces were put together; points they share stand twice.");
  });
});

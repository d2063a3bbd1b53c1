import { describe, expect, test } from "vitest";
import { gridQuality } from "../../dataset/gridQuality.ts";
import { hexahedra } from "../../dataset/made.ts";
import { joined, readVtkGrid } from "../../formats/vtk/readGrid.ts";
import { writeVtkCells } from "../../formats/vtk/writeCells.ts";
import { keptQuality } from "../../records/spaceQuality.ts";
import { assessSpaceQuality } from "./spaceQuality.ts";

/** Two hexahedra side by side, the second drawn out to `long`. */
function pair(long: number) {
  const onCells = [{ name: "p <1>", components: 1, values: Float64Array.of(1, 2) }];
  const text = writeVtkCells(hexahedra([2, 1, 1], (i, j, k) => [i < 2 ? i : 1 + long, j, k], onCells));
  return readVtkGrid(new TextEncoder().encode(text));
}
const FILE = { name: "pair.vtu", hash: "" };
const judged = (grid: ReturnType<typeof pair>, limits = {}) => assessSpaceQuality("fine", keptQuality(gridQuality(grid, limits), FILE, "mm"));

describe("a mesh in space", () => {
  test("what is written is read again", () => {
    const grid = pair(1);
    expect([...grid.kinds]).toEqual([12, 12]);
    expect(grid.onCells[0]).toEqual({ name: "p <1>", components: 1, values: Float64Array.of(1, 2) });
  });
  test("of cubes nothing is said", () => {
    const a = judged(pair(1));
    expect([a.state, a.remarks, a.cells]).toEqual(["holds", [], 2]);
    expect(a.lines.every((l) => l.state === "holds" && l.beyond === 0)).toBe(true);
  });
  test("layers along the outside go with the quality; of one that was kept before they were looked at there are none", () => {
    const kept = keptQuality(gridQuality(pair(1)), FILE, "mm");
    const { layers, length } = assessSpaceQuality("fine", kept);
    expect(length).toBe("mm");
    expect(layers).toMatchObject([
      { name: "", faces: 10, cells: 2, layered: 2, height: { least: expect.closeTo(1, 12), greatest: expect.closeTo(1, 12) } },
    ]);
    expect(assessSpaceQuality("fine", { ...kept, layers: undefined } as typeof kept).layers).toEqual([]);
  });
  test("a neighbour six times as large lies beyond its limit, with its place; by another limit it does not", () => {
    const a = judged(pair(6));
    expect(a.state).toBe("remark");
    expect(a.remarks.map((r) => [r.rule, r.severity])).toEqual([["mesh-metric", "doubt"]]);
    expect(a.remarks[0].sentence).toMatch(
      /^fine: 2 of 2 cells \(100\s%\) lie beyond the limit of volume ratio of neighbours, 5, the worst 6\.00 in cell [01] at .* mm\.$/,
    );
    const wider = judged(pair(6), { volumeRatio: 7 });
    expect(wider.state).toBe("holds");
    expect(wider.lines.find((l) => l.metric === "volumeRatio")).toMatchObject({ limit: 7, beyond: 0, worst: expect.closeTo(6, 12) });
  });
  test("a cell turned inside out is a stop", () => {
    const a = judged(pair(-0.5));
    expect(a.state).toBe("fails");
    expect(a.remarks.find((r) => r.rule === "mesh-cells")?.sentence).toBe("fine: cells whose volume is not positive: 1.");
  });
  test("meshes that were made apart and meet are said, with what of their interface faces nothing", () => {
    const block = (low: number, n: number) => hexahedra([1, n, n], (i, j, k) => [low + i, j / n, k / n]);
    const whole = assessSpaceQuality("fine", keptQuality(gridQuality(joined([block(0, 2), block(1, 3)])), FILE, "mm"));
    expect(whole.state).toBe("holds");
    expect(whole.remarks.map((r) => [r.rule, r.severity, r.sentence])).toEqual([
      [
        "mesh-interface",
        "note",
        "fine: 13 faces lie on others without being one with them, 2.00 mm^2 of both sides; all of it faces the other side.",
      ],
    ]);
    const apart = hexahedra([1, 2, 2], (i, j, k) => [1 + i, 0.25 + j / 2, k / 2]);
    const shifted = assessSpaceQuality("fine", keptQuality(gridQuality(joined([block(0, 2), apart])), FILE, "mm"));
    expect(shifted.state).toBe("remark");
    expect(shifted.remarks[0].sentence).toMatch(/25\s% of it faces nothing, most of it at 1\.00, 0\.\d+, 0\.\d+ mm\.$/);
  });
  test("what has no bound is kept as that, through JSON as well", () => {
    const flat = pair(1e-300);
    const kept = keptQuality(gridQuality(flat), FILE, "m");
    const unbounded: string[] = [];
    JSON.stringify(kept, (key, v) => {
      if (typeof v === "number" && !Number.isFinite(v)) unbounded.push(key);
      return v;
    });
    expect(unbounded).toEqual([]);
    expect(assessSpaceQuality("fine", kept).lines.some((l) => l.worst === null || l.worst > 1e9)).toBe(true);
  });
});

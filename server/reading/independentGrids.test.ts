import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { expect, test } from "vitest";
import { readVtkGrid } from "../../core/formats/vtk/readGrid.ts";
import { writtenByLibrary } from "./libraryForTests.ts";

const { there, folder } = writtenByLibrary("writeGrids.py", "grids");

interface Held {
  readonly points: number[];
  readonly corners: number[];
  readonly u: number[];
  readonly p: number[];
}

/** Text of that library has fewer digits than its numbers. */
const near = (a: ArrayLike<number>, b: readonly number[], tolerance: number): boolean =>
  a.length === b.length && b.every((v, i) => Math.abs(v - a[i]) <= tolerance * Math.max(1, Math.abs(v)));

test.runIf(there)(
  "files of an independent library come back to the last bit, in every encoding and of every kind",
  () => {
    const files = readdirSync(folder).filter((f) => !f.endsWith(".json"));
    expect(files.length).toBeGreaterThan(150);
    const wrong = files.filter((f) => {
      const held: Held = JSON.parse(readFileSync(path.join(folder, `${f.split("-")[0]}.json`), "utf8"));
      const grid = readVtkGrid(Uint8Array.from(readFileSync(path.join(folder, f))));
      const of = (list: typeof grid.onCells, name: string) => list.find((a) => a.name === name)?.values ?? [];
      const tolerance = f.includes("-ascii-") ? 1e-6 : 0;
      const made = held.corners.length === 0;
      return !(
        near(grid.points, held.points, made ? 1e-15 : tolerance) &&
        (made || near(grid.corners, held.corners, 0)) &&
        near(of(grid.onCells, "u"), held.u, tolerance) &&
        near(of(grid.onPoints, "p"), held.p, tolerance)
      );
    });
    expect(wrong).toEqual([]);
  },
  60_000,
);

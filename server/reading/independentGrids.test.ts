import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, expect, test } from "vitest";
import { readVtkGrid } from "../../core/formats/vtk/readGrid.ts";

const PYTHON = "/usr/bin/python3";
// Debian's package python3-vtk9, in no other way part of the product: where it is missing this test says so and is left out.
const there = spawnSync(PYTHON, ["-c", "import vtk, numpy"]).status === 0;
const folder = there ? mkdtempSync(path.join(tmpdir(), "tin-ruler-grids-")) : "";
if (there) spawnSync(PYTHON, ["server/reading/writeGrids.py", folder], { stdio: "ignore" });
else console.log("Left out: Debian's python3-vtk9 is not installed, so no grids of an independent library are read.");
afterAll(() => there && rmSync(folder, { recursive: true, force: true }));

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

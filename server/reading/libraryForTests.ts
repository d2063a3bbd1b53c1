import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll } from "vitest";

const PYTHON = "/usr/bin/python3";

/**
 * A folder of files an independent library wrote, gone after the tests. Debian's package python3-vtk9 is in no other way part of the product:
 * where it is missing the tests say so and are left out.
 * @param script beside this file, given the folder
 * @param what is read of it
 */
export function writtenByLibrary(script: string, what: string): { readonly there: boolean; readonly folder: string } {
  const there = spawnSync(PYTHON, ["-c", "import vtk, numpy"]).status === 0;
  const folder = there ? mkdtempSync(path.join(tmpdir(), "tin-ruler-library-")) : "";
  if (there) spawnSync(PYTHON, [path.join("server/reading", script), folder], { stdio: "ignore" });
  else console.log(`Left out: Debian's python3-vtk9 is not installed, so no ${what} of an independent library are read.`);
  afterAll(() => there && rmSync(folder, { recursive: true, force: true }));
  return { there, folder };
}

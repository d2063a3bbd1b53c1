import { mkdir, symlink, utimes, writeFile } from "node:fs/promises";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { readVtkGrid } from "../../core/formats/vtk/readGrid.ts";
import { resultText } from "../../demo/logWriter.ts";
import type { Store } from "../db/store.ts";
import { insertRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { newCase, temporaryStore } from "./testStore.ts";
import { watchedFile, watchedFiles } from "./watchedFiles.ts";

let opened: Store;
let close: () => Promise<void>;
let logs = "";
let caseId = "";

const followed = async (place: string | undefined) =>
  (
    await insertRun(opened.db, {
      caseId,
      label: "overnight",
      origin: "brought-in",
      code: "Lintel",
      state: "followed",
      settingsHash: "",
      setupHash: "",
      settings: {
        problemId: null,
        parameters: {},
        numerics: { scheme: "central", dropOrders: 6, maxIterations: 1 },
        mesh: { cells: 1, spacingM: 1, dimension: 3 },
        code: "Lintel",
        ...(place ? { follow: { path: place, roles: [], units: [] } } : {}),
      },
    })
  ).id;

beforeAll(async () => {
  const made = await temporaryStore("watched");
  ({ store: opened, close } = made);
  caseId = (await createCase(opened, newCase())).id;
  logs = path.join(opened.folder, "logs");
  await mkdir(logs, { recursive: true });
  for (const n of [9, 10, 100]) await writeFile(path.join(logs, `out_${n}.vtu`), resultText(n));
  await writeFile(path.join(logs, "run.log"), "1 2 3\n");
  await writeFile(path.join(logs, "empty.vtu"), "");
  await writeFile(path.join(opened.folder, "secret.vtu"), "not to be read");
  await symlink(path.join(opened.folder, "secret.vtu"), path.join(logs, "link.vtu"));
  await utimes(path.join(logs, "out_10.vtu"), 1000, 2000);
});
afterAll(() => close());

describe("result files beside a log that is followed", () => {
  test("are listed by the numbers in their names; the log itself, links and empty files are none", async () => {
    const list = await watchedFiles(opened, await followed(path.join(logs, "run.log")));
    expect(list.map((f) => f.name)).toEqual(["out_9.vtu", "out_10.vtu", "out_100.vtu"]);
    expect(list[1].changedMs).toBe(2_000_000);
    expect(list[0].bytes).toBe(resultText(9).length);
  });
  test("come whole, and are grids", async () => {
    const id = await followed(path.join(logs, "run.log"));
    const { bytes, name } = await watchedFile(opened, id, "out_100.vtu");
    expect(name).toBe("out_100.vtu");
    const grid = readVtkGrid(bytes);
    expect(grid.kinds.length).toBe(24 * 6 * 12);
    // Behind the step it flows back, once it has come so far.
    expect(Math.min(...grid.onCells[0].values.filter((_, k) => k % 3 === 0))).toBeLessThan(0);
  });
  test.each([
    ["a link", "link.vtu", "not-found"],
    ["a way out of the folder", "../secret.vtu", "invalid"],
    ["another kind of file", "run.log", "invalid"],
    ["one that is gone", "gone.vtu", "not-found"],
  ])("%s is refused", async (_name, name, code) => {
    const id = await followed(path.join(logs, "run.log"));
    await expect(watchedFile(opened, id, name)).rejects.toMatchObject({ code });
  });
  test("a run that follows nothing, or a log outside the watched folders, has none", async () => {
    await expect(watchedFiles(opened, await followed(undefined))).rejects.toMatchObject({ code: "not-found" });
    await expect(watchedFiles(opened, await followed(path.join(opened.folder, "run.log")))).rejects.toMatchObject({ code: "not-found" });
    await expect(watchedFiles(opened, await followed("/etc/hosts"))).rejects.toMatchObject({ code: "not-found" });
  });
});

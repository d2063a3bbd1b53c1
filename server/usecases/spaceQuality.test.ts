import { afterAll, beforeAll, expect, test } from "vitest";
import { blockFile } from "../../demo/doorLeaf.ts";
import type { Store } from "../db/store.ts";
import { assessPack } from "../pack/assessPack.ts";
import { unpacked } from "../pack/readPack.ts";
import { findRun } from "../repositories/runs.ts";
import { createCase } from "./cases.ts";
import { openCase } from "./evidence.ts";
import { issueReport } from "./reports.ts";
import { bringSettled } from "./settledRunForTests.ts";
import { spaceFile } from "./spaceFiles.ts";
import { keepQuality, QualityInput } from "./spaceQuality.ts";
import { newCase, temporaryStore } from "./testStore.ts";

let opened: Store;
let close: () => Promise<void>;
let [runId, caseId, hash] = ["", "", ""];

beforeAll(async () => {
  ({ store: opened, close } = await temporaryStore("quality"));
  caseId = (await createCase(opened, newCase({ title: "Yard in space" }))).id;
  runId = (await bringSettled(opened, caseId, 47, { label: "fine", cells: 50 })).id;
  hash = await opened.blobs.put(new TextEncoder().encode(blockFile()));
});
afterAll(() => close());

const input = (change: object = {}) => QualityInput.parse({ hash, name: "block.vtu", length: "m", ...change });
const judged = async () => (await openCase(opened, caseId)).assessment;

test("is evidence at Meshes, by limits of one's own where they are given, in the report and in a pack that is made again", async () => {
  expect((await judged()).meshes).toEqual([]);
  await keepQuality(opened, runId, input({ limits: { nonOrthogonality: 5 } }));
  const { meshes, stages } = await judged();
  expect(meshes[0]).toMatchObject({ runId, label: "fine", file: "block.vtu", cells: 1680, state: "remark" });
  expect(meshes[0].lines.find((l) => l.metric === "nonOrthogonality")).toMatchObject({ limit: 5 });
  expect(meshes[0].remarks[0].sentence).toContain("the limit of non-orthogonality, 5 degrees");
  // The block has twelve layers of 0.1 m from its floor up, bent in the middle.
  expect(meshes[0].layers).toMatchObject([{ name: "", cells: 720, layered: 720, height: { least: expect.closeTo(0.1, 3) }, layers: { median: 12 } }]);
  expect(stages.find((s) => s.stage === "meshes")?.state).toBe("remark");
  expect((await findRun(opened.db, runId))?.settings.files?.map((f) => f.name)).toContain("block.vtu");
  expect((await spaceFile(opened, runId)).bytes.length).toBeGreaterThan(10_000);
  const report = await issueReport(opened, caseId, "H. M.");
  const pack = await opened.blobs.get(report.archive);
  expect(Object.keys(unpacked(pack))).toEqual(expect.arrayContaining(["tables/mesh-quality.csv", "tables/mesh-layers.csv", "files/block.vtu"]));
  expect(await assessPack(pack)).toMatchObject({ holds: true, differences: [], otherFiles: [] });
});

test.each<[string, object, string]>([
  ["a unit that is no length", { length: "kg" }, "Unit of length"],
  ["a file that is not there", { hash: "0".repeat(64) }, "choose it again"],
])("refused: %s", async (_what, change, words) => {
  await expect(keepQuality(opened, runId, input(change))).rejects.toThrow(words);
});

test("a file in a plane has no cells in space", async () => {
  const flat =
    '<VTKFile type="ImageData"><ImageData WholeExtent="0 2 0 2 0 0" Origin="0 0 0" Spacing="1 1 1"><Piece Extent="0 2 0 2 0 0"></Piece></ImageData></VTKFile>';
  await expect(keepQuality(opened, runId, input({ hash: await opened.blobs.put(new TextEncoder().encode(flat)) }))).rejects.toThrow(
    "no cells in space",
  );
});

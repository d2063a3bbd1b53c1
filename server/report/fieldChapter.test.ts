import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, expect, test } from "vitest";
import { rectangleMesh } from "../../core/mesh/rectangle.ts";
import { packMesh } from "../../core/solver/meshFile.ts";
import { BlobStore } from "../blobs/blobStore.ts";
import { fieldChapter, type StudiedMesh } from "./fieldChapter.ts";

const folder = await mkdtemp(path.join(tmpdir(), "tin-ruler-fields-"));
const blobs = new BlobStore(folder);
afterAll(() => rm(folder, { recursive: true, force: true }));

const uniform = { kind: "uniform" } as const;

/** A speed of 1 with an error of second order along the top of a box 0.1 m wide, stored as a run leaves it. */
async function meshWith(n: number): Promise<StudiedMesh> {
  const mesh = rectangleMesh({ lengthM: 0.1, heightM: 0.1, nx: n, ny: n, gradingX: uniform, gradingY: uniform, periodicX: false });
  const u = Float64Array.from({ length: n * n }, (_, c) => 1 + (mesh.centroidM[2 * c + 1] > 0.095 ? 64 : 0.01) / n ** 2);
  const bytes = (a: Float64Array) => new Uint8Array(a.buffer);
  const kept = await blobs.put(packMesh(mesh));
  const rows = [
    { name: "u", unit: "m/s", count: n * n, blob: await blobs.put(bytes(u)), mesh: kept },
    { name: "v", unit: "m/s", count: n * n, blob: await blobs.put(bytes(new Float64Array(n * n))), mesh: kept },
  ];
  const settings = { problemId: "box", parameters: {}, mesh: { nx: n, ny: n } } as unknown as StudiedMesh["source"]["settings"];
  return { label: `${n} × ${n}`, spacing: 0.1 / n, source: { settings, rows } };
}

test("the chapter tells how the speed converges and where its error sits, in the figures of the study", async () => {
  const found = await fieldChapter(folder, await Promise.all([80, 40, 20].map(meshWith)), { formalOrder: 2, inTime: false });
  expect(found?.chapter.title).toBe("The speed on one mesh");
  const [order, where, brought] = (found?.chapter.sentences ?? []).map((s) => s.replaceAll("\u00a0", " "));
  expect(order).toBe(
    "The root mean square of the change from mesh to mesh falls at order 2.00, formal 2. Of the area 100 % converges; mean local order 2.00.",
  );
  // A twentieth of the box at 64 holds all but 0.95 x 0.01 of 0.05 x 64.
  expect(where).toMatch(
    /^100 % of the estimated error lies within 0\.0050 m \(0\.050 of the smaller side\) of the boundary top, on 5\.0 % of the area\./,
  );
  expect(where).toMatch(/: 0\.010 m\/s\.$/);
  expect(brought).toBe("All meshes were brought to 20 × 20 as averages over its cells, which keep what the overlaps hold.");
  const [table] = found?.chapter.tables ?? [];
  expect(table.rows.map((r) => r[0])).toEqual(["40 × 40 less 80 × 80", "20 × 20 less 40 × 40"]);
  expect(table.rows[0][3]).toBeCloseTo(64 / 40 ** 2 - 64 / 80 ** 2, 6);
  const png = Buffer.from(found?.picture.pngBase64 ?? "", "base64");
  expect(png.subarray(1, 4).toString()).toBe("PNG");
  expect(found?.picture.title).toBe("Estimated error of the speed on 80 × 80, 1.0×10⁻⁶ to 0.010 m/s in decades");
});

test("one mesh alone has no such chapter", async () => {
  expect(await fieldChapter(folder, [await meshWith(8)], { formalOrder: 2, inTime: false })).toBeUndefined();
});

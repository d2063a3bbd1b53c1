import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, describe, expect, test } from "vitest";
import { gridQuality } from "../../core/dataset/gridQuality.ts";
import { readGridFile } from "../../core/formats/surface/readAny.ts";

const python = "/usr/bin/python3";
// Debian's python3-h5py writes HDF5 with a library of its own; without it these tests are left out.
const there = spawnSync(python, ["-c", "import h5py"]).status === 0;
const folder = mkdtempSync(path.join(tmpdir(), "tin-ruler-cgns-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const WRITER = `
import sys
import h5py
import numpy as np


def node(parent, name, label, data=None):
    group = parent.create_group(name)
    group.attrs["label"] = np.bytes_(label.ljust(32, "\\0"))
    group.attrs["name"] = np.bytes_(name.ljust(32, "\\0"))
    if data is not None:
        own = np.frombuffer(data.encode(), dtype=np.int8) if isinstance(data, str) else data
        group.create_dataset(" data", data=own, compression="gzip" if own.size > 8 else None)
    return group


with h5py.File(sys.argv[1], "w", libver="latest" if sys.argv[2] == "new" else None) as f:
    f.attrs["label"] = np.bytes_("Root Node of HDF5 File")
    node(f, "CGNSLibraryVersion", "CGNSLibraryVersion_t", np.array([4.4], dtype=np.float32))
    base = node(f, "Base", "CGNSBase_t", np.array([3, 3], dtype=np.int32))
    n = 5
    zone = node(base, "Zone", "Zone_t", np.array([[n, n, n], [n - 1, n - 1, n - 1], [0, 0, 0]], dtype=np.int64))
    node(zone, "ZoneType", "ZoneType_t", "Structured")
    k, j, i = np.meshgrid(np.arange(n), np.arange(n), np.arange(n), indexing="ij")
    grid = node(zone, "GridCoordinates", "GridCoordinates_t")
    for name, values in (("CoordinateX", 0.1 * i), ("CoordinateY", 0.2 * j), ("CoordinateZ", 0.3 * k)):
        node(grid, name, "DataArray_t", values.astype(np.float32 if sys.argv[2] == "new" else np.float64))
    flow = node(zone, "Flow", "FlowSolution_t")
    node(flow, "GridLocation", "GridLocation_t", "CellCenter")
    node(flow, "Pressure", "DataArray_t", np.arange((n - 1) ** 3, dtype=np.float64).reshape((n - 1,) * 3))
`;

describe.skipIf(!there)("files of the CGNS standard that another library wrote", () => {
  test.each(["old", "new"])("in the %s layout of the library, packed, are read with all their numbers", async (layout) => {
    const file = path.join(folder, `${layout}.cgns`);
    const made = spawnSync(python, ["-c", WRITER, file, layout], { encoding: "utf8" });
    expect(made.stderr).toBe("");
    const grid = await readGridFile(Uint8Array.from(readFileSync(file)));
    expect(grid.kinds.length).toBe(64);
    expect(gridQuality(grid).volume).toBeCloseTo(0.4 * 0.8 * 1.2, 6);
    expect([...grid.onCells[0].values]).toEqual(Array.from({ length: 64 }, (_, c) => c));
    // The first index runs along x: cell 1 lies beside cell 0 there.
    const corner = grid.corners[grid.cellStart[1]];
    expect(grid.points[3 * corner]).toBeCloseTo(0.1, 6);
  });
});

import { gzipSync, strToU8 } from "fflate";
import { describe, expect, test } from "vitest";
import { BENCH_PROBLEMS } from "../problems/build/catalogue.ts";
import { presetParameters } from "../problems/describe/catalogue.ts";
import { familyMesh } from "../problems/describe/problem.ts";
import { packMesh, unpackMesh } from "./meshFile.ts";

describe("meshes as files", () => {
  test.each(BENCH_PROBLEMS.map((p) => [p.id, p] as const))(
    "%s: every array comes back to the last bit, and the same mesh gives the same bytes",
    (_id, p) => {
      const mesh = p.mesh(presetParameters(p), familyMesh(p.family, p.family.baseNx, p.family.baseNy));
      const bytes = packMesh(mesh);
      const read = unpackMesh(bytes);
      for (const key of [
        "pointsM",
        "owner",
        "neighbour",
        "volumeM2",
        "centroidM",
        "areaVectorM",
        "faceCentreM",
        "facePoints",
        "cellStart",
        "cellPoints",
      ] as const) {
        expect(read[key], key).toEqual(mesh[key]);
        expect(read[key].constructor, key).toBe(mesh[key].constructor);
      }
      expect(read.boundaries).toEqual(mesh.boundaries);
      expect(read.periodic).toEqual(mesh.periodic);
      expect(packMesh(read)).toEqual(bytes);
    },
  );
  test("what is no mesh is refused with a reason", () => {
    expect(() => unpackMesh(Uint8Array.of(1, 2, 3))).toThrow("is no mesh file, or it is damaged");
    const file = (value: unknown) => gzipSync(strToU8(JSON.stringify(value)));
    expect(() => unpackMesh(file({ format: "other", mesh: {} }))).toThrow("is of format other");
    expect(() => unpackMesh(file({ format: "tin-ruler-mesh-1", mesh: { cellCount: 3 } }))).toThrow("incomplete");
  });
});

import { gunzipSync, gzipSync, strFromU8, strToU8 } from "fflate";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { fromPlain, toPlain } from "./wire.ts";

const FORMAT = "tin-ruler-mesh-1";

/**
 * A mesh as a file that holds all of it: fields stored with its hash are shown on the very mesh they were computed on, whatever a later
 * generator makes of the same counts. The same mesh gives the same bytes.
 */
export function packMesh(mesh: FaceMesh): Uint8Array {
  return gzipSync(strToU8(JSON.stringify({ format: FORMAT, mesh: toPlain(mesh) })), { level: 6, mtime: 0 });
}

/** @throws {RangeError} The bytes are no mesh of this format. */
export function unpackMesh(bytes: Uint8Array): FaceMesh {
  let read: { format?: unknown; mesh?: unknown };
  let mesh: FaceMesh;
  try {
    read = JSON.parse(strFromU8(gunzipSync(bytes)));
    mesh = fromPlain(read.mesh) as unknown as FaceMesh;
  } catch {
    throw new RangeError("The stored mesh cannot be read: it is no mesh file, or it is damaged.");
  }
  if (read.format !== FORMAT) throw new RangeError(`The stored mesh is of format ${String(read.format)}, not ${FORMAT}.`);
  if (!(mesh?.volumeM2?.length === mesh.cellCount && mesh.cellStart?.length === mesh.cellCount + 1))
    throw new RangeError("The stored mesh is incomplete.");
  return mesh;
}

import type { Grid } from "../../dataset/grid.ts";
import { readVtkGrid } from "../vtk/readGrid.ts";
import { readPly } from "./ply.ts";
import { readStl } from "./stl.ts";

/**
 * A grid or surface by what the file begins with: VTK's XML format, PLY, else STL.
 * @throws {GridFileError} it cannot be read, with the place
 */
export function readGridFile(bytes: Uint8Array): Grid {
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 200));
  if (/^(\xef\xbb\xbf)?\s*</.test(head)) return readVtkGrid(bytes);
  return /^ply\r?\n/.test(head) ? readPly(bytes) : readStl(bytes);
}

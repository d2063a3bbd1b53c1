import type { Grid } from "../../dataset/grid.ts";
import { isHdf5, withHdf5 } from "../cgns/hdf5.ts";
import { readCgns } from "../cgns/readCgns.ts";
import { readVtkGrid } from "../vtk/readGrid.ts";
import { GridFileError } from "../vtk/scan.ts";
import { readPly } from "./ply.ts";
import { readStl } from "./stl.ts";

/**
 * A grid or surface by what the file begins with: VTK's XML format, the CGNS standard in HDF5, PLY, else STL.
 * @throws {GridFileError} it cannot be read, with the place where there is one
 */
export const readGridFile = async (bytes: Uint8Array): Promise<Grid> => (isHdf5(bytes) ? withHdf5(bytes, readCgns) : readPlainGrid(bytes));

/** The cells of a file: VTK's XML format or the CGNS standard. @throws {GridFileError} it cannot be read */
export const readCellsFile = async (bytes: Uint8Array): Promise<Grid> => (isHdf5(bytes) ? withHdf5(bytes, readCgns) : readVtkGrid(bytes));

/** A grid or surface of what needs no package to be read: all but the CGNS standard. @throws {GridFileError} it cannot be read */
export function readPlainGrid(bytes: Uint8Array): Grid {
  const head = new TextDecoder("latin1").decode(bytes.subarray(0, 200));
  if (/ADF Database/.test(head))
    throw new GridFileError("This is the older form of the CGNS standard (ADF); write it in HDF5, as every newer writer of the standard does.");
  if (/^(\xef\xbb\xbf)?\s*</.test(head)) return readVtkGrid(bytes);
  return /^ply\r?\n/.test(head) ? readPly(bytes) : readStl(bytes);
}

import type { FaceMesh } from "../mesh/faceMesh.ts";
import { dataArray, dataElement } from "./vtkText.ts";

const POLYGON = 7;

/**
 * A plane mesh with cell fields as an unstructured grid in VTK's documented XML format, readable numbers.
 * @source VTK File Formats, section "XML File Formats", UnstructuredGrid
 */
export function writeVtkGrid(mesh: FaceMesh, fields: readonly { readonly name: string; readonly values: ArrayLike<number> }[]): string {
  const { pointsM, cellStart, cellPoints, cellCount } = mesh;
  const points = new Float64Array((3 * pointsM.length) / 2);
  for (let p = 0; p < pointsM.length; p += 2) points.set(pointsM.subarray(p, p + 2), (3 * p) / 2);
  const cells = Array.from({ length: cellCount }, (_, c) => Array.from(cellPoints.subarray(cellStart[c], cellStart[c + 1])).join(" "));
  return `<?xml version="1.0"?>
<VTKFile type="UnstructuredGrid" version="0.1" byte_order="LittleEndian">
<UnstructuredGrid>
<Piece NumberOfPoints="${pointsM.length / 2}" NumberOfCells="${cellCount}">
<Points>
${dataArray("Float64", "Points", 3, points)}
</Points>
<Cells>
${dataElement("Int32", "connectivity", 1, cells.join("\n"))}
${dataElement("Int32", "offsets", 1, Array.from(cellStart.subarray(1)).join(" "))}
${dataElement("UInt8", "types", 1, new Array(cellCount).fill(POLYGON).join(" "))}
</Cells>
<CellData>
${fields.map((f) => dataArray("Float64", f.name, 1, f.values)).join("\n")}
</CellData>
</Piece>
</UnstructuredGrid>
</VTKFile>
`;
}

import { CELL_KINDS, type Grid } from "../../dataset/grid.ts";
import { dataArray } from "../vtkText.ts";

/**
 * A grid of any cells but polyhedra in VTK's documented XML format for unstructured ones, readable numbers.
 * @throws {RangeError} it has polyhedra
 * @source VTK File Formats, section "XML File Formats", UnstructuredGrid
 */
export function writeVtkCells({ points, kinds, cellStart, corners, polyhedra, onPoints, onCells }: Grid): string {
  if (polyhedra.size) throw new RangeError(`A ${CELL_KINDS[42].name} is not written.`);
  const arrays = (list: Grid["onCells"]) => list.map((a) => dataArray("Float64", a.name, a.components, a.values)).join("\n");
  return `<?xml version="1.0"?>
<VTKFile type="UnstructuredGrid" version="0.1" byte_order="LittleEndian">
<UnstructuredGrid>
<Piece NumberOfPoints="${points.length / 3}" NumberOfCells="${kinds.length}">
<Points>
${dataArray("Float64", "Points", 3, points)}
</Points>
<Cells>
${dataArray("Int32", "connectivity", 1, corners)}
${dataArray("Int32", "offsets", 1, cellStart.subarray(1))}
${dataArray("UInt8", "types", 1, kinds)}
</Cells>
<PointData>
${arrays(onPoints)}
</PointData>
<CellData>
${arrays(onCells)}
</CellData>
</Piece>
</UnstructuredGrid>
</VTKFile>
`;
}

import type { FaceMesh } from "../mesh/faceMesh.ts";

const POLYGON = 7;

/** Text that is safe inside an XML attribute. */
export const attribute = (text: string) => text.replace(/[<>&"']/g, (c) => `&#${c.charCodeAt(0)};`);

/**
 * A plane mesh with cell fields as an unstructured grid in VTK's documented XML format, readable numbers.
 * @source VTK File Formats, section "XML File Formats", UnstructuredGrid
 */
export function writeVtkGrid(mesh: FaceMesh, fields: readonly { readonly name: string; readonly values: ArrayLike<number> }[]): string {
  const { pointsM, cellStart, cellPoints, cellCount } = mesh;
  const points: string[] = [];
  for (let p = 0; p < pointsM.length; p += 2) points.push(`${pointsM[p]} ${pointsM[p + 1]} 0`);
  const array = (type: string, name: string, body: string, components = 1) =>
    `<DataArray type="${type}" Name="${attribute(name)}" NumberOfComponents="${components}" format="ascii">\n${body}\n</DataArray>`;
  const cells = Array.from({ length: cellCount }, (_, c) => Array.from(cellPoints.subarray(cellStart[c], cellStart[c + 1])).join(" "));
  return `<?xml version="1.0"?>
<VTKFile type="UnstructuredGrid" version="0.1" byte_order="LittleEndian">
<UnstructuredGrid>
<Piece NumberOfPoints="${pointsM.length / 2}" NumberOfCells="${cellCount}">
<Points>
${array("Float64", "Points", points.join("\n"), 3)}
</Points>
<Cells>
${array("Int32", "connectivity", cells.join("\n"))}
${array("Int32", "offsets", Array.from(cellStart.subarray(1)).join(" "))}
${array("UInt8", "types", new Array(cellCount).fill(POLYGON).join(" "))}
</Cells>
<CellData>
${fields.map((f) => array("Float64", f.name, Array.from(f.values).join("\n"))).join("\n")}
</CellData>
</Piece>
</UnstructuredGrid>
</VTKFile>
`;
}

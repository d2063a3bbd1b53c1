import { faceCount, type Surface } from "../../dataset/surface.ts";
import { dataArray } from "../vtkText.ts";

/** An array of a surface's points or faces. */
export interface SurfaceArrayOut {
  readonly name: string;
  readonly on: "points" | "faces";
  readonly components: 1 | 3;
  readonly values: ArrayLike<number>;
  /** whole numbers, written as such */
  readonly whole?: boolean;
}

/**
 * A surface with arrays on its points and faces as polygons in VTK's documented XML format, readable numbers.
 * @source VTK File Formats, section "XML File Formats", PolyData
 */
export function writeVtkSurface(surface: Surface, arrays: readonly SurfaceArrayOut[]): string {
  const written = (on: SurfaceArrayOut["on"]) =>
    arrays.filter((a) => a.on === on).map((a) => dataArray(a.whole ? "Int32" : "Float64", a.name, a.components, a.values));
  return `<?xml version="1.0"?>
<VTKFile type="PolyData" version="0.1" byte_order="LittleEndian">
<PolyData>
<Piece NumberOfPoints="${surface.points.length / 3}" NumberOfVerts="0" NumberOfLines="0" NumberOfStrips="0" NumberOfPolys="${faceCount(surface)}">
<Points>
${dataArray("Float64", "Points", 3, surface.points)}
</Points>
<Polys>
${dataArray("Int32", "connectivity", 1, surface.corners)}
${dataArray("Int32", "offsets", 1, surface.start.subarray(1))}
</Polys>
<PointData>
${written("points").join("\n")}
</PointData>
<CellData>
${written("faces").join("\n")}
</CellData>
</Piece>
</PolyData>
</VTKFile>
`;
}

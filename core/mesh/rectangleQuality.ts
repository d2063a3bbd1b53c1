import { gridLines } from "./grading.ts";
import type { MeshQuality } from "./quality.ts";
import { representativeSpacing } from "./quality.ts";
import type { RectangleSpec } from "./rectangle.ts";

function steps(lines: Float64Array): { smallest: number; largest: number; growth: number } {
  let smallest = Number.POSITIVE_INFINITY;
  let largest = 0;
  let growth = 1;
  for (let i = 0; i + 1 < lines.length; i++) {
    const d = lines[i + 1] - lines[i];
    smallest = Math.min(smallest, d);
    largest = Math.max(largest, d);
    if (i > 0) {
      const before = lines[i] - lines[i - 1];
      growth = Math.max(growth, d / before, before / d);
    }
  }
  return { smallest, largest, growth };
}

/** Quality of a graded rectangle from its grid lines alone, without building the mesh; equal to `meshQuality` of it. */
export function rectangleQuality(spec: RectangleSpec): MeshQuality {
  const x = steps(gridLines(spec.lengthM, spec.nx, spec.gradingX));
  const y = steps(gridLines(spec.heightM, spec.ny, spec.gradingY));
  const totalVolumeM2 = spec.lengthM * spec.heightM;
  const cells = spec.nx * spec.ny;
  return {
    cells,
    spacingM: representativeSpacing(totalVolumeM2, cells, 2),
    smallestEdgeM: Math.min(x.smallest, y.smallest),
    largestEdgeM: Math.max(x.largest, y.largest),
    aspectRatio: Math.max(x.largest / y.smallest, y.largest / x.smallest),
    neighbourVolumeRatio: Math.max(x.growth, y.growth),
    nonOrthogonalityDeg: 0,
    totalVolumeM2,
  };
}

import { writeVtkGrid } from "../core/formats/vtkGrid.ts";
import { shapedRectangle } from "../core/mesh/shaped.ts";
import { wakeField } from "../core/problems/truth/wake.ts";

/** What stands behind the made-up results of Lintel in the wake of the strips: the exact field with an error of second order, largest near the strips. */
export const LINTEL_WAKE = { error: 0.35, meshes: [24, 36, 54] } as const;

type Wake = Parameters<typeof wakeField>[0];

export interface WakeRun {
  readonly label: string;
  readonly cells: number;
  /** area meshed, m^2 */
  readonly areaM2: number;
  /** mesh and fields, VTK XML */
  readonly grid: string;
  /** values and error norms: name, value, unit */
  readonly quantities: string;
}

/** How far Lintel is off at a point, in mean velocities: falls with the square of the spacing. */
export function lintelError(p: Wake, spacingM: number, x: number, y: number): number {
  const [X, Y] = [x / p.spacingM, y / p.spacingM];
  return LINTEL_WAKE.error * (spacingM / p.spacingM) ** 2 * Math.exp(-2 * X) * Math.cos(2 * Math.PI * Y);
}

/** Lintel's results on honeycombs, made up with a known truth. */
export function wakeRuns(p: Wake): WakeRun[] {
  const field = wakeField(p);
  const uniform = { kind: "uniform" } as const;
  const [lengthM, heightM] = [1.5 * p.spacingM, p.spacingM];
  return LINTEL_WAKE.meshes.map((nx) => {
    const ny = (2 * nx) / 3;
    const mesh = shapedRectangle({ lengthM, heightM, nx, ny, gradingX: uniform, gradingY: uniform, periodicX: false }, "hexagons");
    const spacing = Math.sqrt((lengthM * heightM) / mesh.cellCount);
    const at = (c: number) => [mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1]] as const;
    const every = <T>(of: (c: number) => T) => Array.from({ length: mesh.cellCount }, (_, c) => of(c));
    const error = every((c) => p.velocityMS * lintelError(p, spacing, ...at(c)));
    const values = [
      { name: "u", values: every((c) => field.u(...at(c)) + error[c]) },
      { name: "v", values: every((c) => field.v(...at(c))) },
      { name: "p", values: every((c) => field.p(...at(c)) / p.densityKgM3) },
    ];
    const scale = every((c) => Math.abs(field.u(...at(c)))).reduce((a, b) => Math.max(a, b), 0);
    const whole = mesh.volumeM2.reduce((s, v) => s + v, 0);
    const mean = (power: number) => (error.reduce((s, e, c) => s + mesh.volumeM2[c] * Math.abs(e) ** power, 0) / whole) ** (1 / power);
    const place = [0.61 * p.spacingM, 0.29 * p.spacingM] as const;
    const rows: [string, number, string][] = [
      ["velocity at a fixed point", field.u(...place) + p.velocityMS * lintelError(p, spacing, ...place), "m/s"],
      ["cross velocity at a fixed point", field.v(...place), "m/s"],
      ["L1 error of u", mean(1), "m/s"],
      ["L2 error of u", mean(2), "m/s"],
      ["Linf error of u", error.reduce((a, e) => Math.max(a, Math.abs(e)), 0), "m/s"],
      ["largest exact value of u", scale, "m/s"],
    ];
    return {
      label: `honeycomb of ${mesh.cellCount}`,
      cells: mesh.cellCount,
      areaM2: whole,
      grid: writeVtkGrid(mesh, values),
      quantities: `name,value,unit\n${rows.map(([n, v, u]) => `${n},${v},${u}`).join("\n")}\n`,
    };
  });
}

import type { FaceMesh } from "../mesh/faceMesh.ts";
import type { FlowLevel } from "../solver/incompressible/flowLevel.ts";

/** The named boundary of a mesh. @throws {RangeError} There is none of that name. */
export function boundaryOf(mesh: Pick<FaceMesh, "boundaries">, name: string) {
  const found = mesh.boundaries.find((b) => b.name === name);
  if (!found) throw new RangeError(`There is no boundary "${name}".`);
  return found;
}

/** Force of the fluid on a boundary over density, by pressure and by shear, and its moment about a point, m^3/s^2 (m^4/s^2) per depth. */
export function forceOn(mesh: FaceMesh, level: FlowLevel, name: string, about: readonly [number, number] = [0, 0]) {
  const b = boundaryOf(mesh, name);
  const pressure: [number, number] = [0, 0];
  const shear: [number, number] = [0, 0];
  let moment = 0;
  for (let f = b.start; f < b.start + b.count; f++) {
    // Terms are what leaves the fluid: momentum given to the wall.
    const t = level.boundaryTerms(f);
    const moved = level.transposedShear(f);
    for (const k of [0, 1] as const) {
      pressure[k] += t.pressure[k];
      shear[k] += t.shear[k] + moved[k];
    }
    const x = mesh.faceCentreM[2 * f] - about[0];
    const y = mesh.faceCentreM[2 * f + 1] - about[1];
    moment += x * (t.pressure[1] + t.shear[1] + moved[1]) - y * (t.pressure[0] + t.shear[0] + moved[0]);
  }
  return { pressure, shear, total: [pressure[0] + shear[0], pressure[1] + shear[1]] as const, moment };
}

/** Diffusive flow of a transported quantity out through a boundary, quantity times m^2/s per depth. */
export function diffusionOut(mesh: FaceMesh, level: FlowLevel, scalar: number, name: string): number {
  const b = boundaryOf(mesh, name);
  let sum = 0;
  for (let f = b.start; f < b.start + b.count; f++) sum += level.scalars[scalar].boundaryTerms(f, level.flux).diffused;
  return sum;
}

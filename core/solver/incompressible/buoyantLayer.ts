import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { FlowPhysics } from "./flowPhysics.ts";
import { givenAt, type ScalarPhysics } from "./scalarField.ts";

/** Difference of a transported quantity that its boundaries bring about: between their values, or what their fluxes need over the length. */
function differenceOf(mesh: FaceMesh, q: ScalarPhysics, lengthM: number): number {
  let [low, high, flux] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0];
  for (const b of mesh.boundaries) {
    const condition = q.conditions[b.name];
    if (!condition) continue;
    for (let f = b.start; f < b.start + b.count; f++) {
      if (condition.kind === "value") {
        const value = givenAt(condition.value, mesh, f, 0);
        low = Math.min(low, value);
        high = Math.max(high, value);
      } else flux = Math.max(flux, Math.abs(givenAt(condition.outward, mesh, f, 0)));
    }
  }
  return Math.max(high > low ? high - low : 0, q.diffusivity > 0 ? (flux * lengthM) / q.diffusivity : 0);
}

/**
 * Thickness of the layers that buoyancy leaves on the walls of a room, m: its size over the fourth root of its Rayleigh number. Infinite where
 * nothing rises.
 * @source Gill, J. Fluid Mech. 26 (1966) 515.
 */
export function buoyantLayerM(mesh: FaceMesh, physics: FlowPhysics): number {
  const lengthM = Math.sqrt(mesh.volumeM2.reduce((a, b) => a + b, 0));
  let thinnest = Number.POSITIVE_INFINITY;
  for (const q of physics.scalars ?? []) {
    if (!q.buoyancy) continue;
    const rayleigh =
      (Math.hypot(...q.buoyancy) * differenceOf(mesh, q, lengthM) * lengthM ** 3) / (physics.kinematicViscosity * Math.max(q.diffusivity, 1e-300));
    if (rayleigh > 1) thinnest = Math.min(thinnest, lengthM / rayleigh ** 0.25);
  }
  return thinnest;
}

/** The longest extent of any cell, along x or y, m. */
export function longestCellM({
  owner,
  neighbour,
  faceCentreM,
  centroidM,
}: Pick<FaceMesh, "owner" | "neighbour" | "faceCentreM" | "centroidM">): number {
  let longest = 0;
  const reach = (f: number, c: number) => {
    for (const k of [0, 1]) longest = Math.max(longest, 2 * Math.abs(faceCentreM[2 * f + k] - centroidM[2 * c + k]));
  };
  for (let f = 0; f < owner.length; f++) {
    reach(f, owner[f]);
    if (f < neighbour.length && neighbour[f] >= 0) reach(f, neighbour[f]);
  }
  return longest;
}

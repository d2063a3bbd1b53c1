import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { BalanceRecord, BoundaryFlux } from "../../records/balance.ts";
import { OUTLET } from "../discrete/boundaryConditions.ts";
import type { ReadableFlow, ReadablePhysics } from "./readable.ts";

/**
 * Fluxes through every boundary as the discrete equations of a flow see them, and what the volume adds. Call after `evaluate`.
 * Stress around the axis of a revolved mesh is no boundary's: it is left out of the radial balance, which is not asked for then.
 */
export function flowBalance(mesh: FaceMesh, level: ReadableFlow, physics: ReadablePhysics): BalanceRecord {
  const rho = physics.densityKgM3 ?? 1;
  const plane = mesh.hoopM2 === undefined;
  let reference = 0;
  const kindOf = (name: string) => physics.boundaries[name]?.kind ?? "";
  const closed = (name: string) => ["wall", "moving-wall", "symmetry"].includes(kindOf(name));
  const rows: BoundaryFlux[] = mesh.boundaries.map((b) => {
    let mass = 0;
    let back = 0;
    const x: [number, number, number] = [0, 0, 0];
    const y: [number, number, number] = [0, 0, 0];
    const scalars = Object.fromEntries(level.scalars.map((q) => [q.physics.key, [0, 0] as [number, number]]));
    for (let f = b.start; f < b.start + b.count; f++) {
      const t = level.boundaryTerms(f);
      mass += rho * t.mass;
      if (t.mass < 0 && level.boundary.type[f - mesh.joinCount] === OUTLET) back -= rho * t.mass;
      [t.momentum, t.pressure, t.shear].forEach((part, k) => {
        x[k] += rho * part[0];
        y[k] += rho * part[1];
        reference += rho * Math.hypot(part[0], part[1]);
      });
      for (const q of level.scalars) {
        const s = q.boundaryTerms(f, level.flux);
        scalars[q.physics.key][0] += s.carried;
        scalars[q.physics.key][1] += s.diffused;
      }
    }
    return {
      name: b.name,
      ...(closed(b.name) ? { closed: true } : {}),
      ...(kindOf(b.name) === "outlet" ? { outlet: true } : {}),
      mass,
      ...(back > 0 ? { massBack: back } : {}),
      momentumX: x,
      ...(plane ? { momentumY: y } : {}),
      ...(level.scalars.length ? { scalars } : {}),
    };
  });
  for (const pair of mesh.periodic) {
    let mass = 0;
    for (let f = pair.firstJoin; f < pair.firstJoin + pair.count; f++) mass += rho * level.flux[f];
    const [into, out] = pair.names;
    rows.unshift({ name: `${into} (joined)`, mass: -mass }, { name: `${out} (joined)`, mass });
  }
  const swirl = level.flux.reduce((top, q) => Math.max(top, Math.abs(q)), 0);
  const [fx, fy] = level.volumeForces();
  const [ax, ay] = level.accelerated();
  const rate = level.time?.rate ?? 0;
  const inside = level.scalars.map((q) => [q.physics.key, q.volumeTerms(rate)] as const);
  return {
    boundaries: rows,
    bodyForce: [rho * fx, rho * fy],
    ...(inside.some(([, t]) => t.source !== 0) ? { sources: Object.fromEntries(inside.map(([k, t]) => [k, t.source])) } : {}),
    ...(level.time
      ? { storage: { momentum: [rho * ax, rho * ay] as const, scalars: Object.fromEntries(inside.map(([k, t]) => [k, t.stored])) } }
      : {}),
    momentumReference: reference,
    massReference: rho * swirl,
  };
}

import type { FaceMesh } from "../../mesh/faceMesh.ts";
import type { BalanceRecord } from "../../records/balance.ts";
import type { LawReading } from "../../records/laws.ts";
import type { ReadableFlow, ReadablePhysics } from "./readable.ts";

import { samplerOf } from "./sampler.ts";
/** Mass through walls and lines of symmetry over what passes the open boundaries. */
export function wallFlow(record: BalanceRecord): LawReading[] {
  const closed = record.boundaries.filter((b) => b.closed && b.mass !== undefined);
  if (!closed.length) return [];
  const open = record.boundaries.filter((b) => !b.closed).reduce((s, b) => s + Math.abs(b.mass ?? 0), 0) / 2;
  const through = Math.max(open, record.massReference ?? 0);
  if (!(through > 0)) return [];
  return [{ law: "wall-flow", share: closed.reduce((s, b) => s + Math.abs(b.mass ?? 0), 0) / through }];
}

/**
 * Total pressure of a steady flow on which nothing does work: by the maximum principle of the Navier-Stokes equations it is nowhere higher than on the
 * boundary. Moving walls, body forces and buoyancy do work; then nothing is said.
 * @source Serrin, Handbuch der Physik VIII/1 (1959), section 73: u . grad H = nu laplacian(H) - nu omega^2.
 */
export function totalPressureLaw(mesh: FaceMesh, level: ReadableFlow, physics: ReadablePhysics): LawReading[] {
  const works =
    level.time !== undefined ||
    physics.bodyForce.some((f) => f !== 0) ||
    level.forced ||
    level.scalars.some((q) => q.physics.buoyancy || q.physics.swirl) ||
    Object.values(physics.boundaries).some((b) => b.kind === "moving-wall");
  const open = Object.values(physics.boundaries).some((b) => b.kind === "outlet");
  if (works || !open || mesh.periodic.length) return [];
  const { u, v, p } = level.boundary;
  let [high, low] = [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let b = 0; b < p.length; b++) {
    const h = p[b] + 0.5 * (u[b] ** 2 + v[b] ** 2);
    high = Math.max(high, h);
    low = Math.min(low, h);
  }
  let top = Number.NEGATIVE_INFINITY;
  for (let c = 0; c < level.u.length; c++) top = Math.max(top, level.p[c] + 0.5 * (level.u[c] ** 2 + level.v[c] ** 2));
  return high > low ? [{ law: "total-pressure", share: Math.max(0, top - high) / (high - low) }] : [];
}

/** How a set-up maps onto itself: where a point goes, and how the velocity there is turned. */
export interface Mirror {
  readonly point: (xM: number, yM: number) => readonly [number, number];
  readonly velocity: readonly [1 | -1, 1 | -1];
}

/** Largest departure of a velocity field from its own mirror image, over the largest velocity. */
export function mirrorLaw(mesh: FaceMesh, u: Float64Array, v: Float64Array, mirror: Mirror): LawReading[] {
  const { centroidM, cellCount } = mesh;
  const points = new Float64Array(2 * cellCount);
  for (let c = 0; c < cellCount; c++) points.set(mirror.point(centroidM[2 * c], centroidM[2 * c + 1]), 2 * c);
  const sampler = samplerOf(mesh);
  const [mu, mv] = [sampler.at(u, points), sampler.at(v, points)];
  let [off, top] = [0, 0];
  for (let c = 0; c < cellCount; c++) {
    off = Math.max(off, Math.hypot(u[c] - mirror.velocity[0] * mu[c], v[c] - mirror.velocity[1] * mv[c]));
    top = Math.max(top, Math.hypot(u[c], v[c]));
  }
  return top > 0 ? [{ law: "mirror", share: off / top }] : [];
}

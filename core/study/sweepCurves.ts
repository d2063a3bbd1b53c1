import type { QuantitySpec } from "../records/quantity.ts";
import type { SweepCurve, SweepRuns } from "../records/sweepCurve.ts";

/** places closer than this share of their size are one */
const SAME = 1e-9;
/** with two meshes the order is assumed, and three times the estimated error stands for 95 % (method 3) */
const SAFETY = 3;

export const isSamePlace = (a: number, b: number): boolean => Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b));

/**
 * Sweeps over one condition as curves: for each condition the finest mesh that has two places or more; runs of several sweeps on one mesh are one
 * curve. Where a coarser mesh has a place as well, the difference of the two at the formal order gives its mesh uncertainty.
 */
export function sweepCurves(sweeps: readonly SweepRuns[], quantities: readonly QuantitySpec[], formalOrder: number): SweepCurve[] {
  const axes = [...new Set(sweeps.map((s) => s.axis.key))];
  return axes.flatMap((key) => {
    const meshes = byMesh(sweeps.filter((s) => s.axis.key === key)).sort((a, b) => a.mesh.spacing - b.mesh.spacing);
    return quantities.flatMap((q) => {
      const having = meshes.map((m) => ({ ...m, points: rising(m, q.key) })).filter((m) => m.points.length > 1);
      const [finest, ...coarser] = having;
      return finest ? [curveOf(finest, coarser[0], q, formalOrder)] : [];
    });
  });
}

function byMesh(sweeps: readonly SweepRuns[]): SweepRuns[] {
  const meshes = new Map<string, SweepRuns>();
  for (const s of sweeps) {
    const known = meshes.get(s.mesh.label);
    meshes.set(s.mesh.label, known ? { ...known, points: [...known.points, ...s.points] } : s);
  }
  return [...meshes.values()];
}

interface Placed {
  readonly at: number;
  readonly value: number;
}

/** Places with their values, rising; of a place that was run twice the later run. */
function rising({ points }: SweepRuns, quantityKey: string): Placed[] {
  const placed: Placed[] = [];
  for (const p of points) {
    const value = p.quantities[quantityKey];
    if (!Number.isFinite(value)) continue;
    const known = placed.findIndex((o) => isSamePlace(o.at, p.at));
    if (known >= 0) placed[known] = { at: p.at, value };
    else placed.push({ at: p.at, value });
  }
  return placed.sort((a, b) => a.at - b.at);
}

type Curve = Omit<SweepRuns, "points"> & { readonly points: readonly Placed[] };

function curveOf({ axis, mesh, points }: Curve, coarser: Curve | undefined, q: QuantitySpec, order: number): SweepCurve {
  const ratio = coarser ? coarser.mesh.spacing / mesh.spacing : 1;
  const pairs = points.flatMap((p) => {
    const other = coarser?.points.find((o) => isSamePlace(o.at, p.at));
    return other && ratio > 1 ? [{ at: p.at, band: (SAFETY * Math.abs(p.value - other.value)) / (ratio ** order - 1) }] : [];
  });
  return {
    axisKey: axis.key,
    mesh,
    profile: {
      key: `sweep-${axis.key}-${q.key}`,
      name: `${q.name} over ${axis.label}`,
      abscissa: { name: axis.label, unit: axis.unit, values: points.map((p) => p.at) },
      value: { name: q.name, unit: q.unit, values: points.map((p) => p.value) },
    },
    ...(pairs.length > 1 ? { band: { at: pairs.map((p) => p.at), band: pairs.map((p) => p.band) } } : {}),
  };
}

/** Places of a yardstick that no run lies at, within what the yardstick is believed. */
export function placesNotRun(reference: readonly number[], run: readonly number[]): number[] {
  return [...new Set(reference)].filter((at) => !run.some((x) => isSamePlace(x, at))).sort((a, b) => a - b);
}

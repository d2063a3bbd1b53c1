import type { QuantitySpec } from "../records/quantity.ts";
import type { SweepCurve, SweepRuns } from "../records/sweepCurve.ts";

/** places closer than this share of their size are one */
const SAME = 1e-9;
/** with two meshes the order is assumed, and three times the estimated error stands for 95 % (method 3) */
const SAFETY = 3;

export const isSamePlace = (a: number, b: number): boolean => Math.abs(a - b) <= SAME * Math.max(Math.abs(a), Math.abs(b));

/** meshes whose spacings are closer than this count as one: between them an order would be noise (method 3) */
const ONE_MESH = 1.1;

/**
 * Sweeps over one condition as curves: for each condition and code the finest mesh that has two places or more; runs of several sweeps on one mesh are one
 * curve. Where a coarser mesh has a place as well, the difference of the two at the formal order gives its mesh uncertainty.
 */
export function sweepCurves(sweeps: readonly SweepRuns[], quantities: readonly QuantitySpec[], formalOrder: number): SweepCurve[] {
  const sets = [...new Set(sweeps.map(setOf))];
  const curves = sets.flatMap((set) => {
    const meshes = byMesh(sweeps.filter((s) => setOf(s) === set)).sort((a, b) => a.mesh.spacing - b.mesh.spacing);
    return quantities.flatMap((q) => {
      const having = meshes.map((m) => ({ ...m, points: rising(m, q.key) })).filter((m) => m.points.length > 1);
      const [finest, ...coarser] = having;
      return finest ? [curveOf(finest, coarser[0], q, formalOrder)] : [];
    });
  });
  return curves.map((c) => ({ ...c, leading: curves.find((o) => o.profile.key === c.profile.key) === c }));
}

const BENCH = "bench";
const setOf = ({ axis, code = BENCH }: SweepRuns) => `${axis.key} ${code}`;

function byMesh(sweeps: readonly SweepRuns[]): SweepRuns[] {
  if (sweeps.some((s) => s.code !== undefined)) return bySpacing(sweeps);
  const meshes = new Map<string, SweepRuns>();
  for (const s of sweeps) {
    const known = meshes.get(s.mesh.label);
    meshes.set(s.mesh.label, known ? { ...known, points: [...known.points, ...s.points] } : s);
  }
  return [...meshes.values()];
}

/** Meshes of other codes are known by their cells alone, and seldom have the same number at every place. */
function bySpacing(sweeps: readonly SweepRuns[]): SweepRuns[] {
  const meshes: SweepRuns[] = [];
  for (const s of [...sweeps].sort((a, b) => a.mesh.spacing - b.mesh.spacing)) {
    const last = meshes.at(-1);
    if (last && s.mesh.spacing < ONE_MESH * last.mesh.spacing) meshes[meshes.length - 1] = { ...last, points: [...last.points, ...s.points] };
    else meshes.push(s);
  }
  return meshes;
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

function curveOf(
  { axis, mesh, points, code = BENCH }: Curve,
  coarser: Curve | undefined,
  q: QuantitySpec,
  order: number,
): Omit<SweepCurve, "leading"> {
  const ratio = coarser ? coarser.mesh.spacing / mesh.spacing : 1;
  const pairs = points.flatMap((p) => {
    const other = coarser?.points.find((o) => isSamePlace(o.at, p.at));
    return other && ratio > 1 ? [{ at: p.at, band: (SAFETY * Math.abs(p.value - other.value)) / (ratio ** order - 1) }] : [];
  });
  const key = `sweep-${axis.key}-${q.key}`;
  return {
    id: code === BENCH ? key : `${key} ${code}`,
    axisKey: axis.key,
    code,
    mesh,
    profile: {
      key,
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

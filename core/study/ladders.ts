import type { CaseEvidence } from "../records/case.ts";
import { FINISHED, type RunEvidence } from "../records/run.ts";

/** What the runs of a ladder differ in. */
export type LadderAxis = "mesh" | "mesh-x" | "mesh-y" | "time-step" | "domain" | "tolerance" | "scheme" | "flux" | "limiter" | "shape";

/** An axis with a direction: finer runs have smaller positions, and an order can be observed along it. */
export const ORDERED: readonly LadderAxis[] = ["mesh", "mesh-x", "mesh-y", "time-step", "domain", "tolerance"];

export const AXIS_WORDS: Readonly<Record<LadderAxis, string>> = {
  mesh: "mesh spacing",
  "mesh-x": "cells along x alone",
  "mesh-y": "cells along y alone",
  "time-step": "time step",
  domain: "extent of the domain",
  tolerance: "stopping tolerance",
  scheme: "convective scheme",
  flux: "flux across faces",
  limiter: "limiter",
  shape: "cell shape",
};

/** Settings an axis stands for: runs of a ladder agree in all others. */
const COVERED: Readonly<Record<LadderAxis, readonly string[]>> = {
  mesh: ["nx", "ny", "cells", "spacing"],
  "mesh-x": ["nx", "cells", "spacing"],
  "mesh-y": ["ny", "cells", "spacing"],
  "time-step": ["Courant number", "time step"],
  domain: ["domain", "nx", "ny", "cells", "spacing"],
  tolerance: ["orders"],
  scheme: ["scheme", "scheme order"],
  flux: ["flux"],
  limiter: ["limiter"],
  shape: ["shape", "cells", "spacing"],
};

export interface LadderRun {
  readonly run: RunEvidence;
  /** spacing in m, one over a count, a time step in s or a Courant number, one over an extent, a tolerance; absent on an axis of names */
  readonly position?: number;
  /** where it stands, in words */
  readonly place: string;
}

/** Runs that differ in one thing, the finest first; names in their order. */
export interface Ladder {
  readonly key: string;
  readonly axis: LadderAxis;
  readonly runs: readonly LadderRun[];
}

/** Runs that differ in mesh and time step alone. */
export interface PlaneRun {
  readonly run: RunEvidence;
  readonly spacing: number;
  /** s; of the bench in its own measure, Courant number times spacing */
  readonly step: number;
}

/** The largest set of runs that differ in nothing but mesh and time step, refined alike in both directions; of equals the first. */
export function spaceTimeRuns(e: Pick<CaseEvidence, "runs" | "questionHash" | "leftOut">): PlaneRun[] {
  const placed = answering(e).flatMap((run) => {
    const { "time step": step, "Courant number": courant } = run.made ?? {};
    const spacing = run.mesh?.spacing;
    if (!spacing) return [];
    if (typeof step === "number") return [{ run, spacing, step }];
    return typeof courant === "number" ? [{ run, spacing, step: courant * spacing }] : [];
  });
  const covered = [...COVERED.mesh, ...COVERED["time-step"]];
  const sets = Object.values(groupedBy(placed, (p) => JSON.stringify([aspect(p.run), restOf(p.run, covered)])));
  const at = (p: PlaneRun) => `${p.spacing.toPrecision(6)} ${p.step.toPrecision(6)}`;
  const newestOf = (set: readonly PlaneRun[]) =>
    Object.values(groupedBy(set, at)).map((same) => same.reduce((a, b) => ((b.run.finishedAt ?? "") >= (a.run.finishedAt ?? "") ? b : a)));
  const [most = []] = sets.map(newestOf).sort((a, b) => b.length - a.length);
  return [...most].sort((a, b) => a.spacing - b.spacing || a.step - b.step);
}

/** A run that stands on no ladder, and what it differs in from the finest run of the case. */
export interface ApartRun {
  readonly runId: string;
  readonly label: string;
  readonly differs: readonly string[];
}

type Made = Readonly<Record<string, string | number>>;

/** All settings of a run that a ladder may vary. A run that says nothing of its mesh shares it with no other. */
const settingsOf = (r: RunEvidence): Made => ({
  ...r.made,
  cells: r.mesh?.cells ?? r.id,
  spacing: r.mesh ? r.mesh.spacing.toPrecision(6) : r.id,
});

function placeOn(axis: LadderAxis, r: RunEvidence): Omit<LadderRun, "run"> | undefined {
  const made = r.made ?? {};
  const number = (name: string) => (typeof made[name] === "number" ? made[name] : undefined);
  const [nx, ny, step, courant, orders, domain] = ["nx", "ny", "time step", "Courant number", "orders", "domain"].map(number);
  const named = (value: string | number | undefined) => (value === undefined ? undefined : { place: String(value) });
  switch (axis) {
    case "mesh":
      return r.mesh && { position: r.mesh.spacing, place: r.mesh.label };
    case "mesh-x":
      return nx === undefined ? undefined : { position: 1 / nx, place: `${nx} along x` };
    case "mesh-y":
      return ny === undefined ? undefined : { position: 1 / ny, place: `${ny} along y` };
    case "time-step":
      return step !== undefined
        ? { position: step, place: `${step} s` }
        : courant === undefined
          ? undefined
          : { position: courant, place: `Courant number ${courant}` };
    case "domain":
      return domain === undefined ? undefined : { position: 1 / domain, place: `extent ${domain}` };
    case "tolerance":
      return orders === undefined ? undefined : { position: 10 ** -orders, place: `${orders} orders` };
    case "scheme":
      return named(made.scheme ?? (made["scheme order"] === undefined ? undefined : `order ${made["scheme order"]}`));
    case "flux":
    case "limiter":
    case "shape":
      return named(made[axis]);
    default:
      return axis satisfies never;
  }
}

const AXES = Object.keys(AXIS_WORDS) as LadderAxis[];
/** axes along which two runs say nothing: every family that is not refined alike has such pairs */
const ALONE: readonly LadderAxis[] = ["mesh-x", "mesh-y"];
/** ladders of one axis that are shown */
const MOST = 4;

/**
 * Ladders among the finished runs of a case that answer its question: sets that agree in everything but what one axis stands for. Of runs at one
 * place the newest counts. Those with most runs come first, the family of the present set-up not among them.
 * @param family ids of the runs that make the study of the case itself
 */
export function laddersOf(e: Pick<CaseEvidence, "runs" | "questionHash" | "leftOut">, family: readonly string[]): Ladder[] {
  const runs = answering(e);
  return AXES.flatMap((axis) => {
    const placed = runs.flatMap((run) => {
      const at = placeOn(axis, run);
      return at ? [{ run, ...at }] : [];
    });
    const sets = Object.values(groupedBy(placed, (p) => rest(axis, p.run)))
      .flatMap((set) => (axis === "domain" ? alikeInSpacing(set) : [set]))
      .map((set) => newest(set))
      .filter((set) => set.length >= (ALONE.includes(axis) ? 3 : 2) && !set.every((p) => axis === "mesh" && family.includes(p.run.id)))
      .sort((a, b) => b.length - a.length);
    return sets.slice(0, MOST).map((set): Ladder => ({ key: `${axis}:${set[0].run.id}`, axis, runs: inOrder(set) }));
  });
}

/** a larger domain has more cells of much the same size */
const MUCH_THE_SAME = 0.08;

/** Sets whose meshes are as fine as one another: else extent and spacing change at once. */
function alikeInSpacing(set: readonly LadderRun[]): LadderRun[][] {
  const sets: LadderRun[][] = [];
  const spacing = ({ run }: LadderRun) => run.mesh?.spacing ?? Number.POSITIVE_INFINITY;
  for (const p of [...set].sort((a, b) => spacing(a) - spacing(b))) {
    const last = sets.at(-1);
    if (last && spacing(p) <= (1 + MUCH_THE_SAME) * spacing(last[0])) last.push(p);
    else sets.push([p]);
  }
  return sets;
}

/** Runs that stand on no ladder and in no family, because more than one thing differs at once. */
export function apartRuns(
  e: Pick<CaseEvidence, "runs" | "questionHash" | "leftOut">,
  family: readonly string[],
  ladders: readonly Ladder[],
): ApartRun[] {
  const placed = new Set([...family, ...ladders.flatMap((l) => l.runs.map((r) => r.run.id))]);
  const [finest] = e.runs.filter((r) => r.id === family[0]);
  if (!finest) return [];
  const own = settingsOf(finest);
  return answering(e)
    .filter((r) => !placed.has(r.id))
    .map((r) => {
      const other = settingsOf(r);
      const names = [...new Set([...Object.keys(own), ...Object.keys(other)])].filter((k) => own[k] !== other[k]);
      return { runId: r.id, label: r.label, differs: names.filter((n) => !["cells", "spacing"].includes(n) || names.length < 3) };
    });
}

/** Finished runs that answer the question of the case, but for those a person took off. */
function answering({ runs, questionHash, leftOut }: Pick<CaseEvidence, "runs" | "questionHash" | "leftOut">): RunEvidence[] {
  const out = new Set(leftOut?.map((l) => l.runId));
  const answers = (r: RunEvidence) => FINISHED.includes(r.state) && r.result && r.questionHash !== undefined && r.questionHash === questionHash;
  return runs.filter((r) => answers(r) && !out.has(r.id));
}

/** Meshes refined alike in both directions keep this. */
function aspect({ made = {} }: RunEvidence): readonly [string, string][] {
  return typeof made.nx === "number" && typeof made.ny === "number" ? [["aspect", (made.nx / made.ny).toPrecision(2)]] : [];
}

/** Everything but what the axis stands for, as one word. */
const rest = (axis: LadderAxis, r: RunEvidence): string => JSON.stringify([...restOf(r, COVERED[axis]), ...(axis === "mesh" ? aspect(r) : [])]);

const restOf = (r: RunEvidence, covered: readonly string[]): [string, string | number][] =>
  Object.entries(settingsOf(r))
    .filter(([name]) => !covered.includes(name))
    .sort(([a], [b]) => (a < b ? -1 : 1));

function groupedBy<T>(list: readonly T[], key: (x: T) => string): Record<string, T[]> {
  const groups: Record<string, T[]> = {};
  for (const x of list) {
    groups[key(x)] ??= [];
    groups[key(x)].push(x);
  }
  return groups;
}

const newest = (set: readonly LadderRun[]): LadderRun[] =>
  Object.values(groupedBy(set, (p) => p.place)).map((same) => same.reduce((a, b) => ((b.run.finishedAt ?? "") >= (a.run.finishedAt ?? "") ? b : a)));

const inOrder = (set: readonly LadderRun[]): LadderRun[] =>
  [...set].sort((a, b) => (a.position === undefined || b.position === undefined ? (a.place < b.place ? -1 : 1) : a.position - b.position));

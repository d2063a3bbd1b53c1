import type { CaseEvidence } from "../records/case.ts";
import { FINISHED, type RunEvidence } from "../records/run.ts";

/** What runs of a study differ in. */
export type Axis = "mesh" | "time-step";

/** Runs that stand for the places along an axis, the finest first. */
export interface Study {
  readonly axis: Axis;
  readonly runs: readonly RunEvidence[];
}

/** Finished runs of the present set-up, or the old ones while there are none. */
export function chosenRuns(e: Pick<CaseEvidence, "runs" | "setupHash">): { runs: readonly RunEvidence[]; stale: boolean } {
  const finished = e.runs.filter((r) => FINISHED.includes(r.state) && r.result);
  const current = finished.filter((r) => r.setupHash === e.setupHash);
  return { runs: current.length ? current : finished, stale: finished.length > 0 && current.length === 0 };
}

const rounded = (x: number): string => x.toPrecision(6);
/** A run that says nothing of its mesh shares it with no other. */
const meshOf = (r: RunEvidence): string => (r.mesh ? `${r.mesh.cells}:${rounded(r.mesh.spacing)}` : r.id);
const stepOf = (r: RunEvidence): string => (r.stated?.timeStepS === undefined ? "" : rounded(r.stated.timeStepS));

/** The runs that make the study along an axis. Of runs at one place the newest counts. */
export function studyAlong(axis: Axis, runs: readonly RunEvidence[]): Study {
  const alike = oneDomain(oneCode(runs));
  return { axis, runs: axis === "mesh" ? alongMesh(alike) : alongTimeStep(alike) };
}

/**
 * Runs of one code: meshes of two codes are no family, their difference is not the mesh's. Of the code with most meshes; of equals the one that
 * reaches the finest, then the one that ran last.
 */
function oneCode(runs: readonly RunEvidence[]): readonly RunEvidence[] {
  const finest = (set: readonly RunEvidence[]) => Math.min(...set.map((r) => r.mesh?.spacing ?? Number.POSITIVE_INFINITY));
  const meshes = (set: readonly RunEvidence[]) => new Set(set.map(meshOf)).size;
  const last = (set: readonly RunEvidence[]) => set.reduce((latest, r) => ((r.finishedAt ?? "") > latest ? (r.finishedAt ?? "") : latest), "");
  // Two versions of a code are two codes: what differs between their meshes is not the mesh alone.
  const sets = grouped(runs, (r) => `${r.code} ${r.build?.version ?? ""}`);
  const [most = runs] = sets.sort((a, b) => meshes(b) - meshes(a) || finest(a) - finest(b) || (last(b) > last(a) ? 1 : -1));
  return most;
}

/** Runs of one extent of the domain, of the one with most runs; of equals of the largest. Extent and spacing would change together else. */
function oneDomain(runs: readonly RunEvidence[]): readonly RunEvidence[] {
  const domainOf = (r: RunEvidence) => r.stated?.domainM;
  const sets = grouped(runs, (r) => String(domainOf(r) ?? ""));
  const [most = runs] = sets.sort((a, b) => b.length - a.length || (domainOf(b[0]) ?? 0) - (domainOf(a[0]) ?? 0));
  return most;
}

/**
 * One run a mesh. Where meshes were computed with several time steps, those of one step that reaches every mesh are taken, the shortest such:
 * else spacing and step change together, and every mesh has its newest run.
 */
function alongMesh(runs: readonly RunEvidence[]): RunEvidence[] {
  const meshes = new Set(runs.map(meshOf)).size;
  const everywhere = grouped(runs, stepOf).filter((set) => new Set(set.map(meshOf)).size === meshes);
  const [chosen = runs] = sorted(everywhere, (set) => set[0].stated?.timeStepS);
  return sorted(newest(chosen, meshOf), (r) => r.mesh?.spacing);
}

/** Of all sets on one mesh whose time steps are known the one with the most steps; of equals that on the finest mesh. */
function alongTimeStep(runs: readonly RunEvidence[]): RunEvidence[] {
  const known = runs.filter((r) => r.stated?.timeStepS !== undefined && r.mesh);
  const sets = grouped(known, meshOf).map((set) => newest(set, stepOf));
  const [most = []] = sorted(sets, (set) => set[0].mesh?.spacing).sort((a, b) => b.length - a.length);
  return sorted(most, (r) => r.stated?.timeStepS);
}

function grouped(runs: readonly RunEvidence[], keyOf: (r: RunEvidence) => string): RunEvidence[][] {
  const sets = new Map<string, RunEvidence[]>();
  for (const r of runs) sets.set(keyOf(r), [...(sets.get(keyOf(r)) ?? []), r]);
  return [...sets.values()];
}

const newest = (runs: readonly RunEvidence[], placeOf: (r: RunEvidence) => string): RunEvidence[] =>
  grouped(runs, placeOf).map((set) => set.reduce((a, b) => ((b.finishedAt ?? "") >= (a.finishedAt ?? "") ? b : a)));

/** By a number, lowest first, equals as they came; what has none is last. */
const sorted = <T>(list: readonly T[], by: (x: T) => number | undefined): T[] => [...list].sort((a, b) => (by(a) ?? 1e300) - (by(b) ?? 1e300));

import { benchProblem } from "../../core/problems/build/catalogue.ts";
import type { CaseEvidence } from "../../core/records/case.ts";
import type { SweepRuns } from "../../core/records/sweepCurve.ts";
import { isSamePlace } from "../../core/study/sweepCurves.ts";
import type { SweepAxis } from "../db/schema.ts";
import { hashOf } from "../hash.ts";
import type { CaseRow } from "../repositories/cases.ts";
import type { MeshRow, RunRow } from "../repositories/runs.ts";

interface SweptSet {
  readonly axes: readonly SweepAxis[];
  readonly runs: readonly RunRow[];
  /** all but what the set varies is that of the case as it is now, its numerics among it */
  readonly present: boolean;
}

/** Sets of finished runs with conditions of their own. */
export function sweptSets(
  setup: CaseRow["setup"],
  sweeps: readonly { readonly id: string; readonly axes: readonly SweepAxis[] }[],
  all: readonly RunRow[],
): SweptSet[] {
  const numericsOf = ({ stop: _stop, ...numerics }: CaseRow["setup"]["numerics"]) => hashOf(numerics);
  const numerics = numericsOf(setup.numerics);
  return sweeps.flatMap(({ id, axes }) => {
    const runs = all.filter((r) => r.sweepId === id && r.result);
    if (!runs.length) return [];
    // Of what was brought in a single run may be there so far.
    const varied = (key: string) => axes.some((a) => a.broughtIn && a.key === key) || new Set(runs.map((r) => r.settings.parameters[key])).size > 1;
    const same = Object.keys(setup.parameters).every((key) => varied(key) || runs[0].settings.parameters[key] === setup.parameters[key]);
    return [{ axes, runs, present: same && runs.every((r) => numericsOf(r.settings.numerics) === numerics) }];
  });
}

/** Runs of other codes go by their cells as well: of two meshes nobody could tell what made the difference. */
const setName = ({ sweepId, origin, code, settings: { mesh } }: RunRow): string =>
  origin === "bench" ? (sweepId ?? "") : [sweepId, code, "cells" in mesh ? mesh.cells : ""].join(" ");

/** What sets of runs tell of the quantities' answers; those made with an earlier set-up are counted alone. */
export function sweptEvidence(sets: readonly SweptSet[]): Pick<CaseEvidence, "swept" | "sweptEarlier"> {
  const earlier = sets.filter((s) => !s.present).length;
  return {
    swept: sets
      .filter((s) => s.present)
      .flatMap((s) => s.runs.map((r) => ({ parameters: r.settings.parameters, quantities: r.result?.quantities ?? {}, set: setName(r) }))),
    ...(earlier ? { sweptEarlier: earlier } : {}),
  };
}

/** Runs of other codes along a condition, each with its own mesh; those of the case itself lie where the case says. */
function broughtInAlong(
  { key, label, unit }: SweepAxis,
  runs: readonly RunRow[],
  parameters: Readonly<Record<string, number>>,
  meshes: readonly MeshRow[],
): SweepRuns[] {
  return runs.flatMap((r) => {
    const mesh = meshes.find((m) => m.id === r.meshId);
    const at = r.settings.parameters[key] ?? parameters[key];
    if (r.origin !== "brought-in" || !mesh || !r.result || at === undefined) return [];
    const { label: name, cells } = mesh;
    return [
      {
        axis: { key, label, unit },
        code: r.code,
        mesh: { label: name, spacing: 1 / Math.sqrt(cells) },
        points: [{ at, quantities: r.result.quantities }],
      },
    ];
  });
}

/**
 * Sweeps over one condition as curves over it, mesh by mesh.
 * @param own runs of the case itself: where others were brought in at other conditions, they are one more place
 */
export function curvesOfSweeps(
  { problemId, parameters }: CaseRow["setup"],
  sets: readonly SweptSet[],
  meshes: readonly MeshRow[],
  own: readonly RunRow[] = [],
): Pick<CaseEvidence, "sweeps"> {
  const sweeps = sets
    .filter((s) => s.present && s.axes.length === 1 && (s.axes[0].values.length > 0 || s.axes[0].broughtIn))
    .flatMap(({ axes: [axis], runs }) => {
      if (axis.broughtIn) return broughtInAlong(axis, [...runs, ...own], parameters, meshes);
      const number = problemId === null ? undefined : benchProblem(problemId).similarity?.find((n) => n.key === axis.key);
      // Of a similarity number the run has the condition that it sets: the planned value that belongs to it.
      const placeOf = (r: RunRow) =>
        number
          ? axis.values.find((v) => isSamePlace(number.solve(v, { ...parameters, ...r.settings.parameters }), r.settings.parameters[number.sets]))
          : r.settings.parameters[axis.key];
      // Where a length is varied every run has a mesh of its own size: they are one by what was planned.
      const meshOf = (r: RunRow) => meshes.find((m) => m.id === r.meshId);
      return [...new Set(runs.map((r) => meshOf(r)?.label))].flatMap((label) => {
        const own = runs.filter((r) => meshOf(r)?.label === label);
        const mesh = meshOf(own[0]);
        if (!mesh?.spec) return [];
        const points = own.flatMap((r) => {
          const at = placeOf(r);
          return at === undefined ? [] : [{ at, quantities: r.result?.quantities ?? {} }];
        });
        const { nx, ny } = mesh.spec;
        const { key, label: name, unit } = axis;
        return [{ axis: { key, label: name, unit }, mesh: { label: mesh.label, nx, ny, spacing: 1 / Math.sqrt(mesh.cells) }, points }];
      });
    });
  return sweeps.length ? { sweeps } : {};
}

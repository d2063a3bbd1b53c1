import { percent, unitText } from "../../formatting/number.ts";
import { type ErrorBudget, K_NUMERICAL, standardOf } from "../../method/budget/errorBudget.ts";
import { type BetweenCodes, betweenCodes } from "../../method/comparison/betweenCodes.ts";
import { compareValue, K, type ValueComparison } from "../../method/comparison/compareValue.ts";
import { type CurveBand, compareProfile, type ProfileRefusal } from "../../method/comparison/comparison.ts";
import { turnedCurve } from "../../method/comparison/turnedCurve.ts";
import type { InputBudget } from "../../method/propagation/inputs.ts";
import { type SharedInputs, sharedInputs } from "../../method/propagation/sharedInputs.ts";
import type { CaseEvidence } from "../../records/case.ts";
import type { Profile } from "../../records/profile.ts";
import type { DecisionRule } from "../../records/programme.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import type { Reference, ReferenceProfile, ReferenceValue } from "../../records/reference.ts";
import type { RunEvidence } from "../../records/run.ts";
import { type State, worst } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { placesNotRun, sweepCurves } from "../../study/sweepCurves.ts";
import { conversion } from "../../units/conversion.ts";
import type { ComparedProfile, QuantityComparison, RefusedProfile } from "../results/comparison.ts";
import type { CurveAssessment } from "../results/refinement.ts";
import { valuesFor } from "../stages/scale.ts";

/**
 * A quantity against each of its yardsticks, the one that counts most first.
 * @param answers what the inputs make of the quantity, where their uncertainties are given
 */
export function compareAll(
  e: CaseEvidence,
  q: QuantitySpec,
  finest: RunEvidence | undefined,
  rule: ErrorBudget,
  answers?: InputBudget,
): QuantityComparison[] {
  const simulated = finest?.result?.quantities[q.key];
  if (simulated === undefined || !Number.isFinite(simulated)) return [];
  const numerical = rule.sources.filter((s) => s.group !== "input");
  const inputs = rule.sources.filter((s) => s.key === "inputs");
  const stated = rule.sources.find((s) => s.key === "reference");
  const open = [...numerical, ...inputs].filter((s) => s.relative === undefined).map((s) => s.name);
  const found = valuesFor(e.yardsticks, q.key).map(({ yardstick, value }): QuantityComparison => {
    // An uncertainty nobody published may have been estimated by a person; it then stands for every yardstick without one.
    const own = value.standardUncertainty ?? (stated?.settled && stated.relative !== undefined ? (stated.relative * rule.scale) / 2 : undefined);
    const both = inputs[0]?.settled ? undefined : sharedWith(e, value, simulated, answers);
    const c = compareValue({
      simulated,
      reference: value.value,
      scale: rule.scale,
      ...(rule.scaleName ? { scaleName: rule.scaleName } : {}),
      uNum: standardOf(numerical, e.spread?.spread) * rule.scale,
      uInput: both ? both.uncertainty / 2 : standardOf(inputs) * rule.scale,
      uReference: own ?? 0,
      open: own === undefined ? [...open, "the uncertainty of the yardstick"] : open,
    });
    const inside = yardstick.validity.inside;
    return {
      ...c,
      yardstick: yardstick.name,
      yardstickKey: yardstick.key,
      kind: yardstick.kind,
      inside,
      decides: inside && yardstick.kind !== "other-code",
      limit: q.limit,
      ...(e.decision ? { decision: e.decision } : {}),
      state: inside ? againstLimit(c, q.limit, e.decision) : "fails",
      ...(both ? { sharedInputs: both } : {}),
    };
  });
  return found.sort(byWeight);
}

/** What the conditions make of the difference, where they count in the yardstick as well and what they make of the quantity is known. */
function sharedWith(e: CaseEvidence, { value, answers }: ReferenceValue, simulated: number, own: InputBudget | undefined): SharedInputs | undefined {
  if (!answers || own?.relative === undefined) return undefined;
  const known = Object.fromEntries(own.shares.map((s) => [s.key, s.sensitivity?.value ?? 0]));
  return sharedInputs(e.inputs ?? [], e.correlations ?? [], { value: simulated, answers: known }, { value, answers });
}

const SEVERITY: Readonly<Record<State, number>> = { fails: 0, none: 1, stale: 1, remark: 2, holds: 3 };

/** Those that decide first, of them the worst, of equals the best known. */
function byWeight(a: QuantityComparison, b: QuantityComparison): number {
  return Number(b.decides) - Number(a.decides) || SEVERITY[a.state] - SEVERITY[b.state] || a.uReference - b.uReference;
}

/** Nothing fails, and nothing holds, while a source of unknown size is open: it might explain or hide any difference. */
export function againstLimit(c: ValueComparison, limit: number, decision: DecisionRule = "both-ways"): State {
  if (c.uVal === undefined) return "none";
  const size = Math.abs(c.difference) / c.scale;
  const band = (K * c.uVal) / c.scale;
  if (decision === "simple") return size > limit ? "fails" : "holds";
  if (decision === "guarded") return size + band > limit ? "fails" : "holds";
  if (size - band > limit) return "fails";
  return size + band > limit ? "remark" : "holds";
}

export interface WeighedComparison {
  readonly state: State;
  /** why it is not simply "holds" */
  readonly reasons: readonly string[];
  /** the comparison the rule shows */
  readonly first?: QuantityComparison;
}

/**
 * All yardsticks of a quantity together: the worst of those that hold here decides, one outside its range or another code's result never
 * does; where none is left to decide, the case is not judged by them. Yardsticks that contradict each other are a remark.
 */
export function weigh(comparisons: readonly QuantityComparison[]): WeighedComparison {
  const deciding = comparisons.filter((c) => c.decides);
  const first = comparisons[0];
  if (!first) return { state: "none", reasons: ["there is no yardstick to compare with"] };
  if (!deciding.length) {
    const codes = comparisons.filter((c) => c.inside);
    if (codes.length)
      return {
        state: "none",
        first,
        reasons: [`only another code's result (${codes[0].yardstick}) is there to compare with: agreement between codes is no truth`],
      };
    return { state: "fails", first, reasons: [`${first.yardstick} is used outside its range and no other yardstick is there`] };
  }
  const reasons = deciding.flatMap((c) => limitReason(c));
  const apart = contradiction(deciding);
  if (apart) reasons.push(apart);
  const state = worst([...deciding.map((c) => c.state), ...(apart ? (["remark"] as const) : [])]);
  return { state, first, reasons };
}

function limitReason(c: QuantityComparison): string[] {
  const [size, limit] = [percent(Math.abs(c.difference) / c.scale), percent(c.limit)];
  const band = percent((K * c.uValAtLeast) / c.scale);
  if (c.state === "fails" && c.decision === "simple")
    return [
      `the difference from ${c.yardstick}, ${size}, exceeds the limit of ${limit}; its uncertainty of ${band} decides nothing by the rule of simple acceptance`,
    ];
  if (c.state === "fails" && c.decision === "guarded")
    return [
      `the difference from ${c.yardstick}, ${size}, with its uncertainty of ${band} added exceeds the limit of ${limit}, as guarded acceptance counts it`,
    ];
  if (c.state === "fails")
    return [`the difference from ${c.yardstick}, ${size}, exceeds the limit of ${limit} by more than its uncertainty of ${band}`];
  if (c.state === "remark") return [`with the difference from ${c.yardstick} at ${size} ± ${band}, the limit of ${limit} may be kept or broken`];
  return [];
}

type Stated = Pick<QuantityComparison, "reference" | "uReference">;

/** Two yardsticks lie further apart than both their uncertainties allow. */
export const farApart = (a: Stated, b: Stated): boolean => Math.abs(a.reference - b.reference) > K * Math.hypot(a.uReference, b.uReference);

/** Two deciding yardsticks whose values lie further apart than both their uncertainties allow. */
function contradiction(deciding: readonly QuantityComparison[]): string | undefined {
  for (const [i, a] of deciding.entries())
    for (const b of deciding.slice(i + 1)) {
      const apart = Math.abs(a.reference - b.reference);
      if (farApart(a, b) && apart > 0.1 * a.limit * a.scale)
        return `${a.yardstick} and ${b.yardstick} differ by ${percent(apart / a.scale)}, more than their uncertainties allow`;
    }
  return undefined;
}

/**
 * Curves of the run the case rests on, and of the finest run of every other code, and the runs put beside them, against every yardstick that has one
 * of the kind; what cannot be compared says why.
 * @param curves refinement of the curves of the run the case rests on
 */
export function compareProfiles(
  e: CaseEvidence,
  finest: RunEvidence | undefined,
  curves: readonly CurveAssessment[],
): { profiles: ComparedProfile[]; refused: RefusedProfile[] } {
  const found = [...ofRuns(e, finest, curves), ...ofSweeps(e)].flatMap(({ profile, band, by, places }) =>
    e.yardsticks.flatMap((y) => y.profiles.filter((r) => r.profileKey === profile.key).map((r) => againstOne(y, r, { profile, band, by, places }))),
  );
  return { profiles: found.flatMap((f) => ("refused" in f ? [] : [f])), refused: found.flatMap((f) => ("refused" in f ? [f.refused] : [])) };
}

/** A curve of the case, with its band, and what delivered it. */
interface OwnCurve {
  readonly profile: Profile;
  readonly band?: CurveBand | undefined;
  readonly by: Pick<ComparedProfile, "runId" | "runLabel" | "code" | "leading">;
  /** of a sweep */
  readonly places?: Pick<NonNullable<ComparedProfile["sweep"]>, "axisKey" | "mesh">;
}

function ofRuns(e: CaseEvidence, finest: RunEvidence | undefined, curves: readonly CurveAssessment[]): OwnCurve[] {
  if (!finest) return [];
  return besides(e, finest, (r) => (r.result?.profiles.length ?? 0) > 0).flatMap((run) =>
    (run.result?.profiles ?? []).map((profile) => ({
      profile,
      band:
        run === finest
          ? spreadOf(
              curves.find((c) => c.key === profile.key),
              e,
            )
          : undefined,
      by: { runId: run.id, runLabel: run.label, code: run.code, leading: run === finest },
    })),
  );
}

/** A band with what it is divided by for a standard uncertainty. */
const spreadOf = (band: CurveBand | undefined, { spread }: Pick<CaseEvidence, "spread">): CurveBand | undefined =>
  band && spread ? { ...band, k: K_NUMERICAL[spread.spread] } : band;

/** Sweeps over a condition stand as curves of their own, under the name of their mesh. */
const ofSweeps = ({ sweeps = [], quantities, formalOrder, spread }: CaseEvidence): OwnCurve[] =>
  sweepCurves(sweeps, quantities, formalOrder).map(({ id, axisKey, code, leading, mesh, profile, band }) => ({
    profile,
    band: spreadOf(band, { spread }),
    by: {
      runId: id,
      runLabel: mesh.nx === undefined ? `runs over ${profile.abscissa.name}` : `sweep on ${mesh.label}`,
      code,
      leading,
    },
    places: { axisKey, mesh },
  }));

function againstOne(y: Reference, r: ReferenceProfile, { profile: p, band, by, places }: OwnCurve): ComparedProfile | { refused: RefusedProfile } {
  const turned = inUnitsOf(p, turnedCurve(r));
  const found = "refused" in turned ? turned : compareProfile(p, turned, band);
  if ("refused" in turned || "refused" in found)
    return { refused: { yardstick: y.name, name: p.name, sentence: "refused" in found ? found.refused : "" } };
  return {
    ...found,
    yardstick: y.name,
    yardstickKey: y.key,
    kind: y.kind,
    inside: y.validity.inside,
    name: p.name,
    units: { abscissa: p.abscissa.unit, value: p.value.unit },
    ...by,
    ...(places ? { sweep: { ...places, notRun: placesNotRun(turned.abscissa, p.abscissa.values) } } : {}),
  };
}

/** Values of a quantity by the finest run of every code and the runs put beside them, with its yardsticks; undefined where one run alone has it. */
export function compareCodes(e: CaseEvidence, q: QuantitySpec, finest: RunEvidence | undefined, rule: ErrorBudget): BetweenCodes | undefined {
  if (!finest) return undefined;
  const mesh = rule.sources.find((s) => s.key === "mesh")?.relative;
  const having = besides(e, finest, (r) => Number.isFinite(r.result?.quantities[q.key]));
  const list = having.flatMap((r) => {
    const value = r.result?.quantities[q.key];
    if (value === undefined || !Number.isFinite(value)) return [];
    return [
      { label: `${r.code}, ${r.label}`, code: r.code, value, ...(r === finest && mesh !== undefined ? { uncertainty: mesh * rule.scale } : {}) },
    ];
  });
  const yardsticks = valuesFor(e.yardsticks, q.key).map(({ yardstick, value: { value, standardUncertainty: u } }) => ({
    label: yardstick.name,
    value,
    ...(u === undefined ? {} : { uncertainty: 2 * u }),
  }));
  return betweenCodes(list, rule.scale, yardsticks);
}

/** The run the case rests on, the finest of every other code, and the runs that were put beside them. */
function besides(e: CaseEvidence, finest: RunEvidence, has: (r: RunEvidence) => boolean): RunEvidence[] {
  const chosen = (e.amongst ?? []).flatMap(({ runId }) => e.runs.find((r) => r.id === runId && has(r) && r.setupHash === finest.setupHash) ?? []);
  return [...new Set([finest, ...otherCodes(e.runs, finest, has), ...chosen])];
}

/** The finest run that has what is asked for, of every code but the one the case rests on. */
function otherCodes(runs: readonly RunEvidence[], finest: RunEvidence, has: (r: RunEvidence) => boolean): RunEvidence[] {
  const best = new Map<string, RunEvidence>();
  const spacing = (r: RunEvidence) => r.mesh?.spacing ?? Number.POSITIVE_INFINITY;
  for (const r of runs) {
    if (r.code === finest.code || r.setupHash !== finest.setupHash || !has(r)) continue;
    const known = best.get(r.code);
    if (!known || spacing(r) < spacing(known)) best.set(r.code, r);
  }
  return [...best.values()];
}

/** A reference curve in the units of the simulated one; a curve without units of its own goes by the run's. */
function inUnitsOf(p: Profile, r: ReferenceProfile): ReferenceProfile | ProfileRefusal {
  if (!r.axes) return r;
  const [x, y] = [conversion(r.axes.abscissa.unit, p.abscissa.unit), conversion(r.axes.value.unit, p.value.unit)];
  const wrong = x ? (y ? undefined : ([r.axes.value, p.value] as const)) : ([r.axes.abscissa, p.abscissa] as const);
  if (!x || !y || wrong) {
    const [theirs, own] = wrong ?? [r.axes.value, p.value];
    return {
      profileKey: r.profileKey,
      refused: `${theirs.name} of the yardstick is counted in ${unitText(theirs.unit) || "pure numbers"}, ${own.name} of the run in ${unitText(own.unit) || "pure numbers"}.`,
    };
  }
  const scaled = (u: number | readonly number[] | undefined, by: number) =>
    typeof u === "object" ? u.map((v) => v * by) : u === undefined ? undefined : u * by;
  return {
    ...r,
    abscissa: r.abscissa.map(x.turn),
    value: r.value.map(y.turn),
    standardUncertainty: scaled(r.standardUncertainty, y.factor),
    systematicUncertainty: scaled(r.systematicUncertainty, y.factor),
    abscissaUncertainty: scaled(r.abscissaUncertainty, x.factor),
    ...(r.window ? { window: [x.turn(r.window[0]), x.turn(r.window[1])] } : {}),
  };
}

/** The rules of this file in words. */
export const COMPARING_RULES = rulesOf("core/assessment/comparison/comparing.ts", [
  {
    rule: "yardstick-policy",
    text: "Every yardstick of a quantity is weighed: of those that hold here the worst decides; one used outside its range, or another code's result, decides nothing and is shown. Yardsticks further apart than their uncertainties allow are a remark. While a source is open nothing holds and nothing fails.",
    source: "method of this product",
  },
  {
    rule: "decision-rule",
    text: "A difference E with uncertainty 2 u_val is held against a limit by the rule of the programme. Both ways: |E| + 2 u_val within the limit holds, |E| − 2 u_val beyond it fails, between them is a remark. Guarded acceptance: |E| + 2 u_val within the limit holds, all else fails. Simple acceptance: |E| within the limit holds, all else fails.",
    source: "after JCGM 106:2012",
  },
  {
    rule: "yardstick-range",
    text: "A yardstick used outside its range is no truth.",
    source: "own",
  },
]);

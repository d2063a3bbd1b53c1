import { percent } from "../../formatting/number.ts";
import type { Law, LawReading, SecondReading } from "../../records/laws.ts";
import { type Remark, type State, stateOf, worst } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";

/** Words, and the shares above which there is a doubt and a stop. */
const RULES: Readonly<Record<Law, { readonly demands: string; readonly of: string; readonly doubt: number; readonly stop: number }>> = {
  "wall-flow": { demands: "Nothing flows through a wall or a line of symmetry", of: "what passes the open boundaries", doubt: 1e-9, stop: 1e-6 },
  "total-pressure": { demands: "Total pressure does not rise without work", of: "its span over the boundaries", doubt: 0.01, stop: 0.05 },
  entropy: { demands: "Entropy does not fall along a flow without cooling", of: "the specific heat", doubt: 0.005, stop: 0.05 },
  "total-enthalpy": { demands: "Total enthalpy stays as it came in, on average", of: "the enthalpy that comes in", doubt: 0.005, stop: 0.05 },
  mirror: { demands: "A symmetric set-up has a symmetric answer", of: "the largest velocity", doubt: 1e-4, stop: 1e-2 },
  "no-lift": { demands: "A symmetric body in a symmetric flow has no lift", of: "the largest force", doubt: 0.005, stop: 0.05 },
  "efficiency-below-one": { demands: "An efficiency does not exceed one", of: "one", doubt: 0, stop: 0 },
};

export interface LawLine extends LawReading {
  readonly demands: string;
  readonly sentence: string;
  readonly limit: number;
  readonly state: State;
}

export interface SecondLine extends SecondReading {
  /** difference over the first */
  readonly relative: number;
  readonly limit: number;
  readonly against: "mesh uncertainty" | "a tenth of its limit" | "1 %";
  readonly state: State;
}

const SECOND_LIMIT = 0.01;
/** both computations carry the mesh's error */
const BOTH = Math.SQRT2;

/** Judges the rules and second computations a run delivered. */
export function assessLaws(
  label: string,
  laws: readonly LawReading[],
  second: readonly SecondReading[],
  meshUncertainty: Readonly<Record<string, number | undefined>>,
  accepted: Readonly<Record<string, number>> = {},
): { laws: LawLine[]; second: SecondLine[]; remarks: Remark[]; state: State } {
  const remarks: Remark[] = [];
  const lines = laws.map((l): LawLine => {
    const { demands, of, doubt, stop } = RULES[l.law];
    const state: State = l.share > stop ? "fails" : l.share > doubt ? "remark" : "holds";
    const sentence = `${demands}: off by ${percent(l.share)} of ${of}, ${percent(doubt)} is let pass.`;
    if (state !== "holds") remarks.push({ rule: l.law, severity: state === "fails" ? "stop" : "doubt", sentence: `${label}: ${sentence}` });
    return { ...l, demands, sentence, limit: doubt, state };
  });
  const twice = second.map((s): SecondLine => {
    const mesh = s.quantityKey === undefined ? undefined : meshUncertainty[s.quantityKey];
    // The second way has a mesh error of its own: what is small beside the accepted error is let pass in any case.
    const small = s.quantityKey === undefined ? 0 : (accepted[s.quantityKey] ?? 0) / 10;
    const explained = mesh !== undefined && mesh > 1e-9 ? BOTH * mesh : undefined;
    const limit = explained === undefined ? SECOND_LIMIT : Math.max(explained, small);
    const against = explained === undefined ? "1 %" : small > explained ? "a tenth of its limit" : "mesh uncertainty";
    const relative = Math.abs(s.second - s.first) / Math.max(Math.abs(s.first), Number.MIN_VALUE);
    const state: State = relative > limit ? "remark" : "holds";
    if (state === "remark")
      remarks.push({
        rule: "second-computation",
        severity: "doubt",
        sentence: `${label}: ${s.name} by ${s.secondBy} differs by ${percent(relative)} from that by ${s.firstBy}, more than the ${percent(limit)} ${against === "1 %" ? "let pass" : against === "mesh uncertainty" ? "its mesh uncertainty explains" : "that are a tenth of its limit"}.`,
      });
    return { ...s, relative, limit, against, state };
  });
  return { laws: lines, second: twice, remarks, state: lines.length || twice.length ? worst([stateOf(remarks), "holds"]) : "none" };
}

/** The rules of this file in words. */
export const LAWS_RULES = rulesOf("core/method/balance/laws.ts", [
  {
    rule: "wall-flow",
    text: "Mass through walls and lines of symmetry, over what passes the open boundaries; of a closed box over the largest flux inside. More than 1e-9 is a doubt, more than 1e-6 a stop.",
    source: "conservation",
  },
  {
    rule: "total-pressure",
    text: "Steady flow on which nothing does work (no moving wall, body force or buoyancy): its total pressure is nowhere above its largest value on the boundary; of a gas, nowhere above that of what comes in. Of its span: 1 % is let pass, 5 % is a stop.",
    source: "maximum principle; Serrin 1959",
  },
  {
    rule: "entropy",
    text: "Steady inviscid gas without cooling: entropy in any cell against the lowest that comes in, over the specific heat. 0.5 % is let pass, 5 % is a stop.",
    source: "second law",
  },
  {
    rule: "total-enthalpy",
    text: "Steady inviscid gas without heat or work: mean departure of the total enthalpy from that of what comes in. 0.5 % is let pass, 5 % is a stop.",
    source: "first law",
  },
  {
    rule: "mirror",
    text: "Where the set-up maps onto itself, by a mirror or half a turn, so must the velocity: largest departure over the largest velocity, on meshes of rows. 1e-4 is let pass, 1 % is a stop.",
    source: "symmetry",
  },
  {
    rule: "efficiency-below-one",
    text: "A pure number said to be an efficiency is not above one.",
    source: "first law",
  },
]);

import { codeWords } from "../../records/build.ts";
import type { CredibilityLevel, FactorKey } from "../../records/credibility.ts";
import { listed } from "../comparison/compareValue.ts";
import type { CredibilityFacts } from "./facts.ts";

/** What a level asks for, beyond the level below it. */
type Criteria = readonly [zero: string, one: string, two: string, three: string, four: string];

export interface Factor {
  readonly key: FactorKey;
  readonly name: string;
  readonly criteria: Criteria;
  /** it rests on runs: made of an earlier set-up it is worth little */
  readonly ofRuns: boolean;
  /** undefined where the factor does not apply */
  readonly level: (f: CredibilityFacts) => CredibilityLevel | undefined;
  /** what the level was read from */
  readonly because: (f: CredibilityFacts) => string;
  /** the page that would close the gap */
  readonly go: "question" | "yardsticks" | "meshes" | "refinement" | "comparison" | "verdict" | "report";
}

/** The highest level whose conditions hold, and those of all levels below it. */
function climb(...steps: readonly [one: boolean, two: boolean, three: boolean, four: boolean]): CredibilityLevel {
  const first = steps.indexOf(false);
  return (first < 0 ? 4 : first) as CredibilityLevel;
}

const cases = (list: readonly string[], what: string): string =>
  list.length
    ? `${what} in ${list.length === 1 ? list[0] : `${list.length} cases (${listed(list.slice(0, 3))}${list.length > 3 ? " and more" : ""})`}`
    : "";

const said = (...parts: readonly (string | false)[]): string => parts.filter(Boolean).join("; ");

/** within this share of its limit a numerical uncertainty is out of the way */
const SMALL = 1 / 3;

/**
 * The eight factors with what each level asks for, in words of our own.
 * @source after NASA-STD-7009 (factors and the idea of levels); criteria of this product, so that evidence can decide them
 */
export const FACTORS: readonly Factor[] = [
  {
    key: "code",
    name: "Verification of the code",
    ofRuns: false,
    criteria: [
      "nothing shows that the code solves its equations",
      "somebody says so, or its results look right",
      "the code met an exact answer within its uncertainty",
      "the code had its formal order against an exact answer, in every field compared",
      "formal order in three cases or more, one of them with the physics of this case, and no field that fell short",
    ],
    level: ({ code: c }) =>
      climb(
        c.met.length + c.orderShown.length > 0,
        c.met.length + c.orderShown.length > 0,
        c.orderShown.length > 0,
        c.orderShown.length >= 3 && c.sameKind > 0 && !c.short.length,
      ),
    because: ({ code: c }) =>
      said(
        cases(c.orderShown, `${codeWords(c.name)} had its formal order`) || `no exact case shows the order of ${codeWords(c.name)}`,
        !c.orderShown.length && cases(c.met, "it met the exact answer"),
        c.short.length > 0 && `short of it: ${listed(c.short)}`,
      ),
    go: "comparison",
  },
  {
    key: "solution",
    name: "Verification of the solution",
    ofRuns: true,
    criteria: [
      "one mesh, or nothing known of the errors of the solution",
      "runs have settled on two meshes or more",
      "every numerical source has a figure, some by a person's reason",
      "every numerical source is measured",
      "measured, at the formal order, and below a third of the limit",
    ],
    level: ({ solution: s }) =>
      climb(
        s.meshes >= 2 && s.settled,
        s.meshes >= 2 && !s.open.length,
        !s.byReason.length && s.meshes >= 3,
        s.orderAgrees && (s.overLimit ?? Number.POSITIVE_INFINITY) <= SMALL,
      ),
    because: ({ solution: s }) =>
      said(
        `${s.meshes} ${s.meshes === 1 ? "mesh" : "meshes"}`,
        s.open.length > 0 && `open: ${listed(s.open)}`,
        s.byReason.length > 0 && `by reason: ${listed(s.byReason)}`,
        s.meshes >= 3 && (s.orderAgrees ? "observed order agrees with the formal one" : "observed order is not the formal one"),
      ),
    go: "refinement",
  },
  {
    key: "validation",
    name: "Validation",
    ofRuns: true,
    criteria: [
      "compared with nothing",
      "compared with another code, outside a yardstick's range, or by eye",
      "compared with a yardstick that holds here",
      "compared with every source of uncertainty known",
      "with measurements or published figures from two sources or more that agree, and not failing",
    ],
    level: ({ exact, validation: v }) =>
      exact ? undefined : climb(v.deciding.length + v.weak.length > 0, v.deciding.length > 0, v.complete > 0, v.complete >= 2 && v.agree && !v.fails),
    because: ({ exact, validation: v }) =>
      exact
        ? "an exact answer verifies a code and validates no model"
        : said(
            v.deciding.length > 0 && `held against ${listed(v.deciding)}`,
            v.weak.length > 0 && `decides nothing: ${listed(v.weak)}`,
            v.deciding.length > v.complete && "a source of uncertainty is open",
            v.fails && "the comparison fails",
            !v.deciding.length && !v.weak.length && "no yardstick",
          ),
    go: "yardsticks",
  },
  {
    key: "inputs",
    name: "Pedigree of the inputs",
    ofRuns: false,
    criteria: [
      "the set-up contradicts itself",
      "the set-up passes its checks but for doubts nobody answered",
      "every check passes or is answered",
      "every condition has an uncertainty, or is exact by definition",
      "and what they make of the result was found by runs",
    ],
    level: ({ defined, inputs: i }) =>
      climb(!i.stops.length, !i.doubts.length, defined || (i.conditions > 0 && i.given >= i.conditions && i.propagated), defined || i.byRuns),
    because: ({ defined, inputs: i }) =>
      said(
        i.stops.length > 0 && `${i.stops.length} ${i.stops.length === 1 ? "check stops" : "checks stop"}`,
        i.doubts.length > 0 && `${i.doubts.length} unanswered ${i.doubts.length === 1 ? "doubt" : "doubts"}`,
        !i.stops.length && !i.doubts.length && "every check passes or is answered",
        defined ? "conditions are exact by definition" : `${i.given} of ${i.conditions} conditions have an uncertainty`,
      ),
    go: "question",
  },
  {
    key: "uncertainty",
    name: "Uncertainty of the results",
    ofRuns: true,
    criteria: [
      "no uncertainty is stated",
      "some sources have a figure",
      "every source has a figure, some by a person's reason",
      "every source is measured",
      "measured, the inputs among them",
    ],
    level: ({ defined, hasRuns, uncertainty: u }) =>
      climb(hasRuns && u.sources > u.open.length, !u.open.length, !u.byReason.length, defined || u.inputsKnown),
    because: ({ defined, uncertainty: u }) =>
      said(
        u.open.length > 0 ? `${u.sources - u.open.length} of ${u.sources} sources known; open: ${listed(u.open)}` : `all ${u.sources} sources known`,
        u.byReason.length > 0 && `by reason: ${listed(u.byReason)}`,
        !defined && !u.inputsKnown && "nothing is known of the inputs",
      ),
    go: "verdict",
  },
  {
    key: "robustness",
    name: "Robustness of the results",
    ofRuns: true,
    criteria: [
      "nothing was varied",
      "one thing was varied",
      "two things were varied",
      "three things were varied",
      "four or more were varied, the conditions or the numerical method among them",
    ],
    level: ({ varied: v }) => climb(v.length >= 1, v.length >= 2, v.length >= 3, v.length >= 4 && (v.includes("conditions") || v.includes("scheme"))),
    because: ({ varied: v }) => (v.length ? `varied with its effect known: ${listed(v)}` : "nothing was varied"),
    go: "refinement",
  },
  {
    key: "history",
    name: "Use history",
    ofRuns: false,
    criteria: [
      "the code was never judged before",
      "it was judged in another case of the programme",
      "it was judged in three others",
      "it held at conditions within a factor of three of these",
      "it held at three such, and failed nowhere",
    ],
    level: ({ history: h }) => climb(h.judged.length >= 1, h.judged.length >= 3, h.near.length >= 1, h.near.length >= 3 && !h.failed.length),
    because: ({ code, history: h }) =>
      said(
        cases(h.judged, `${codeWords(code.name)} was judged`) || `${codeWords(code.name)} was judged in no other case`,
        cases(h.near, "held at similar conditions"),
        cases(h.failed, "failed"),
      ),
    go: "comparison",
  },
  {
    key: "people",
    name: "People and process",
    ofRuns: false,
    criteria: [
      "nobody is named",
      "somebody is named",
      "one prepares and another checks",
      "checked, approved, and issued as a report",
      "and reviewed from outside, with a document",
    ],
    // A review from outside is a document: only a person can link it.
    level: ({ people: p }) => climb(p.named >= 1, p.named >= 2 && p.checks, p.approves && p.reports > 0, false),
    because: ({ people: p }) =>
      said(
        p.named ? `${p.named} ${p.named === 1 ? "person" : "people"} named in the programme` : "nobody is named in the programme",
        p.named > 0 && !p.checks && "none of them checks",
        p.checks && !p.approves && "none of them approves",
        p.reports ? `${p.reports} ${p.reports === 1 ? "report" : "reports"} issued` : "no report issued",
      ),
    go: "report",
  },
];

import { sentenceCase } from "../../formatting/number.ts";
import type { CredibilityLevel, CredibilityStatement, FactorKey } from "../../records/credibility.ts";
import type { Stakes } from "../../records/programme.ts";
import { rulesOf } from "../../remarks/rule.ts";
import { FACTORS, type Factor } from "./factors.ts";
import type { CredibilityFacts } from "./facts.ts";

/** How credible one factor is, where that comes from, and what would bring it further. */
export interface FactorJudged {
  readonly key: FactorKey;
  readonly name: string;
  /** undefined where the factor does not apply */
  readonly level: CredibilityLevel | undefined;
  /** what the evidence alone supports */
  readonly proposed: CredibilityLevel | undefined;
  readonly criterion: string;
  readonly because: string;
  /** why it stands lower than its evidence would be worth, or higher by a document */
  readonly changed?: string;
  readonly stated?: CredibilityStatement;
  readonly target?: CredibilityLevel;
  /** what the next level asks for, and where to do it; absent at the highest */
  readonly gap?: { readonly sentence: string; readonly go: Factor["go"]; readonly missing: number };
}

export interface Credibility {
  readonly factors: readonly FactorJudged[];
  /** the lowest of those that apply: never an average */
  readonly lowest: CredibilityLevel;
  readonly lowestFactors: readonly string[];
  readonly target?: CredibilityLevel;
  readonly meetsTarget?: boolean;
  readonly sentence: string;
}

/** evidence of an earlier set-up is worth no more than this */
const STALE_AT_MOST = 1;
/** and so is what only looks right */
const LOOKS_AT_MOST = 1;

/**
 * The level a decision asks for: half the sum of consequence and influence, rounded down.
 * @example
 * targetOf({ consequence: 2, influence: 3 }) // 2
 */
export const targetOf = ({ consequence, influence }: Stakes): CredibilityLevel => Math.floor((consequence + influence) / 2) as CredibilityLevel;

/**
 * Credibility factor by factor: a level proposed from evidence, capped where the evidence is old, lowered by a person with a reason, raised only with
 * a document. The lowest factor is the summary.
 * @param setupHash of the present set-up: what was said of an earlier one no longer counts
 */
export function credibility(
  facts: CredibilityFacts,
  statements: readonly CredibilityStatement[] = [],
  { stakes, setupHash }: { readonly stakes?: Stakes | undefined; readonly setupHash: string },
): Credibility {
  const target = stakes && targetOf(stakes);
  const factors = FACTORS.map((f) => judged(f, facts, statements.filter((s) => s.factor === f.key && s.setupHash === setupHash).at(-1), target));
  const applying = factors.flatMap((f) => (f.level === undefined ? [] : [{ ...f, level: f.level }]));
  const lowest = Math.min(...applying.map((f) => f.level)) as CredibilityLevel;
  const lowestFactors = applying.filter((f) => f.level === lowest).map((f) => f.name);
  const meetsTarget = target === undefined ? undefined : lowest >= target;
  const short = applying.filter((f) => target !== undefined && f.level < target).map((f) => f.name.toLowerCase());
  const aim =
    target === undefined
      ? "The programme states no target: say what hangs on its decision."
      : meetsTarget
        ? `That meets the ${target} the decision asks for.`
        : `The decision asks for ${target}; short of it: ${short.join(", ")}.`;
  return {
    factors,
    lowest,
    lowestFactors,
    ...(target === undefined ? {} : { target, meetsTarget }),
    sentence: `Credibility ${lowest} of 4, that of the lowest factor: ${lowestFactors.join(", ").toLowerCase()}. ${aim}`,
  };
}

function judged(f: Factor, facts: CredibilityFacts, stated: CredibilityStatement | undefined, target: CredibilityLevel | undefined): FactorJudged {
  const found = f.level(facts);
  const capped = found !== undefined && f.ofRuns && facts.stale && found > STALE_AT_MOST;
  const proposed = capped ? STALE_AT_MOST : found;
  const { level, changed } = withStatement(proposed, stated);
  const next = level === undefined || level === 4 ? undefined : f.criteria[level + 1];
  return {
    key: f.key,
    name: f.name,
    level,
    proposed,
    criterion: level === undefined ? "does not apply" : f.criteria[level],
    because: sentenceCase(`${f.because(facts)}.`),
    ...(capped || changed
      ? {
          changed: [
            ...(capped ? [`its runs are of an earlier set-up, which is worth ${STALE_AT_MOST} at most (${found} before)`] : []),
            ...(changed ? [changed] : []),
          ].join("; "),
        }
      : {}),
    ...(stated ? { stated } : {}),
    ...(target === undefined || level === undefined ? {} : { target }),
    ...(next === undefined || level === undefined
      ? {}
      : { gap: { sentence: `Level ${level + 1} asks: ${next}.`, go: f.go, missing: target === undefined ? 0 : Math.max(0, target - level) } }),
  };
}

/** What a person may change: down with a reason, up with a document, and to 1 where it only looks right. */
function withStatement(
  proposed: CredibilityLevel | undefined,
  s: CredibilityStatement | undefined,
): { level: CredibilityLevel | undefined; changed?: string } {
  if (!s || proposed === undefined) return { level: proposed };
  const signed = `${s.by} on ${s.at.slice(0, 10)}: ${s.reason}${s.link ? ` (${s.link})` : ""}`;
  if (s.kind === "looks-right")
    return proposed >= LOOKS_AT_MOST
      ? { level: proposed, changed: `that it looks right (${signed}) adds nothing to its evidence` }
      : { level: LOOKS_AT_MOST, changed: `it looks right, the weakest kind of evidence: ${signed}` };
  if (s.level === undefined) return { level: proposed };
  if (s.kind === "lower") return s.level < proposed ? { level: s.level, changed: `lowered from ${proposed} by ${signed}` } : { level: proposed };
  return s.level > proposed && s.link ? { level: s.level, changed: `raised from ${proposed} by ${signed}` } : { level: proposed };
}

/** The rules of this file in words. */
export const CREDIBILITY_RULES = rulesOf("core/method/credibility/credibility.ts", [
  {
    rule: "credibility",
    text: `Eight factors, each 0 to 4: ${FACTORS.map((f) => f.name.toLowerCase()).join(", ")}. A level is the highest whose criterion, and those of all levels below, the evidence meets. Evidence of an earlier set-up is worth 1 at most; "it looks right" is recorded and is worth 1 at most. A person may lower a level with a reason, and raise one only with a document. The summary is the lowest factor that applies, not an average. The level a decision asks for is half the sum of its consequence and the influence of the simulations (1 to 4 each), rounded down.`,
    source: "after NASA-STD-7009; criteria of this product",
  },
]);

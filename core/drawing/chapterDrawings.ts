import type { Reported } from "../assessment/stages/part.ts";
import type { ReportDocument } from "../formats/reportDocument.ts";
import { axisText } from "../formatting/number.ts";
import type { HistoryEvidence } from "../records/run.ts";
import { amongChart } from "./amongChart.ts";
import { curveOverMeshes, errorAgainstSpacing, orderChart, profileChart, residualChart, valueAgainstSpacing } from "./caseCharts.ts";
import { drawRule } from "./ruleDrawing.ts";
import { tornado } from "./tornado.ts";
import { valuePanels } from "./valuePanels.ts";

type Drawing = ReportDocument["drawings"][number];

/** What drawings are made from: what the report shows, and the record of the finest run. */
export interface Drawn extends Reported {
  readonly history?: HistoryEvidence | undefined;
}

const RULE_WIDTH = 720;
/** quantities whose refinement is drawn */
const DRAWN_QUANTITIES = 2;
/** curves that are drawn on every mesh */
const DRAWN_CURVES = 2;

/** Drawings of the chapters of a report, by chapter. */
const DRAWINGS: Readonly<Record<string, (d: Drawn) => Drawing[]>> = { rule, settling: residuals, refinement, comparison };

/** Drawings of one chapter of a report, in order; none where it has none. */
export const chapterDrawings = (key: string, d: Drawn): Drawing[] => DRAWINGS[key]?.(d) ?? [];

const drawing = (key: string, title: string, svg: string | undefined): Drawing[] => (svg ? [{ key, title, svg }] : []);

function rule({ assessment: { rules, inputs }, evidence: { quantities } }: Drawn): Drawing[] {
  const [first] = quantities;
  if (!rules[0]) return [];
  return [
    ...drawing("rule", `Error sources of ${first.name}`, drawRule(rules[0], RULE_WIDTH)),
    ...(inputs[0] ? drawing("inputs", `What the uncertainties of the conditions make of ${first.name}`, tornado(inputs[0], first.name)) : []),
  ];
}

function residuals({ assessment: a, evidence: e, runs, history }: Drawn): Drawing[] {
  const finest = runs.find((r) => r.id === a.ladder[0]);
  return finest && history ? drawing("residuals", `Residuals of ${finest.label}`, residualChart(history, e.dropTarget)) : [];
}

function refinement({ assessment: a, evidence: e }: Drawn): Drawing[] {
  const curves = a.curves.slice(0, DRAWN_CURVES).flatMap((c) => drawing(`curve-${c.key}`, `${c.name} on every mesh`, curveOverMeshes(c)));
  const scales = Object.fromEntries(a.rules.map((r) => [r.quantityKey, r.scale]));
  const panels = drawing("panels", "Every quantity against spacing", valuePanels(a.refinement, e.quantities, scales));
  const own = e.quantities.slice(0, DRAWN_QUANTITIES).flatMap((q) => {
    const study = a.refinement.find((x) => x.key === q.key);
    if (!study?.result) return [];
    const yardstick = a.comparison.values[q.key]?.[0];
    const scale = a.rules.find((x) => x.quantityKey === q.key)?.scale ?? 1;
    return [
      ...drawing(
        `value-${q.key}`,
        `${q.name} against spacing`,
        valueAgainstSpacing(study, q, yardstick && { value: yardstick.reference, name: yardstick.yardstick }),
      ),
      ...drawing(`error-${q.key}`, `Error of ${q.name} against spacing`, errorAgainstSpacing(study, q, scale)),
    ];
  });
  return [...own, ...(own.length ? panels : []), ...curves];
}

function comparison({ assessment: { comparison: found, curves: refined }, evidence: e, runs }: Drawn): Drawing[] {
  const curves = found.profiles.flatMap((p, i) => {
    const computed = runs.find((r) => r.id === p.runId)?.result?.profiles.find((x) => x.key === p.profileKey);
    const band = p.leading ? refined.find((c) => c.key === p.profileKey) : undefined;
    return computed
      ? drawing(`profile-${i}`, `${p.name}, ${p.runLabel} against ${p.yardstick}`, profileChart(p, computed, band ? { band } : {}))
      : [];
  });
  const among = e.quantities.slice(0, DRAWN_QUANTITIES).flatMap((q) => {
    const codes = found.codes[q.key];
    return codes ? drawing(`among-${q.key}`, `Runs among one another: ${q.name}`, amongChart(codes, axisText({ name: q.name, unit: q.unit }))) : [];
  });
  return [...among, ...curves, ...(found.orders ? drawing("orders", "Error norms against spacing", orderChart(found.orders, e.formalOrder)) : [])];
}

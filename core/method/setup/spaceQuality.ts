import type { LayersAlong } from "../../dataset/gridLayers.ts";
import { METRICS } from "../../dataset/metrics.ts";
import { percent, significant } from "../../formatting/number.ts";
import type { KeptMetric, SpaceQuality } from "../../records/spaceQuality.ts";
import { type Remark, type State, stateOf } from "../../remarks/remark.ts";
import { rulesOf } from "../../remarks/rule.ts";

export interface MetricLine {
  readonly metric: KeptMetric["metric"];
  readonly name: string;
  readonly unit: string;
  /** null without bound */
  readonly worst: number | null;
  readonly median: number | null;
  readonly limit: number;
  readonly beyond: number;
  readonly state: State;
}

export interface SpaceQualityAssessment {
  readonly file: string;
  readonly cells: number;
  readonly lines: readonly MetricLine[];
  /** along the outside, in the file's unit of length */
  readonly layers: readonly LayersAlong[];
  readonly length: string;
  readonly remarks: readonly Remark[];
  readonly state: State;
}

/** share of an interface that may face nothing */
const MOST_OPEN = 1e-3;

/** Judges the mesh of a run in space. Cells that are none are a stop; cells beyond a limit are looked at. @source method, section 10 */
export function assessSpaceQuality(label: string, q: SpaceQuality): SpaceQualityAssessment {
  const remarks: Remark[] = [];
  const say = (rule: string, severity: Remark["severity"], sentence: string) => remarks.push({ rule, severity, sentence: `${label}: ${sentence}` });
  const named = (list: readonly number[]) => `${list.slice(0, 5).join(", ")}${list.length > 5 ? " and more" : ""}`;
  if (q.inverted.length) say("mesh-cells", "stop", `cells whose volume is not positive: ${named(q.inverted)}.`);
  if (q.open.length) say("mesh-cells", "stop", `cells whose faces do not close: ${named(q.open)}.`);
  if (q.crowded) say("mesh-cells", "stop", `${q.crowded} faces belong to more than two cells.`);
  if (q.interfaces) {
    const { faces, area, open, at } = q.interfaces;
    const share = open / area;
    say(
      "mesh-interface",
      share > MOST_OPEN ? "doubt" : "note",
      `${faces} faces lie on others without being one with them, ${significant(area, 3)} ${q.length}^2 of both sides; ${
        open
          ? `${percent(share)} of it faces nothing, most of it at ${at.map((v) => significant(v, 3)).join(", ")} ${q.length}`
          : "all of it faces the other side"
      }.`,
    );
  }
  const lines = q.metrics.map((m): MetricLine => {
    const { name, unit } = METRICS[m.metric];
    if (m.beyond) {
      const [worst] = m.cells;
      const where = worst
        ? `, the worst ${worst.value === null ? "without bound" : significant(worst.value, 3)} in cell ${worst.cell} at ${worst.at.map((v) => significant(v, 3)).join(", ")} ${q.length}`
        : "";
      say(
        "mesh-metric",
        "doubt",
        `${m.beyond} of ${q.cells} cells (${percent(m.beyond / q.cells)}) lie beyond the limit of ${name}, ${m.limit}${unit === "deg" ? " degrees" : ""}${where}.`,
      );
    }
    return { metric: m.metric, name, unit, worst: m.worst, median: m.median, limit: m.limit, beyond: m.beyond, state: m.beyond ? "remark" : "holds" };
  });
  return { file: q.file.name, cells: q.cells, lines, layers: q.layers ?? [], length: q.length, remarks, state: stateOf(remarks) };
}

/** The rules of this file in words. */
export const SPACE_QUALITY_RULES = rulesOf("core/method/setup/spaceQuality.ts", [
  {
    rule: "mesh-cells",
    text: "Cells in space whose volume is not positive, whose faces do not close, or faces that more than two cells claim: no mesh. A stop.",
    source: "geometry",
  },
  {
    rule: "mesh-interface",
    text: "Where meshes that were made apart meet: the area of the faces that lie on others, and of it what faces nothing. A doubt above 0.1 %, with the place where most of it is.",
    source: "geometry",
  },
  {
    rule: "mesh-metric",
    text: "Cells beyond the limit of a metric: non-orthogonality 70 degrees, face skewness 0.5, equiangle skewness 0.85, aspect ratio 100, volume ratio of neighbours 5, ratio of face areas 100, warp of a face 20 degrees, unless other limits were given. A doubt, with the worst cell and its place.",
    source: "method, section 10",
  },
]);

import type { State } from "../remarks/remark.ts";
import type { Stage } from "./results/stage.ts";

export const DEPENDENCE_COLUMNS = ["files and set-up", "runs, yardsticks, statements", "verdicts", "reports"] as const;

export interface DependenceNode {
  readonly id: string;
  readonly column: (typeof DEPENDENCE_COLUMNS)[number];
  readonly label: string;
  readonly fresh: boolean;
  readonly go: Stage;
}

export interface Dependence {
  readonly nodes: readonly DependenceNode[];
  /** what is rested on, and what rests on it */
  readonly edges: readonly (readonly [from: string, to: string])[];
}

export interface DependenceInput {
  readonly runs: readonly { readonly id: string; readonly label: string; readonly current: boolean; readonly files: readonly string[] }[];
  readonly yardsticks: readonly { readonly key: string; readonly name: string }[];
  readonly statements: readonly { readonly label: string; readonly quantityKey: string | null; readonly current: boolean }[];
  readonly verdicts: readonly {
    readonly quantityKey: string;
    readonly name: string;
    readonly state: State;
    readonly yardsticks: readonly string[];
  }[];
  readonly reports: readonly { readonly number: number; readonly current: boolean }[];
}

/** What rests on what in a case, from files to reports; whatever rests on something stale is stale. */
export function dependenceOf(i: DependenceInput): Dependence {
  const edges: (readonly [string, string])[] = [];
  const nodes: DependenceNode[] = [{ id: "setup", column: "files and set-up", label: "the set-up", fresh: true, go: "question" }];
  for (const r of i.runs) {
    nodes.push({ id: `run ${r.id}`, column: "runs, yardsticks, statements", label: r.label, fresh: r.current, go: "runs" });
    edges.push(["setup", `run ${r.id}`]);
    for (const f of r.files) {
      if (!nodes.some((n) => n.id === `file ${f}`)) nodes.push({ id: `file ${f}`, column: "files and set-up", label: f, fresh: true, go: "runs" });
      edges.push([`file ${f}`, `run ${r.id}`]);
    }
  }
  for (const y of i.yardsticks)
    nodes.push({ id: `yardstick ${y.key}`, column: "runs, yardsticks, statements", label: y.name, fresh: true, go: "yardsticks" });
  i.statements.forEach((s, k) => {
    nodes.push({ id: `said ${k}`, column: "runs, yardsticks, statements", label: s.label, fresh: s.current, go: "verdict" });
  });
  const restsFresh = i.runs.every((r) => r.current);
  for (const v of i.verdicts) {
    const id = `verdict ${v.quantityKey}`;
    const said = i.statements.flatMap((s, k) =>
      s.quantityKey === null || s.quantityKey === v.quantityKey ? [{ id: `said ${k}`, current: s.current }] : [],
    );
    const fresh = v.state !== "stale" && restsFresh && said.every((s) => s.current);
    nodes.push({ id, column: "verdicts", label: v.name, fresh, go: "verdict" });
    edges.push(
      ...i.runs.map((r) => [`run ${r.id}`, id] as const),
      ...v.yardsticks.map((key) => [`yardstick ${key}`, id] as const),
      ...said.map((s) => [s.id, id] as const),
    );
  }
  for (const r of i.reports) {
    const id = `report ${r.number}`;
    nodes.push({ id, column: "reports", label: `report ${r.number}`, fresh: r.current, go: "report" });
    // Only the newest can rest on what stands here now; older ones rest on what stood then.
    if (r.number === Math.max(...i.reports.map((x) => x.number))) edges.push(...i.verdicts.map((v) => [`verdict ${v.quantityKey}`, id] as const));
  }
  return { nodes, edges };
}

import type { QuantityLine, SmallRule } from "@/core/assessment/results/boardRow";

export interface MatrixLine extends QuantityLine {
  readonly caseId: string;
  readonly title: string;
}

/** One case in the matrix: what stands in each column, nothing where the case has no such thing. */
export interface MatrixRow<Cell> {
  readonly caseId: string;
  readonly title: string;
  /** the quantity whose sources stand there */
  readonly quantity?: string;
  readonly cells: Readonly<Record<string, Cell>>;
}

/** Cases against quantities by name. */
export function byQuantity(lines: readonly MatrixLine[]): { columns: string[]; rows: MatrixRow<MatrixLine>[] } {
  const counts = new Map<string, number>();
  for (const l of lines) counts.set(l.name, (counts.get(l.name) ?? 0) + 1);
  const rows = new Map<string, { caseId: string; title: string; cells: Record<string, MatrixLine> }>();
  for (const l of lines) {
    const row = rows.get(l.caseId) ?? { caseId: l.caseId, title: l.title, cells: {} };
    row.cells[l.name] ??= l;
    rows.set(l.caseId, row);
  }
  // Those that several cases share come first: they are what a matrix is for.
  return { columns: [...counts].sort(([, a], [, b]) => b - a).map(([name]) => name), rows: [...rows.values()] };
}

type Source = SmallRule["sources"][number];

/** Cases against error sources, of each case the quantity that leads it, or the one named. */
export function bySource(lines: readonly MatrixLine[], quantity?: string): { columns: { key: string; name: string }[]; rows: MatrixRow<Source>[] } {
  const chosen = new Map<string, MatrixLine>();
  for (const l of lines) if (!chosen.has(l.caseId) && (quantity === undefined || l.name === quantity)) chosen.set(l.caseId, l);
  const columns = new Map<string, string>();
  for (const l of chosen.values()) for (const s of l.rule.sources) columns.set(s.key, s.name);
  return {
    columns: [...columns].map(([key, name]) => ({ key, name })),
    rows: [...chosen.values()].map((l) => ({
      caseId: l.caseId,
      title: l.title,
      quantity: l.name,
      cells: Object.fromEntries(l.rule.sources.map((s) => [s.key, s])),
    })),
  };
}

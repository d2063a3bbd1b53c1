import { type Column, DataTable } from "./DataTable";

/** A line in which two things differ. */
export interface Difference {
  readonly where: string;
  readonly left?: string;
  readonly right?: string;
}

/** Two things line by line, each under its name. */
export function DifferenceTable({ rows, left, right }: { rows: readonly Difference[]; left: string; right: string }) {
  return <DataTable className="mt-2" rows={rows} rowKey={(d) => `${d.where} ${d.left} ${d.right}`} columns={columnsOf(left, right)} />;
}

const columnsOf = (left: string, right: string): Column<Difference>[] => [
  { header: "Where", words: true, headClassName: "text-left w-64", className: "align-top", cell: (d) => d.where },
  { header: left, words: true, headClassName: "text-left", className: "align-top text-ink-2", cell: (d) => d.left ?? "–" },
  { header: right, words: true, headClassName: "text-left", className: "align-top text-ink-2", cell: (d) => d.right ?? "–" },
];

import type { ReportDocument } from "./reportDocument.ts";

/** Numbers of tables and figures, in the order a reader meets them: by key "Table 3", "Figure 2". */
export interface ReportNumbers {
  readonly tables: ReadonlyMap<string, string>;
  readonly figures: ReadonlyMap<string, string>;
}

/** Counts what the sections show; what is only in the files of the report has no number. */
export function reportNumbers(d: Pick<ReportDocument, "sections" | "pictures">): ReportNumbers {
  const tables = new Map<string, string>();
  const figures = new Map<string, string>();
  for (const s of d.sections) {
    for (const key of s.drawings) if (!figures.has(key)) figures.set(key, `Figure ${figures.size + 1}`);
    for (const p of d.pictures) if (p.stage === s.stage) figures.set(p.key, `Figure ${figures.size + 1}`);
    for (const key of s.tables) if (!tables.has(key)) tables.set(key, `Table ${tables.size + 1}`);
  }
  return { tables, figures };
}

/** The document with the numbers before its titles, as it is read and printed. */
export function withNumbers(d: ReportDocument): ReportDocument {
  const { tables, figures } = reportNumbers(d);
  const numbered = <T extends { readonly key: string; readonly title: string }>(list: readonly T[], numbers: ReadonlyMap<string, string>): T[] =>
    list.map((x) => (numbers.has(x.key) ? { ...x, title: `${numbers.get(x.key)}. ${x.title}` } : x));
  return { ...d, tables: numbered(d.tables, tables), drawings: numbered(d.drawings, figures), pictures: numbered(d.pictures, figures) };
}

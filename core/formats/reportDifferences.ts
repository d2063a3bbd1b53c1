import type { ReportDocument, ReportTable } from "./reportDocument.ts";

/** One line in which two issued reports differ. */
export interface ReportDifference {
  /** chapter, table and row, or what else it is of */
  readonly where: string;
  /** absent where the line stands in one report alone */
  readonly left?: string;
  readonly right?: string;
}

/**
 * Two reports line by line: verdicts, sentences of chapters, cells of tables by the words of their rows, and runs by their settings. Dates, numbers and
 * hashes that say only that a report is another one are left out.
 */
export function reportDifferences(left: ReportDocument, right: ReportDocument): ReportDifference[] {
  return [
    ...pairs("title", left.title, right.title),
    ...pairs("purpose", left.purpose, right.purpose),
    ...ofVerdicts(left, right),
    ...ofSections(left, right),
    ...ofTables(left, right),
    ...ofRuns(left, right),
  ];
}

const pairs = (where: string, a: string | undefined, b: string | undefined): ReportDifference[] =>
  a === b ? [] : [{ where, ...(a === undefined ? {} : { left: a }), ...(b === undefined ? {} : { right: b }) }];

/** Names of both lists, those of the first in their order before what the second adds. */
const union = (a: readonly string[], b: readonly string[]): string[] => [...new Set([...a, ...b])];

function ofVerdicts(left: ReportDocument, right: ReportDocument): ReportDifference[] {
  const of = (d: ReportDocument, quantity: string) => d.verdicts.find((v) => v.quantity === quantity);
  return union(
    left.verdicts.map((v) => v.quantity),
    right.verdicts.map((v) => v.quantity),
  ).flatMap((q) => {
    const [a, b] = [of(left, q), of(right, q)];
    return [
      ...pairs(`verdict on ${q}`, a?.word, b?.word),
      ...pairs(`claim on ${q}`, a && (a.claim ?? a.sentence), b && (b.claim ?? b.sentence)),
      ...pairs(`reasons on ${q}`, a?.reasons.join("; "), b?.reasons.join("; ")),
    ];
  });
}

/** Sentences that stand in one report alone, chapter by chapter; a sentence with other figures is one that went and one that came. */
function ofSections(left: ReportDocument, right: ReportDocument): ReportDifference[] {
  const of = (d: ReportDocument, stage: string) => d.sections.find((s) => s.stage === stage);
  return union(
    left.sections.map((s) => s.stage),
    right.sections.map((s) => s.stage),
  ).flatMap((stage) => {
    const [a, b] = [of(left, stage), of(right, stage)];
    const where = (a ?? b)?.title ?? stage;
    if (!a || !b) return pairs(`chapter ${where}`, a && "is there", b && "is there");
    const gone = a.sentences.filter((s) => !b.sentences.includes(s));
    const came = b.sentences.filter((s) => !a.sentences.includes(s));
    return Array.from({ length: Math.max(gone.length, came.length) }, (_, k) => pairs(where, gone[k], came[k])).flat();
  });
}

function ofTables(left: ReportDocument, right: ReportDocument): ReportDifference[] {
  const of = (d: ReportDocument, key: string) => d.tables.find((t) => t.key === key);
  return union(
    left.tables.map((t) => t.key),
    right.tables.map((t) => t.key),
  ).flatMap((key) => {
    const [a, b] = [of(left, key), of(right, key)];
    if (!a || !b) return pairs(`table ${(a ?? b)?.title ?? key}`, a && "is there", b && "is there");
    return ofRows(a, b);
  });
}

type Row = ReportTable["rows"][number];

/** What a row is called: the words at its beginning; of rows called alike the first of one is the first of the other. */
function named(t: ReportTable): Map<string, Row> {
  const seen = new Map<string, number>();
  return new Map(
    t.rows.map((row) => {
      const words = row
        .slice(
          0,
          Math.max(
            1,
            row.findIndex((c) => typeof c !== "string"),
          ),
        )
        .join(", ");
      const count = (seen.get(words) ?? 0) + 1;
      seen.set(words, count);
      return [count > 1 ? `${words} (${count})` : words, row] as const;
    }),
  );
}

function ofRows(a: ReportTable, b: ReportTable): ReportDifference[] {
  const [left, right] = [named(a), named(b)];
  return union([...left.keys()], [...right.keys()]).flatMap((name) => {
    const [x, y] = [left.get(name), right.get(name)];
    const where = `${a.title}, ${name}`;
    if (!x || !y) return pairs(where, x?.map(cellText).join(" | "), y?.map(cellText).join(" | "));
    const columns = union(
      a.columns.map((c) => c.name),
      b.columns.map((c) => c.name),
    );
    return columns.flatMap((column) => {
      const at = (t: ReportTable, row: Row) => {
        const k = t.columns.findIndex((c) => c.name === column);
        return k < 0 ? undefined : cellText(row[k] ?? null);
      };
      return pairs(`${where}, ${column}`, at(a, x), at(b, y));
    });
  });
}

const cellText = (c: Row[number]): string => (c === null ? "" : String(c));

function ofRuns(left: ReportDocument, right: ReportDocument): ReportDifference[] {
  const of = (d: ReportDocument) => {
    const seen = new Map<string, number>();
    return new Map(
      d.runs.map((r) => {
        const name = `${r.label}, ${r.code}`;
        const count = (seen.get(name) ?? 0) + 1;
        seen.set(name, count);
        return [count > 1 ? `${name} (${count})` : name, r.settingsHash] as const;
      }),
    );
  };
  const [a, b] = [of(left), of(right)];
  return union([...a.keys()], [...b.keys()]).flatMap((name) => pairs(`settings of ${name}`, a.get(name)?.slice(0, 16), b.get(name)?.slice(0, 16)));
}

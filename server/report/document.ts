import { reportChapters, type WrittenChapter } from "../../core/assessment/registry.ts";
import { nameOf } from "../../core/assessment/stages/table.ts";
import { nextText } from "../../core/assessment/verdict/verdict.ts";
import { KIND_WORDS } from "../../core/assessment/yardsticks/origin.ts";
import { chapterDrawings, type Drawn } from "../../core/drawing/chapterDrawings.ts";
import { credibilityProfile } from "../../core/drawing/credibilityProfile.ts";
import { fieldRange } from "../../core/drawing/fieldRaster.ts";
import type { ReportDocument } from "../../core/formats/reportDocument.ts";
import { settingsTables } from "../../core/formats/settingsTables.ts";
import { sentenceCase, unitText } from "../../core/formatting/number.ts";
import { scaleText } from "../../core/formatting/scale.ts";
import type { Credibility } from "../../core/method/credibility/credibility.ts";
import { described } from "../../core/problems/describe/catalogue.ts";
import { DECISION_WORDS } from "../../core/records/programme.ts";
import { type FieldSource, readFields } from "../desk/fields.ts";
import { type RecordMaterial, readRecord } from "../desk/records.ts";
import type { CaseBook } from "../usecases/caseBook.ts";
import { cellPicture, fieldChapter, type StudiedMesh } from "./fieldChapter.ts";

/** What whoever issues a report chose of it. */
export interface Composed {
  /** keys of chapters in their order */
  readonly blocks?: readonly string[] | undefined;
  /** words of one's own, in Markdown */
  readonly text?: string | undefined;
  /** what is said under figures and tables, by their key */
  readonly captions?: Readonly<Record<string, string>> | undefined;
  /** other cases that stand in it too, in their order */
  readonly also?: readonly string[] | undefined;
}

/** What a report shows of one case, with the places of what lies in blobs. */
export interface CaseMaterial {
  readonly book: CaseBook;
  /** how credible the leading quantity is, where the case has one */
  readonly credibility?: Credibility;
  /** records of the runs the case rests on */
  readonly records: Readonly<Record<string, RecordMaterial>>;
  /** fields of the finest run, where it left any */
  readonly fields?: FieldSource;
  /** meshes of the family that left fields, the finest three, finest first */
  readonly studied: readonly StudiedMesh[];
}

/** All a report is made of. */
export interface ReportMaterial {
  /** the one it is issued of, then the others */
  readonly cases: readonly [CaseMaterial, ...CaseMaterial[]];
  readonly number: number;
  readonly issuedBy: string;
  readonly issuedAt: Date;
  readonly composed?: Composed;
  readonly programme: string;
  /** folder of the blobs */
  readonly blobs: string;
}

/** Everything a report shows, taken from the assessments of its cases: no figure is worked out here. */
export async function buildReport(material: ReportMaterial): Promise<ReportDocument> {
  const { cases, number, issuedBy, issuedAt, programme, composed = {} } = material;
  const [{ book: lead }] = cases;
  const parts: CasePart[] = [];
  const numbers: Numbered[] = [];
  for (const [k, of] of cases.entries()) {
    numbers.push(numbered(of.book, Math.max(0, ...numbers.flatMap((n) => [...n.values()]))));
    const part = cited(await casePart(material.blobs, of, composed.blocks), numbers[k]);
    parts.push(cases.length > 1 ? namedPart(part, k, of.book.row.title) : part);
  }
  const captioned = <T extends { readonly key: string }>(list: readonly T[]): (T & { caption?: string })[] =>
    list.map((x) => (composed.captions?.[x.key]?.trim() ? { ...x, caption: composed.captions[x.key].trim() } : x));
  const first = decisionChapter(material);
  return {
    format: "tin-ruler-report",
    version: 1,
    number,
    issuedBy,
    issuedAt: issuedAt.toISOString(),
    caseId: lead.row.id,
    title: lead.row.title,
    purpose: lead.row.purpose,
    programme,
    evidenceHash: lead.evidenceHash,
    ...(cases.length > 1 ? { cases: cases.map(({ book: { row, evidenceHash } }) => ({ caseId: row.id, title: row.title, evidenceHash })) } : {}),
    verdicts: parts.flatMap((p) => p.verdicts),
    sections: [
      { stage: first.key, title: first.title, sentences: [...first.sentences], tables: [], drawings: [] },
      ...(composed.text?.trim()
        ? [{ stage: "words", title: "In our own words", sentences: [], markdown: composed.text.trim(), tables: [], drawings: [] }]
        : []),
      ...parts.flatMap((p) => p.sections),
      ...referencesOf(cases, numbers),
    ],
    tables: captioned(parts.flatMap((p) => p.tables)),
    drawings: captioned(parts.flatMap((p) => p.drawings)),
    pictures: captioned(parts.flatMap((p) => p.pictures)),
    runs: parts.flatMap((p) => p.runs),
  };
}

type CasePart = Pick<ReportDocument, "verdicts" | "sections" | "tables" | "drawings" | "pictures" | "runs">;

/** Chapters, tables and figures of one case. */
async function casePart(blobs: string, material: CaseMaterial, blocks: Composed["blocks"]): Promise<CasePart> {
  const { book, records, credibility } = material;
  const { assessment: a, evidence: e, row } = book;
  const finest = book.runs.find((r) => r.id === a.ladder[0]);
  const record = finest && records[finest.id];
  const drawn = drawnOf(book, record && (await readRecord(blobs, record.source)));
  const { problemId } = row.setup;
  const inTime = problemId !== null && described(problemId).physicsWords.time === "transient";
  const studied = await fieldChapter(blobs, material.studied, { formalOrder: e.formalOrder, inTime });
  const written = reportChapters(drawn).flatMap((c) => (c.key === "refinement" && studied ? [c, studied.chapter] : [c]));
  const all = [...written, ...(credibility ? [credibilityChapter(credibility, book)] : []), findingsOf(book), appendixOf(material)];
  const chapters = chosen(all, blocks);
  const drawings = new Map(chapters.map((c) => [c.key, chapterDrawings(c.key, drawn)]));
  return {
    verdicts: a.verdicts.map((v) => ({
      quantity: nameOf(e, v.quantityKey),
      word: v.word,
      sentence: v.sentence,
      reasons: v.reasons.map((r) => r.sentence),
      claim: v.claim.sentence,
      ...(v.claim.byArgument.length ? { byArgument: [...v.claim.byArgument] } : {}),
      ...(v.next ? { next: nextText(v.next) } : {}),
    })),
    sections: chapters.map((c) => ({
      stage: c.key,
      title: c.title,
      sentences: [...c.sentences],
      // Curves of the finest run go with the files of the report; its pages show them drawn.
      tables: c.tables.map((t) => t.key).filter((key) => !key.startsWith("profile-")),
      drawings: c.key === PROFILE ? [PROFILE] : (drawings.get(c.key) ?? []).map((d) => d.key),
    })),
    tables: chapters.flatMap((c) => c.tables),
    drawings: [
      ...[...drawings.values()].flat(),
      ...(credibility && chapters.some((c) => c.key === PROFILE)
        ? [{ key: PROFILE, title: "Credibility, factor by factor", svg: credibilityProfile(credibility) }]
        : []),
    ],
    pictures: [...(finest ? await fieldPictures(blobs, material.fields, finest.label) : []), ...(studied ? [studied.picture] : [])],
    runs: book.runs.map((r) => ({ label: r.label, code: r.code, settingsHash: r.settingsHash, settings: r.settings })),
  };
}

/** The part of one of several cases: what it is called says which, and no key stands twice. */
function namedPart(part: CasePart, index: number, title: string): CasePart {
  const keyed = (key: string) => `${index + 1}/${key}`;
  const of = <T extends { readonly key: string; readonly title: string }>(list: readonly T[]): T[] =>
    list.map((x) => ({ ...x, key: keyed(x.key), title: `${title}: ${x.title}` }));
  return {
    verdicts: part.verdicts.map((v) => ({ ...v, quantity: `${title}: ${v.quantity}` })),
    sections: part.sections.map((s) => ({
      ...s,
      stage: keyed(s.stage),
      title: `${title}: ${s.title}`,
      tables: s.tables.map(keyed),
      drawings: s.drawings.map(keyed),
    })),
    tables: of(part.tables),
    drawings: of(part.drawings),
    pictures: of(part.pictures).map((p) => ({ ...p, stage: keyed(p.stage) })),
    runs: part.runs.map((r) => ({ ...r, label: `${title}: ${r.label}` })),
  };
}

/** What the chapters of a report are written and drawn from. */
function drawnOf({ assessment, evidence, row, runs, meshes }: CaseBook, history: Drawn["history"]): Drawn {
  return {
    assessment,
    evidence,
    history,
    setup: row.setup,
    purpose: row.purpose,
    runs: runs.map((r) => {
      const mesh = meshes.find((m) => m.id === r.meshId);
      const { id, label, code, origin, state, iterations, seconds, settingsHash, result } = r;
      return { id, label, code, origin, state, iterations, seconds, settingsHash, result, cells: mesh?.cells, spacing: mesh?.spacing };
    }),
  };
}

/** Chapters that were chosen, in their order; all of them where nothing was. */
function chosen(all: readonly WrittenChapter[], blocks: readonly string[] | undefined): WrittenChapter[] {
  if (!blocks) return [...all];
  return blocks.flatMap((key) => all.find((c) => c.key === key) ?? []);
}

/** One page for whoever decides: the question, what may be claimed, how credible it is, and what is in doubt. */
function decisionChapter({ cases }: ReportMaterial): WrittenChapter {
  const sentences = cases.flatMap(({ book, credibility }) => {
    const said = decisionSentences(book, credibility);
    return cases.length > 1 ? said.map((t, k) => (k ? t : `${book.row.title}. ${t}`)) : said;
  });
  return { key: "decision", title: "For the decision", sentences, tables: [] };
}

function decisionSentences({ row, evidence, assessment }: CaseBook, credibility: Credibility | undefined): string[] {
  const open = (evidence.openFindings ?? []).map((f) => `${f.title} (${f.blocking ? "blocking" : "major"})`);
  return [
    row.purpose ? `Question: ${row.purpose}` : "",
    ...assessment.verdicts.map((v) => `${sentenceCase(nameOf(evidence, v.quantityKey))}: ${v.word}. ${v.claim.sentence}`),
    `Decision rule: ${DECISION_WORDS[evidence.decision ?? "both-ways"]}.`,
    credibility?.sentence ?? "",
    open.length ? `Open findings: ${open.join("; ")}.` : "No finding is open.",
  ].filter(Boolean);
}

/** key of the chapter of credibility, its table and its drawing */
const PROFILE = "credibility";

/** The profile of credibility, lowest factor first in words, with what was said of it. */
function credibilityChapter(c: Credibility, { evidence: { quantities } }: CaseBook): WrittenChapter {
  return {
    key: PROFILE,
    title: "Credibility",
    sentences: [`${c.sentence} Judged for ${quantities[0].name}.`],
    tables: [
      {
        key: PROFILE,
        title: "Credibility, factor by factor",
        columns: ["factor", "level, of 4", "asked for", "what that level means", "because", "changed"].map((name) => ({ name, unit: "" })),
        rows: c.factors.map((f) => [f.name, f.level ?? "does not apply", f.target ?? "", f.criterion, f.because, f.changed ?? ""]),
      },
    ],
  };
}

/** What persons found out about a case, which no assessment knows. */
function findingsOf(book: CaseBook): WrittenChapter {
  const sentences = book.findings.map((f) => {
    const cause = f.cause ? ` Suspected cause: ${f.cause}` : "";
    const change = f.change ? ` Changed: ${f.change}` : "";
    const cured = f.curedBy ? ` Cured by ${book.runs.find((r) => r.id === f.curedBy)?.label ?? "a deleted run"}.` : " Open.";
    return sentenceCase(`${f.title}: ${f.what}${cause}${change}${cured}`);
  });
  return { key: "findings", title: "Findings", sentences: sentences.length ? sentences : ["None written."], tables: [] };
}

/** Everything the runs were made with, and the sums by which files and evidence are known. */
function appendixOf({ book, records }: CaseMaterial): WrittenChapter {
  const words = (name: string) => ({ name, unit: "" });
  const recordOf = (id: string) => {
    const source = records[id]?.source;
    return source && "stored" in source ? source.stored.blob : null;
  };
  const files = book.runs.flatMap((r) => (r.settings.files ?? []).map((f) => [r.label, f.name, f.hash]));
  const listed = (key: string, title: string, columns: readonly string[], rows: readonly (readonly (string | null)[])[]) =>
    rows.length ? [{ key, title, columns: columns.map(words), rows: rows.map((r) => [...r]) }] : [];
  return {
    key: "appendix",
    title: "Appendix: settings and hashes",
    sentences: book.runs.length
      ? ["Hashes are SHA-256: of settings over their text with keys in order, of records and files over their bytes."]
      : ["No run yet."],
    tables: [
      ...settingsTables(book.runs),
      ...listed(
        "hashes",
        "Hashes of runs",
        ["run", "code", "settings", "record"],
        book.runs.map((r) => [r.label, r.build?.version ? `${r.code} ${r.build.version}` : r.code, r.settingsHash, recordOf(r.id)]),
      ),
      ...listed("file-hashes", "Files the runs were made of", ["run", "file", "hash"], files),
    ],
  };
}

/** Yardsticks by their number in the report. */
type Numbered = ReadonlyMap<string, number>;

/** Numbers the yardsticks of a case, going on from those of the cases before. */
function numbered({ evidence }: CaseBook, from: number): Numbered {
  return new Map([...new Set(evidence.yardsticks.map((y) => y.name))].map((name, k) => [name, from + k + 1]));
}

/** Every table that names yardsticks in a column of their own, with their numbers. */
function cited(part: CasePart, numbers: Numbered): CasePart {
  const mark = (cell: string | number | null) => (typeof cell === "string" && numbers.has(cell) ? `${cell} [${numbers.get(cell)}]` : cell);
  return {
    ...part,
    tables: part.tables.map((t) => {
      const at = t.columns.findIndex((c) => c.name === "yardstick");
      return at < 0 ? t : { ...t, rows: t.rows.map((r) => r.map((c, k) => (k === at ? mark(c) : c))) };
    }),
  };
}

/** Sources of all yardsticks, as the tables cite them. */
function referencesOf(cases: ReportMaterial["cases"], numbers: readonly Numbered[]): ReportDocument["sections"] {
  const sentences = cases.flatMap(({ book: { evidence } }, k) =>
    [...numbers[k]].map(([name, n]) => {
      const y = evidence.yardsticks.find((x) => x.name === name);
      return `[${n}] ${name}${y ? ` (${KIND_WORDS[y.kind]}): ${y.source}.` : ""}`;
    }),
  );
  return sentences.length ? [{ stage: "references", title: "References", sentences, tables: [], drawings: [] }] : [];
}

/** The first field on the finest mesh, speed as a rule, cell values as they are. */
async function fieldPictures(blobs: string, source: FieldSource | undefined, label: string): Promise<ReportDocument["pictures"]> {
  if (!source) return [];
  const { mesh, fields } = await readFields(blobs, source);
  const { name, unit, values } = fields[0];
  const range = fieldRange(values);
  return [
    {
      key: "speed",
      stage: "runs",
      title: `${sentenceCase(name)} on ${label}, cell values, ${range.map(scaleText(range).whole).join(" to ")} ${unitText(unit)}`.trimEnd(),
      pngBase64: cellPicture(mesh, values, range),
    },
  ];
}

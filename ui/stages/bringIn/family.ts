import { ownerOf, readFileName } from "@/core/intake/fileNames";
import type { SheetPreview } from "@/core/intake/historyImport";
import type { Input } from "../../api/call";
import { call } from "../../api/call";
import { cellsOf } from "./RunWords";
import type { Problem } from "./useReading";

/** A file of a family as it was read: a record, or a table of results. */
export interface Read {
  readonly name: string;
  readonly text: string;
  readonly record?: SheetPreview;
  readonly table?: { readonly rows: readonly { name: string; value: number; unit?: string }[]; readonly roles: readonly string[] };
  readonly problems: readonly Problem[];
}

/** A run of a family: its name and cells as typed, and the files that hold its record and its results. */
export interface FamilyRun {
  readonly label: string;
  readonly cells: string;
  readonly record: string;
  readonly table: string;
}

/** A file is a table of results where it has the columns name and value; else a record. */
export async function readFile(caseId: string, file: File): Promise<Read> {
  const text = await file.text();
  const sent = { name: file.name, text };
  const head = text.slice(0, 2000).toLowerCase();
  const asTable = /(^|\n)\s*"?(name|quantity|what)"?\s*[,;\t]/.test(head) && /[,;\t]\s*"?(value|result)/.test(head);
  const answer = await call("POST /cases/{id}/preview", {
    at: { id: caseId },
    input: asTable ? { history: null, quantities: sent } : { history: sent, quantities: null },
  });
  // A unit that is missing is asked for below; only what cannot be read at all stands in the way.
  const fatal = answer.history || answer.quantities ? [] : answer.problems;
  return { ...sent, record: answer.history as SheetPreview | undefined, table: answer.quantities, problems: fatal };
}

/** The runs a set of files seems to hold: one a record, or one a table where there are no records, each with the table its name speaks of. */
export function runsOf(read: readonly Read[]): FamilyRun[] {
  const records = read.filter((r) => r.record);
  const tables = read.filter((r) => r.table);
  const named = (records.length ? records : tables).map((r) => ({ ...readFileName(r.name), file: r.name }));
  const labels = named.map((n) => n.label);
  const only = tables.length === 1 && named.length === 1;
  const tableOf = (k: number) => tables.find((t) => (only ? 0 : ownerOf(t.name, labels)) === k)?.name ?? "";
  return named.map((n, k) => ({
    label: n.label,
    cells: n.cells ? String(n.cells) : "",
    record: records.length ? n.file : "",
    table: records.length ? tableOf(k) : n.file,
  }));
}

/** What a column or row is, and its unit. */
export interface Mapped {
  readonly role: string;
  readonly unit: string;
}

/** Entries by name in the order of the files, the first of equals kept. */
function byName(entries: readonly (readonly [name: string, Mapped])[]): Record<string, Mapped> {
  const out: Record<string, Mapped> = {};
  for (const [name, mapped] of entries) out[name] = out[name] ?? mapped;
  return out;
}

export const columnsOf = (records: readonly Read[]) =>
  byName(
    records.flatMap(({ record: r }) => (r?.header ?? []).map((h, i) => [h, { role: r?.roles[i] ?? "ignore", unit: r?.units[i] ?? "" }] as const)),
  );

export const rowsOf = (tables: readonly Read[]) =>
  byName(
    tables.flatMap(({ table: t }) => (t?.rows ?? []).map((row, i) => [row.name, { role: t?.roles[i] ?? "ignore", unit: row.unit ?? "" }] as const)),
  );

const rolesOf = (x: Readonly<Record<string, Mapped>>) => Object.fromEntries(Object.entries(x).map(([n, v]) => [n, v.role]));
const unitsOf = (x: Readonly<Record<string, Mapped>>) =>
  Object.fromEntries(Object.entries(x).flatMap(([n, v]) => (v.unit.trim() ? [[n, v.unit.trim()]] : [])));

/** The mapped runs as they are sent. */
export function familyInput(
  read: readonly Read[],
  runs: readonly FamilyRun[],
  columns: Readonly<Record<string, Mapped>>,
  rows: Readonly<Record<string, Mapped>>,
): Pick<Input<"POST /cases/{id}/bring-in-family">, "roles" | "columnRoles" | "columnUnits" | "rowRolesByName" | "rowUnitsByName" | "runs"> {
  const textOf = (name: string) => {
    const file = read.find((r) => r.name === name);
    return file ? { name, text: file.text } : null;
  };
  return {
    roles: [],
    columnRoles: rolesOf(columns),
    columnUnits: unitsOf(columns),
    rowRolesByName: rolesOf(rows),
    rowUnitsByName: unitsOf(rows),
    runs: runs.map((r) => ({ label: r.label, cells: Math.round(cellsOf(r.cells)), history: textOf(r.record), quantities: textOf(r.table) })),
  };
}

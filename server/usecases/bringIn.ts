import { z } from "zod";
import { type DelimitedTable, type FileProblem, MOST_BYTES, readDelimited } from "../../core/formats/delimited.ts";
import { buildHistory, type ColumnRole, guessRoles } from "../../core/formats/historyImport.ts";
import { buildQuantities, guessRowRoles, type QuantityRow, type RowRole, readQuantityRows } from "../../core/formats/quantityImport.ts";
import { representativeSpacing } from "../../core/mesh/quality.ts";
import { setupFingerprint } from "../../core/problems/caseSetup.ts";
import type { QuantitySpec } from "../../core/problems/problem.ts";
import type { RunSettings } from "../../core/problems/runSettings.ts";
import { parseQuantity } from "../../core/units/units.ts";
import { doublesToBytes } from "../blobs/blobStore.ts";
import type { HistoryColumn } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { ensureMesh, insertRun, type RunRow, saveHistory } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

const FileInput = z.object({ name: z.string().max(200), text: z.string().max(MOST_BYTES, "The file is larger than 16 MB.") });
const Role = z
  .string()
  .max(60)
  .regex(/^(iteration|time|residual|log-residual|ignore|boundary-mass|quantity:[\w-]+)$/);

export const PreviewInput = z.object({ history: FileInput.nullable(), quantities: FileInput.nullable() });

export const BringInInput = PreviewInput.extend({
  label: z.string().trim().min(1, "Name the run.").max(80),
  code: z.string().trim().min(1, "Name the code that made it.").max(80),
  cells: z.number().int().min(1, "The number of cells is needed to place the run on the ladder.").max(1e10),
  volume: z.string().max(60),
  dimension: z.union([z.literal(2), z.literal(3)]),
  roles: z.array(Role).max(400),
  rowRoles: z.array(Role).max(4000),
});

export interface Preview {
  readonly history?: {
    readonly header: readonly string[];
    readonly units: readonly (string | undefined)[];
    readonly delimiter: string;
    readonly rows: number;
    readonly sample: readonly (readonly string[])[];
    readonly roles: readonly ColumnRole[];
    readonly notes: readonly string[];
  };
  readonly quantities?: { readonly rows: readonly QuantityRow[]; readonly roles: readonly RowRole[] };
  readonly problems: readonly (FileProblem & { readonly file: string })[];
}

/** Reads the files and guesses what their columns and rows are. Stores nothing. */
export async function previewFiles(opened: Store, caseId: string, input: z.infer<typeof PreviewInput>): Promise<Preview> {
  const known = await listQuantities(opened.db, caseId);
  const problems: (FileProblem & { file: string })[] = [];
  const table = (file: { name: string; text: string }): DelimitedTable | undefined => {
    const read = readDelimited(file.text);
    if (read.ok) return read.table;
    problems.push(...read.problems.map((p) => ({ ...p, file: file.name })));
    return undefined;
  };
  const h = input.history && table(input.history);
  const q = input.quantities && table(input.quantities);
  let history: Preview["history"];
  if (h && input.history) {
    const roles = guessRoles(h, known);
    const built = buildHistory(h, roles);
    if (!built.ok) problems.push(...built.problems.map((p) => ({ ...p, file: input.history?.name ?? "" })));
    history = {
      header: h.header,
      units: h.units,
      delimiter: h.delimiter,
      rows: h.cells.length,
      sample: h.cells.slice(0, 5),
      roles,
      notes: built.ok ? built.notes : [],
    };
  }
  let quantities: Preview["quantities"];
  if (q && input.quantities) {
    const read = readQuantityRows(q);
    if (read.ok) quantities = { rows: read.rows, roles: guessRowRoles(read.rows, known) };
    else problems.push(...read.problems.map((p) => ({ ...p, file: input.quantities?.name ?? "" })));
  }
  return { history, quantities, problems };
}

/** Makes a run of confirmed files. Nothing is stored unless everything can be read. */
export async function bringIn(opened: Store, caseId: string, input: z.infer<typeof BringInInput>, at = new Date()): Promise<RunRow> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  if (!input.history && !input.quantities) throw new UseCaseError("invalid", "Choose a history or a table of quantities.");
  const known = await listQuantities(opened.db, caseId);
  const volume = parseQuantity(input.volume, input.dimension === 3 ? "m^3" : "m^2");
  if (!volume.ok || !(volume.si > 0)) throw new UseCaseError("invalid", volume.ok ? "The volume must be positive." : volume.sentence);
  const files: { name: string; hash: string }[] = [];
  const history = input.history && readHistory(input.history, input.roles as ColumnRole[]);
  const delivered = input.quantities
    ? readQuantities(input.quantities, input.rowRoles as RowRole[], known)
    : { quantities: lastValues(history?.quantities ?? {}), balance: undefined };
  for (const f of [input.history, input.quantities])
    if (f) files.push({ name: f.name, hash: await opened.blobs.put(new TextEncoder().encode(f.text)) });
  const spacing = representativeSpacing(volume.si, input.cells, input.dimension);
  const mesh = await ensureMesh(opened.db, {
    caseId,
    label: input.label,
    cells: input.cells,
    spacing,
    dimension: input.dimension,
    hash: hashOf({ cells: input.cells, spacing, dimension: input.dimension }),
  });
  const settings: RunSettings = {
    problemId: null,
    parameters: row.setup.parameters,
    numerics: row.setup.numerics,
    mesh: { cells: input.cells, spacingM: spacing, dimension: input.dimension },
    code: input.code,
    files,
  };
  const run = await insertRun(opened.db, {
    caseId,
    meshId: mesh.id,
    label: input.label,
    origin: "brought-in",
    code: input.code,
    state: "done",
    settings,
    settingsHash: hashOf(settings),
    setupHash: hashOf(setupFingerprint(row.setup)),
    result: { quantities: delivered.quantities, balance: delivered.balance, profiles: [], errorNorms: [] },
    iterations: history?.iteration.length ?? 0,
    // A record in time stands for its mean; where a table of results came with it, that is taken at its word.
    ...(history?.time && !input.quantities ? { judging: { average: true } } : {}),
    createdAt: at,
    finishedAt: at,
  });
  if (history) {
    const columns: HistoryColumn[] = [
      { role: "iteration", key: "iteration" },
      ...(history.time ? [{ role: "time" as const, key: "time" }] : []),
      ...Object.keys(history.residuals).map((key) => ({ role: "residual" as const, key })),
      ...Object.keys(history.quantities).map((key) => ({ role: "quantity" as const, key })),
    ];
    const data = [
      history.iteration,
      ...(history.time ? [history.time] : []),
      ...Object.values(history.residuals),
      ...Object.values(history.quantities),
    ].flat();
    await saveHistory(opened.db, { runId: run.id, columns, rows: history.iteration.length, blob: await opened.blobs.put(doublesToBytes(data)) });
  }
  return run;
}

function refuse(file: string, problems: readonly FileProblem[]): never {
  const first = problems[0];
  throw new UseCaseError(
    "invalid",
    `${file}, line ${first.line}${first.column ? `, column "${first.column}"` : ""}: ${first.sentence} Nothing was stored.`,
    problems.map((p) => ({ ...p, file })),
  );
}

function tableOf(file: { name: string; text: string }): DelimitedTable {
  const read = readDelimited(file.text);
  return read.ok ? read.table : refuse(file.name, read.problems);
}

function readHistory(file: { name: string; text: string }, roles: ColumnRole[]) {
  const table = tableOf(file);
  if (roles.length !== table.header.length)
    refuse(file.name, [{ line: 1, sentence: `${roles.length} columns were mapped but the file has ${table.header.length}.` }]);
  const built = buildHistory(table, roles);
  return built.ok ? built.history : refuse(file.name, built.problems);
}

function readQuantities(file: { name: string; text: string }, roles: RowRole[], known: readonly QuantitySpec[]) {
  const read = readQuantityRows(tableOf(file));
  if (!read.ok) refuse(file.name, read.problems);
  const built = buildQuantities(read.rows, roles, known);
  return built.ok ? built : refuse(file.name, built.problems);
}

/** Where no table of quantities came, the last entry of each record stands for the result. */
function lastValues(records: Readonly<Record<string, readonly number[]>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(records).flatMap(([key, v]) => {
      const last = v.filter(Number.isFinite).at(-1);
      return last === undefined ? [] : [[key, last]];
    }),
  );
}

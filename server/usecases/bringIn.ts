import { z } from "zod";
import { type DelimitedTable, type FileProblem, MOST_BYTES, readDelimited, readSheet, type Sheet } from "../../core/formats/delimited.ts";
import { type ColumnRole, guessRoles } from "../../core/intake/columnRoles.ts";
import { buildHistory, type SheetPreview } from "../../core/intake/historyImport.ts";
import {
  buildQuantities,
  type FluxReading,
  guessRowRoles,
  PLAIN_FLUXES,
  type QuantityRow,
  type RowRole,
  readQuantityRows,
  SIGNS,
} from "../../core/intake/quantityImport.ts";
import { applyRecipe } from "../../core/intake/recipes.ts";
import { representativeSpacing } from "../../core/mesh/quality.ts";
import type { Numbers } from "../../core/numeric/numbers.ts";
import { dimensionOf, physicsOf, setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { BalanceRecord } from "../../core/records/balance.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import { parseQuantity } from "../../core/units/units.ts";
import { doublesToBytes } from "../blobs/blobStore.ts";
import type { HistoryColumn } from "../db/schema.ts";
import type { Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { dropReading, findReading, type Reading } from "../jobs/readings.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { listRecipes, saveRecipe } from "../repositories/recipes.ts";
import { ensureMesh, findRun, insertRun, type RunRow, saveHistory, updateRun } from "../repositories/runs.ts";
import { UseCaseError } from "./failure.ts";

const FileInput = z.object({ name: z.string().max(200), text: z.string().max(MOST_BYTES, "The file is larger than 16 MB.") });
export const Role = z
  .string()
  .max(60)
  .regex(
    /^(iteration|time|residual|log-residual|ignore|boundary-(mass|x|y|energy|species)|quantity:[\w-]+)$/,
    "A role is iteration, time, residual, log-residual, ignore, boundary-mass, -x, -y, -energy, -species, or quantity: and its key.",
  );
/** A row of a table of results is no iteration, no time and no residual. */
export const RowRoleInput = z
  .string()
  .max(60)
  .regex(
    /^(ignore|boundary-(mass|x|y|energy|species)|quantity:[\w-]+)$/,
    "A row is ignore, boundary-mass, -x, -y, -energy, -species, or quantity: and its key.",
  );
export const Units = z.array(z.string().max(60).nullable()).max(400);

export const PreviewInput = z.object({ history: FileInput.nullable(), quantities: FileInput.nullable() });

/** Settings of one run, where they are its own. */
const StatedInput = z.object({
  schemeOrder: z.union([z.literal(1), z.literal(2)]).optional(),
  dropOrders: z.number().min(0.1).max(16).optional(),
  timeStepS: z.number().positive().optional(),
  note: z.string().trim().max(200).optional(),
});

/** What is said of every brought-in run besides its files. */
export const RunWords = z.object({
  label: z.string().trim().min(1, "Name the run.").max(80),
  code: z.string().trim().min(1, "Name the code that made it.").max(80),
  cells: z.number().int().min(1, "The number of cells is needed to place the run on the ladder.").max(1e10),
  volume: z.string().max(60),
  /** of the mesh; the case's own space unless given */
  dimension: z.union([z.literal(2), z.literal(3)]).optional(),
  roles: z.array(Role).max(400),
  units: Units.optional(),
  /** name under which the mapping is kept for the next file */
  recipe: z.string().trim().max(80).optional(),
});
export type RunWords = z.infer<typeof RunWords>;

export const BringInInput = RunWords.extend({
  history: z.union([FileInput, z.object({ reading: z.uuid() })]).nullable(),
  quantities: FileInput.nullable(),
  rowRoles: z.array(RowRoleInput).max(4000),
  rowUnits: z.array(z.string().max(60).nullable()).max(4000).optional(),
  fluxes: z.object({ signs: z.enum(SIGNS), factor: z.number().min(1).max(1000) }).default(PLAIN_FLUXES),
  /** what this run was made with where it differs from the case */
  own: StatedInput.optional(),
});

export interface Preview {
  readonly history?: SheetPreview;
  readonly quantities?: { readonly rows: readonly QuantityRow[]; readonly roles: readonly RowRole[] };
  readonly problems: readonly (FileProblem & { readonly file: string })[];
}

/** A sheet with what its columns seem to be, by the newest recipe that fits or by their names. */
export async function previewSheet(
  opened: Store,
  caseId: string,
  sheet: Sheet,
): Promise<{ preview: SheetPreview; problems: readonly FileProblem[] }> {
  const known = await knownQuantities(opened, caseId);
  const fitting = [...(await listRecipes(opened.db))].reverse().flatMap((r) => {
    const applied = applyRecipe(r.data.columns, sheet.header, known);
    return applied ? [{ name: r.name, code: r.data.code, dimension: r.data.dimension, ...applied }] : [];
  })[0];
  const roles = fitting?.roles ?? guessRoles(sheet, known);
  const units = fitting ? sheet.units.map((u, i) => fitting.units[i] ?? u) : sheet.units;
  const built = buildHistory(sheet, roles, known, units);
  const { header, delimiter, rows, sample } = sheet;
  const recipe = fitting && { name: fitting.name, code: fitting.code, dimension: fitting.dimension };
  return {
    preview: { header, units, delimiter, rows, sample, roles, ...(recipe ? { recipe } : {}), notes: built.ok ? built.notes : [] },
    problems: built.ok ? [] : built.problems,
  };
}

/** Reads the files and guesses what their columns and rows are. Stores nothing. */
export async function previewFiles(opened: Store, caseId: string, input: z.infer<typeof PreviewInput>): Promise<Preview> {
  const known = await knownQuantities(opened, caseId);
  const problems: (FileProblem & { file: string })[] = [];
  const wrong = (file: string, found: readonly FileProblem[]) => {
    problems.push(...found.map((p) => ({ ...p, file })));
  };
  let history: Preview["history"];
  if (input.history) {
    const read = readSheet(input.history.text);
    if (read.ok) {
      const found = await previewSheet(opened, caseId, read.sheet);
      history = found.preview;
      wrong(input.history.name, found.problems);
    } else wrong(input.history.name, read.problems);
  }
  let quantities: Preview["quantities"];
  if (input.quantities) {
    const table = readDelimited(input.quantities.text);
    const read = table.ok ? readQuantityRows(table.table) : table;
    if (read.ok && "rows" in read) quantities = { rows: read.rows, roles: guessRowRoles(read.rows, known) };
    else if (!read.ok) wrong(input.quantities.name, read.problems);
  }
  return { history, quantities, problems };
}

/** Quantities of a case with what of their records stands for their values. */
export async function knownQuantities(opened: Store, caseId: string): Promise<QuantitySpec[]> {
  const takes = (await findCase(opened.db, caseId))?.setup.takes ?? {};
  return (await listQuantities(opened.db, caseId)).map((q) => ({ ...q, ...(takes[q.key] ? { take: takes[q.key] } : {}) }));
}

/** Dimension of the mesh, where it is not given with the run: that of the space the case was solved in. */
async function dimensionOfCase(opened: Store, caseId: string): Promise<2 | 3> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  return dimensionOf(physicsOf(row.setup).space);
}

/** Size of what is meshed, SI. @throws {UseCaseError} It is no size. */
function sizeOf(text: string, dimension: 2 | 3): number {
  const volume = parseQuantity(text, dimension === 3 ? "m^3" : "m^2");
  const what = dimension === 3 ? "Volume meshed" : "Area meshed";
  if (!volume.ok || !(volume.si > 0)) {
    const sentence = `${what}: ${volume.ok ? "it must be positive." : volume.sentence}`;
    throw new UseCaseError("invalid", sentence, { volume: sentence });
  }
  return volume.si;
}

/** The mesh of a brought-in run, known by its counts alone, and the settings frozen with the run. */
export async function foreignRun(opened: Store, caseId: string, words: RunWords, more: Partial<RunSettings>) {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  const { cells, code, label } = words;
  const dimension = words.dimension ?? dimensionOf(physicsOf(row.setup).space);
  const spacing = representativeSpacing(sizeOf(words.volume, dimension), cells, dimension);
  const mesh = await ensureMesh(opened.db, { caseId, label, cells, spacing, dimension, hash: hashOf({ cells, spacing, dimension }) });
  const settings: RunSettings = {
    problemId: null,
    parameters: row.setup.parameters,
    numerics: row.setup.numerics,
    mesh: { cells, spacingM: spacing, dimension },
    code,
    ...more,
  };
  return {
    caseId,
    meshId: mesh.id,
    label,
    origin: "brought-in" as const,
    code,
    settings,
    settingsHash: hashOf(settings),
    setupHash: hashOf(setupFingerprint(row.setup)),
  };
}

/** Keeps a mapping under a name, where one was given. */
export async function keepRecipe(
  opened: Store,
  words: RunWords,
  header: readonly string[],
  units: readonly (string | undefined)[],
  known: readonly QuantitySpec[],
): Promise<void> {
  if (!words.recipe) return;
  const columns = header.map((name, i) => {
    const role = words.roles[i];
    const corrected = words.units?.[i];
    const quantity = known.find((q) => `quantity:${q.key}` === role)?.name;
    return { name, role, ...(corrected && corrected !== units[i] ? { unit: corrected } : {}), ...(quantity ? { quantity } : {}) };
  });
  await saveRecipe(opened.db, words.recipe, { columns, code: words.code, dimension: words.dimension ?? 3 });
}

interface Confirmed {
  readonly source?: Awaited<ReturnType<typeof sheetOf>>;
  readonly history?: HistoryEvidence;
  readonly quantities: Readonly<Record<string, number>>;
  readonly balance?: BalanceRecord;
}

/** Everything a confirmed run's files hold. @throws {UseCaseError} naming the file, line and column that cannot be used */
async function readConfirmed(opened: Store, caseId: string, input: z.input<typeof BringInInput>): Promise<Confirmed> {
  if (!input.history && !input.quantities) throw new UseCaseError("invalid", "Choose a history or a table of quantities.");
  sizeOf(input.volume, input.dimension ?? (await dimensionOfCase(opened, caseId)));
  const known = await knownQuantities(opened, caseId);
  const fluxes = input.fluxes ?? PLAIN_FLUXES;
  const source = input.history ? await sheetOf(input.history) : undefined;
  const read = source && readHistory(source.name, source.sheet, input, known, fluxes);
  const table = input.quantities ? readQuantities(input.quantities, input.rowRoles as RowRole[], known, fluxes, input.rowUnits) : undefined;
  return {
    source,
    history: read?.history,
    // A table of results is taken at its word; what it does not hold comes from the ends of the records.
    quantities: { ...lastValues(read?.history.quantities ?? {}), ...table?.quantities },
    balance: table?.balance ?? read?.balance,
  };
}

/** Makes a run of confirmed files. Nothing is stored unless everything can be read. */
export async function bringIn(opened: Store, caseId: string, input: z.input<typeof BringInInput>, at = new Date()): Promise<RunRow> {
  return storeRun(opened, caseId, input, await readConfirmed(opened, caseId, input), at);
}

async function storeRun(opened: Store, caseId: string, input: z.input<typeof BringInInput>, found: Confirmed, at: Date): Promise<RunRow> {
  const known = await knownQuantities(opened, caseId);
  const { source, history } = found;
  const foreign = await foreignRun(opened, caseId, input, {
    ...(found.balance ? { fluxes: input.fluxes ?? PLAIN_FLUXES } : {}),
    ...(input.own && Object.keys(input.own).length ? { stated: input.own } : {}),
    files: [
      ...(source ? [{ name: source.name, hash: source.hash ?? (await opened.blobs.put(new TextEncoder().encode(source.text))) }] : []),
      ...(input.quantities ? [{ name: input.quantities.name, hash: await opened.blobs.put(new TextEncoder().encode(input.quantities.text)) }] : []),
    ],
  });
  const run = await insertRun(opened.db, {
    ...foreign,
    state: "done",
    result: { quantities: found.quantities, balance: found.balance, profiles: [], errorNorms: [] },
    iterations: history?.iteration.length ?? 0,
    // A record in time stands for its mean; where a table of results came with it, that is taken at its word.
    ...(history?.time && !input.quantities ? { judging: { average: true } } : {}),
    createdAt: at,
    finishedAt: at,
  });
  if (history) await storeRecord(opened, run.id, history);
  if (source) await keepRecipe(opened, input, source.sheet.header, source.sheet.units, known);
  if (input.history && "reading" in input.history) dropReading(input.history.reading);
  return run;
}

const MOST_RUNS = 40;

/** Several runs of one family: what they share is said once. */
export const FamilyInInput = RunWords.omit({ label: true, cells: true }).extend({
  fluxes: z.object({ signs: z.enum(SIGNS), factor: z.number().min(1).max(1000) }).default(PLAIN_FLUXES),
  own: StatedInput.optional(),
  /** roles and units by the name of a column or row: files of one family need not have them in one order */
  columnRoles: z.record(z.string().max(200), Role),
  columnUnits: z.record(z.string().max(200), z.string().max(60)).default({}),
  rowRolesByName: z.record(z.string().max(200), RowRoleInput).default({}),
  rowUnitsByName: z.record(z.string().max(200), z.string().max(60)).default({}),
  runs: z
    .array(
      z.object({
        label: z.string().trim().min(1, "Name every run.").max(80),
        cells: z.number().int().min(1, "Every run needs its number of cells, to be placed on the ladder.").max(1e10),
        history: FileInput.nullable(),
        quantities: FileInput.nullable(),
      }),
    )
    .min(1)
    .max(MOST_RUNS, `At most ${MOST_RUNS} runs at once.`),
});

/** Brings in several runs at once: all of them, or none where one file cannot be used. */
export async function bringInFamily(opened: Store, caseId: string, input: z.input<typeof FamilyInInput>, at = new Date()): Promise<RunRow[]> {
  const { runs, columnRoles, columnUnits = {}, rowRolesByName = {}, rowUnitsByName = {}, ...shared } = input;
  const ready: { run: z.input<typeof BringInInput>; found: Confirmed }[] = [];
  for (const r of runs) {
    const sheet = r.history && (await sheetOf(r.history)).sheet;
    const read = r.quantities && readQuantityRows(tableOf(r.quantities));
    const rows = read?.ok ? read.rows : [];
    const run = {
      ...shared,
      ...r,
      roles: (sheet?.header ?? []).map((h) => columnRoles[h] ?? "ignore"),
      units: (sheet?.header ?? []).map((h) => columnUnits[h] ?? null),
      rowRoles: rows.map((x) => rowRolesByName[x.name] ?? "ignore"),
      rowUnits: rows.map((x) => rowUnitsByName[x.name] ?? null),
    };
    ready.push({ run, found: await readConfirmed(opened, caseId, run) });
  }
  const made: RunRow[] = [];
  for (const { run, found } of ready) made.push(await storeRun(opened, caseId, run, found, at));
  return made;
}

export const AddInput = z.object({
  quantities: FileInput,
  rowRoles: z.array(RowRoleInput).max(4000),
  rowUnits: z.array(z.string().max(60).nullable()).max(4000).optional(),
  fluxes: z.object({ signs: z.enum(SIGNS), factor: z.number().min(1).max(1000) }).default(PLAIN_FLUXES),
  replace: z.boolean().default(false),
});

/** Adds values and flows to a brought-in run; what it has already is replaced only when asked. */
export async function addToRun(opened: Store, runId: string, input: z.input<typeof AddInput>): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.origin !== "brought-in" || !run.result) throw new UseCaseError("conflict", "Only a finished run that was brought in can be added to.");
  const known = await knownQuantities(opened, run.caseId);
  const fluxes = input.fluxes ?? PLAIN_FLUXES;
  const read = readQuantities(input.quantities, input.rowRoles as RowRole[], known, fluxes, input.rowUnits);
  const old = run.result;
  const twice = [
    ...Object.keys(read.quantities).filter((k) => old.quantities[k] !== undefined && old.quantities[k] !== read.quantities[k]),
    ...(read.balance && old.balance ? ["flows"] : []),
  ].map((k) => known.find((q) => q.key === k)?.name ?? "the flows through its boundaries");
  if (twice.length && !input.replace)
    throw new UseCaseError("conflict", `${run.label} has ${twice.join(", ")} already. Nothing was changed; say that it is to be replaced.`, {
      replace: twice.join(", "),
    });
  const hash = await opened.blobs.put(new TextEncoder().encode(input.quantities.text));
  const settings: RunSettings = {
    ...run.settings,
    ...(read.balance ? { fluxes } : {}),
    files: [...(run.settings.files ?? []), { name: input.quantities.name, hash }],
  };
  await updateRun(opened.db, runId, {
    result: { ...old, quantities: { ...old.quantities, ...read.quantities }, ...(read.balance ? { balance: read.balance } : {}) },
    settings,
    settingsHash: hashOf(settings),
  });
}

/** Columns of a record in the order they are stored in. */
export function recordColumns(h: HistoryEvidence): { columns: HistoryColumn[]; values: Float64Array[] } {
  const pairs: [HistoryColumn, Float64Array][] = [
    [{ role: "iteration", key: "iteration" }, h.iteration],
    ...(h.time ? [[{ role: "time", key: "time" }, h.time] as [HistoryColumn, Float64Array]] : []),
    ...Object.entries(h.residuals).map(([key, v]): [HistoryColumn, Float64Array] => [{ role: "residual", key }, v]),
    ...Object.entries(h.quantities).map(([key, v]): [HistoryColumn, Float64Array] => [{ role: "quantity", key }, v]),
    ...Object.entries(h.balances ?? {}).map(([key, v]): [HistoryColumn, Float64Array] => [{ role: "balance", key }, v]),
  ];
  return { columns: pairs.map(([c]) => c), values: pairs.map(([, v]) => v) };
}

export async function storeRecord(opened: Store, runId: string, history: HistoryEvidence): Promise<void> {
  const { columns, values } = recordColumns(history);
  const rows = history.iteration.length;
  const data = new Float64Array(rows * columns.length);
  values.forEach((v, i) => {
    data.set(v, i * rows);
  });
  await saveHistory(opened.db, { runId, columns, rows, blob: await opened.blobs.put(doublesToBytes(data)) });
}

function refuse(file: string, problems: readonly FileProblem[]): never {
  const first = problems[0];
  throw new UseCaseError(
    "invalid",
    `${file}, line ${first.line}${first.column ? `, column "${first.column}"` : ""}: ${first.sentence} Nothing was stored.`,
    problems.map((p) => ({ ...p, file })),
  );
}

/** The reading of an id, read to its end. @throws {UseCaseError} It is not, or no more. */
export function finishedReading(id: string): Reading & { sheet: Sheet } {
  const reading = findReading(id);
  if (!reading) throw new UseCaseError("not-found", "The file is no longer at hand; choose it again.");
  if (reading.state === "refused") refuse(reading.name, reading.problems);
  if (!reading.sheet) throw new UseCaseError("conflict", "The file is still being read.");
  return reading as Reading & { sheet: Sheet };
}

async function sheetOf(history: NonNullable<z.input<typeof BringInInput>["history"]>) {
  if ("reading" in history) {
    const { name, sheet, hash } = finishedReading(history.reading);
    if (hash === undefined) throw new UseCaseError("invalid", "A log on the server is followed, not brought in.");
    return { name, sheet, hash, text: "" };
  }
  const read = readSheet(history.text);
  return read.ok ? { name: history.name, sheet: read.sheet, hash: undefined, text: history.text } : refuse(history.name, read.problems);
}

/** The history a mapped sheet holds. @throws {UseCaseError} with the first line that cannot be used */
export function readHistory(
  file: string,
  sheet: Sheet,
  words: Pick<RunWords, "roles" | "units">,
  known: readonly QuantitySpec[],
  fluxes: FluxReading = PLAIN_FLUXES,
): { history: HistoryEvidence; balance?: BalanceRecord } {
  if (words.roles.length !== sheet.header.length)
    refuse(file, [{ line: 1, sentence: `${words.roles.length} columns were mapped but the file has ${sheet.header.length}.` }]);
  const unknown = unknownQuantity(words.roles, known);
  if (unknown >= 0)
    refuse(file, [{ line: sheet.lines[0] ?? 1, column: sheet.header[unknown], sentence: `The case has no quantity "${words.roles[unknown]}".` }]);
  const units = sheet.units.map((u, i) => words.units?.[i] ?? u);
  const built = buildHistory(sheet, words.roles as ColumnRole[], known, units, fluxes);
  return built.ok ? { history: built.history, balance: built.balance } : refuse(file, built.problems);
}

/** First role that names a quantity the case does not have; -1 where there is none. */
const unknownQuantity = (roles: readonly string[], known: readonly QuantitySpec[]) =>
  roles.findIndex((r) => r.startsWith("quantity:") && !known.some((q) => `quantity:${q.key}` === r));

function tableOf(file: { name: string; text: string }): DelimitedTable {
  const read = readDelimited(file.text);
  return read.ok ? read.table : refuse(file.name, read.problems);
}

function readQuantities(
  file: { name: string; text: string },
  roles: RowRole[],
  known: readonly QuantitySpec[],
  fluxes: FluxReading,
  units: readonly (string | null)[] = [],
) {
  const read = readQuantityRows(tableOf(file));
  if (!read.ok) refuse(file.name, read.problems);
  const unknown = unknownQuantity(roles, known);
  if (unknown >= 0) refuse(file.name, [{ line: read.rows[unknown]?.line ?? 1, sentence: `The case has no quantity "${roles[unknown]}".` }]);
  const rows = read.rows.map((r, i) => ({ ...r, unit: units[i] ?? r.unit }));
  const built = buildQuantities(rows, roles, known, fluxes);
  return built.ok ? built : refuse(file.name, built.problems);
}

/** Where no table of quantities came, the last entry of each record stands for the result. */
export function lastValues(records: Readonly<Record<string, Numbers>>): Record<string, number> {
  return Object.fromEntries(
    Object.entries(records).flatMap(([key, v]) => {
      let at = v.length - 1;
      while (at >= 0 && !Number.isFinite(v[at])) at--;
      return at < 0 ? [] : [[key, v[at]]];
    }),
  );
}

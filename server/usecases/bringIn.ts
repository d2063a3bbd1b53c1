import type { z } from "zod";
import { PLAIN_FLUXES, type RowRole, readQuantityRows } from "../../core/intake/quantityImport.ts";
import { representativeSpacing } from "../../core/mesh/quality.ts";
import { dimensionOf, physicsOf, setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { BalanceRecord } from "../../core/records/balance.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { HistoryEvidence } from "../../core/records/run.ts";
import { parseQuantity } from "../../core/units/units.ts";
import { inOne, type Store } from "../db/store.ts";
import { hashOf } from "../hash.ts";
import { dropReading } from "../jobs/readings.ts";
import { findCase } from "../repositories/cases.ts";
import { saveRecipe } from "../repositories/recipes.ts";
import { ensureMesh, findRun, insertRun, type RunRow, updateRun } from "../repositories/runs.ts";
import type { AddInput, BringInInput, FamilyInInput, RunWords } from "./bringInInputs.ts";
import { readHistory, readQuantities, sheetOf, tableOf } from "./confirmedFiles.ts";
import { UseCaseError } from "./failure.ts";
import { knownQuantities } from "./previewFiles.ts";
import { lastValues, storeRecord } from "./storedRecord.ts";

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
  const found = await readConfirmed(opened, caseId, input);
  const run = await inOne(opened, (tx) => storeRun(tx, caseId, input, found, at));
  forgetReading(input);
  return run;
}

/** A file that was brought in need not be held any longer. */
function forgetReading({ history }: z.input<typeof BringInInput>): void {
  if (history && "reading" in history) dropReading(history.reading);
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
  return run;
}

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
  const made = await inOne(opened, async (tx) => {
    const rows: RunRow[] = [];
    for (const { run, found } of ready) rows.push(await storeRun(tx, caseId, run, found, at));
    return rows;
  });
  for (const { run } of ready) forgetReading(run);
  return made;
}

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

import type { z } from "zod";
import { PLAIN_FLUXES } from "../../core/intake/quantityImport.ts";
import { representativeSpacing } from "../../core/mesh/quality.ts";
import { dimensionOf, physicsOf, setupFingerprint } from "../../core/problems/describe/caseSetup.ts";
import type { RunSettings } from "../../core/problems/describe/runSettings.ts";
import type { Build } from "../../core/records/build.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import { parseQuantity } from "../../core/units/units.ts";
import { inOne, type Store } from "../db/store.ts";
import type { Confirmed, ConfirmedInput } from "../desk/confirmed.ts";
import { desk } from "../desk/desk.ts";
import { hashOf } from "../hash.ts";
import { dropReading } from "../jobs/readings.ts";
import { findCase } from "../repositories/cases.ts";
import { saveRecipe } from "../repositories/recipes.ts";
import { ensureMesh, findRun, insertRun, type RunRow, saveHistory, updateRun } from "../repositories/runs.ts";
import type { AddInput, BringInInput, BuildInput, FamilyInInput, RunWords } from "./bringInInputs.ts";
import { type Source, sourceOf } from "./confirmedFiles.ts";
import { UseCaseError } from "./failure.ts";
import { knownQuantities } from "./previewFiles.ts";

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
    ...buildOf(words.build),
    settings,
    settingsHash: hashOf(settings),
    setupHash: hashOf(setupFingerprint(row.setup)),
  };
}

/** What was said of the code's build; nothing where nothing was. */
export function buildOf(said: z.input<typeof BuildInput> | undefined): { build?: Build } {
  const known = Object.fromEntries(Object.entries(said ?? {}).filter(([, text]) => text));
  return Object.keys(known).length ? { build: known } : {};
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

/** The files of a run, and where their bytes are. */
interface Files {
  readonly history?: Source;
  readonly quantities: { readonly name: string; readonly text: string } | null;
}

interface Ready {
  readonly files: Files;
  readonly found: Confirmed;
}

/** Everything a confirmed run's files hold. @throws {UseCaseError} naming the file, line and column that cannot be used */
async function readFiles(opened: Store, caseId: string, input: Shared, files: Files, mapping: ConfirmedInput["mapping"]): Promise<Ready> {
  if (!files.history && !files.quantities) throw new UseCaseError("invalid", "Choose a history or a table of quantities.");
  sizeOf(input.volume, input.dimension ?? (await dimensionOfCase(opened, caseId)));
  const known = await knownQuantities(opened, caseId);
  const { history, quantities } = files;
  const found = await desk().ask("readConfirmed", { history, quantities: quantities ?? undefined, mapping, known, fluxes: input.fluxes });
  return { files, found };
}

/** What is said of a run or of a whole family. */
type Shared = Pick<z.input<typeof BringInInput>, "volume" | "dimension" | "fluxes">;

/** Makes a run of confirmed files. Nothing is stored unless everything can be read. */
export async function bringIn(opened: Store, caseId: string, input: z.input<typeof BringInInput>, at = new Date()): Promise<RunRow> {
  const { roles, units, rowRoles, rowUnits, history, quantities } = input;
  const files = { history: history ? sourceOf(history) : undefined, quantities };
  const ready = await readFiles(opened, caseId, input, files, { roles, units, rowRoles, rowUnits });
  const record = await putRecord(opened, ready);
  const run = await inOne(opened, (tx) => storeRun(tx, caseId, input, ready, record, at));
  forgetReading(input);
  return run;
}

type StoredBlob = Omit<NonNullable<Confirmed["record"]>, "bytes"> & { readonly blob: string };

/** The record as a blob: it is there before anything names it. */
async function putRecord(opened: Store, { found: { record } }: Ready): Promise<StoredBlob | undefined> {
  if (!record) return undefined;
  const { bytes, ...rest } = record;
  return { ...rest, blob: await opened.blobs.put(bytes) };
}

/** A file that was brought in need not be held any longer. */
function forgetReading({ history }: z.input<typeof BringInInput>): void {
  if (history && "reading" in history) dropReading(history.reading);
}

async function storeRun(
  opened: Store,
  caseId: string,
  input: RunWords & Pick<z.input<typeof BringInInput>, "fluxes" | "own">,
  { files, found }: Ready,
  record: StoredBlob | undefined,
  at: Date,
): Promise<RunRow> {
  const { history, quantities } = files;
  const put = (text: string) => opened.blobs.put(new TextEncoder().encode(text));
  const foreign = await foreignRun(opened, caseId, input, {
    ...(found.balance ? { fluxes: input.fluxes ?? PLAIN_FLUXES } : {}),
    ...(input.own && Object.keys(input.own).length ? { stated: input.own } : {}),
    files: [
      ...(history ? [{ name: history.name, hash: "hash" in history ? history.hash : await put(history.text) }] : []),
      ...(quantities ? [{ name: quantities.name, hash: await put(quantities.text) }] : []),
    ],
  });
  const run = await insertRun(opened.db, {
    ...foreign,
    state: "done",
    result: { quantities: found.quantities, balance: found.balance, profiles: [], errorNorms: found.errorNorms },
    iterations: record?.rows ?? 0,
    // A record in time stands for its mean; where a table of results came with it, that is taken at its word.
    ...(found.inTime && !quantities ? { judging: { average: true } } : {}),
    createdAt: at,
    finishedAt: at,
  });
  if (record) await saveHistory(opened.db, { runId: run.id, ...record });
  if (history) await keepRecipe(opened, { ...input, ...mutable(found.mapping) }, found.header, found.units, await knownQuantities(opened, caseId));
  return run;
}

const mutable = ({ roles, units }: Confirmed["mapping"]) => ({ roles: [...roles], units: units && [...units].map((u) => u ?? null) });

/** Brings in several runs at once: all of them, or none where one file cannot be used. */
export async function bringInFamily(opened: Store, caseId: string, input: z.input<typeof FamilyInInput>, at = new Date()): Promise<RunRow[]> {
  const { runs, columnRoles: columns, columnUnits = {}, rowRolesByName: rows = {}, rowUnitsByName: rowUnits = {}, ...shared } = input;
  const ready: { words: (typeof runs)[number]; read: Ready; record: StoredBlob | undefined }[] = [];
  for (const words of runs) {
    const files = { history: words.history ? sourceOf(words.history) : undefined, quantities: words.quantities };
    const read = await readFiles(opened, caseId, shared, files, { byName: { columns, columnUnits, rows, rowUnits } });
    ready.push({ words, read, record: await putRecord(opened, read) });
  }
  return inOne(opened, async (tx) => {
    const made: RunRow[] = [];
    for (const { words, read, record } of ready) {
      const { label, cells } = words;
      made.push(await storeRun(tx, caseId, { ...shared, label, cells }, read, record, at));
    }
    return made;
  });
}

/** Adds values and flows to a brought-in run; what it has already is replaced only when asked. */
export async function addToRun(opened: Store, runId: string, input: z.input<typeof AddInput>): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.origin !== "brought-in" || !run.result) throw new UseCaseError("conflict", "Only a finished run that was brought in can be added to.");
  const known = await knownQuantities(opened, run.caseId);
  const fluxes = input.fluxes ?? PLAIN_FLUXES;
  const { quantities, rowRoles, rowUnits } = input;
  const read = await desk().ask("readConfirmed", { quantities, mapping: { roles: [], rowRoles, rowUnits }, known, fluxes });
  const old = run.result;
  const twice = [
    ...Object.keys(read.quantities).filter((k) => old.quantities[k] !== undefined && old.quantities[k] !== read.quantities[k]),
    ...(read.balance && old.balance ? ["flows"] : []),
    ...(read.errorNorms.length && old.errorNorms.length ? ["norms"] : []),
  ].map((k) => known.find((q) => q.key === k)?.name ?? (k === "norms" ? "the errors of its fields" : "the flows through its boundaries"));
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
    result: {
      ...old,
      quantities: { ...old.quantities, ...read.quantities },
      ...(read.balance ? { balance: read.balance } : {}),
      ...(read.errorNorms.length ? { errorNorms: read.errorNorms } : {}),
    },
    settings,
    settingsHash: hashOf(settings),
  });
}

/** Says with which build of its code a brought-in run was made; nothing said takes it back. */
export async function stateBuild(opened: Store, runId: string, said: z.input<typeof BuildInput>): Promise<void> {
  const run = await findRun(opened.db, runId);
  if (!run) throw new UseCaseError("not-found", "There is no such run.");
  if (run.origin !== "brought-in") throw new UseCaseError("conflict", "The bench knows its own version.");
  await updateRun(opened.db, runId, { build: buildOf(said).build ?? null });
}

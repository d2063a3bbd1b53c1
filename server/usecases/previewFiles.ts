import type { z } from "zod";
import { type FileProblem, readDelimited } from "../../core/formats/delimited.ts";
import { readSheet, type Sheet } from "../../core/formats/sheet.ts";
import { guessRoles } from "../../core/intake/columnRoles.ts";
import { buildHistory, type SheetPreview } from "../../core/intake/historyImport.ts";
import { guessRowRoles, type QuantityRow, type RowRole, readQuantityRows } from "../../core/intake/quantityImport.ts";
import { applyRecipe } from "../../core/intake/recipes.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { Store } from "../db/store.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { listRecipes } from "../repositories/recipes.ts";
import type { PreviewInput } from "./bringInInputs.ts";

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

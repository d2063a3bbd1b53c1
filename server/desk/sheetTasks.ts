import { type FileProblem, readDelimited } from "../../core/formats/delimited.ts";
import { readSheet, type Sheet } from "../../core/formats/sheet.ts";
import { type ColumnRole, guessRoles } from "../../core/intake/columnRoles.ts";
import { buildHistory, type SheetPreview } from "../../core/intake/historyImport.ts";
import { guessRowRoles, type QuantityRow, type RowRole, readQuantityRows } from "../../core/intake/quantityImport.ts";
import { applyRecipe } from "../../core/intake/recipes.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { RecipeData } from "../db/schema.ts";

/** A sheet and what may be known of its columns. */
export interface SheetInput {
  readonly sheet: Sheet;
  readonly known: readonly QuantitySpec[];
  /** the newest first */
  readonly recipes: readonly { readonly name: string; readonly data: RecipeData }[];
}

export interface SheetFound {
  readonly preview: SheetPreview;
  readonly problems: readonly FileProblem[];
}

/** A sheet with what its columns seem to be, by the newest recipe that fits or by their names. */
export function previewSheet({ sheet, known, recipes }: SheetInput): SheetFound {
  const fitting = recipes.flatMap((r) => {
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

export interface Preview {
  readonly history?: SheetPreview;
  readonly quantities?: { readonly rows: readonly QuantityRow[]; readonly roles: readonly RowRole[] };
  readonly problems: readonly (FileProblem & { readonly file: string })[];
}

interface TextFile {
  readonly name: string;
  readonly text: string;
}

export interface TextsInput extends Omit<SheetInput, "sheet"> {
  readonly history: TextFile | null;
  readonly quantities: TextFile | null;
}

/** Reads texts and guesses what their columns and rows are. */
export function previewTexts({ history, quantities, known, recipes }: TextsInput): Preview {
  const problems: (FileProblem & { file: string })[] = [];
  const wrong = (file: string, found: readonly FileProblem[]) => {
    problems.push(...found.map((p) => ({ ...p, file })));
  };
  let shown: Preview["history"];
  if (history) {
    const read = readSheet(history.text);
    if (read.ok) {
      const found = previewSheet({ sheet: read.sheet, known, recipes });
      shown = found.preview;
      wrong(history.name, found.problems);
    } else wrong(history.name, read.problems);
  }
  let rows: Preview["quantities"];
  if (quantities) {
    const table = readDelimited(quantities.text);
    const read = table.ok ? readQuantityRows(table.table) : table;
    if (read.ok && "rows" in read) rows = { rows: read.rows, roles: guessRowRoles(read.rows, known) };
    else if (!read.ok) wrong(quantities.name, read.problems);
  }
  return { history: shown, quantities: rows, problems };
}

export interface CheckSheetInput {
  readonly sheet: Sheet;
  readonly roles: readonly ColumnRole[];
  readonly units?: readonly (string | null | undefined)[];
  readonly known: readonly QuantitySpec[];
}

/** Whether a mapping can be used, and what it leaves out. */
export function checkSheet({ sheet, roles, units, known }: CheckSheetInput): {
  readonly problems: readonly FileProblem[];
  readonly notes: readonly string[];
} {
  const said = sheet.units.map((u, i) => units?.[i] ?? u);
  const built = buildHistory(sheet, roles, known, said);
  return built.ok ? { problems: [], notes: built.notes } : { problems: built.problems, notes: [] };
}

const MOST_POINTS = 300;

/** A column for drawing: lowest and highest of every stretch, so that no spike is lost. */
export function columnPicture({ values }: { readonly values: Float64Array }): { at: number[]; values: (number | null)[]; gaps: number } {
  const step = Math.max(1, Math.ceil(values.length / MOST_POINTS));
  const at: number[] = [];
  const drawn: (number | null)[] = [];
  for (let from = 0; from < values.length; from += step) {
    let [low, high] = [-1, -1];
    for (let i = from; i < Math.min(values.length, from + step); i++) {
      if (!Number.isFinite(values[i])) continue;
      if (low < 0 || values[i] < values[low]) low = i;
      if (high < 0 || values[i] > values[high]) high = i;
    }
    if (low < 0) {
      at.push(from + 1);
      drawn.push(null);
    }
    for (const i of [...new Set([low, high])].sort((a, b) => a - b)) {
      if (i < 0) continue;
      at.push(i + 1);
      drawn.push(values[i]);
    }
  }
  return { at, values: drawn, gaps: values.filter(Number.isNaN).length };
}

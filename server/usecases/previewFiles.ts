import type { z } from "zod";
import type { Sheet } from "../../core/formats/sheet.ts";
import type { QuantitySpec } from "../../core/records/quantity.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { Preview, SheetFound, SheetInput } from "../desk/sheetTasks.ts";
import { findCase, listQuantities } from "../repositories/cases.ts";
import { listRecipes } from "../repositories/recipes.ts";
import type { PreviewInput } from "./bringInInputs.ts";

/** What may be known of the columns of a file of this case. */
async function knownOf(opened: Store, caseId: string): Promise<Omit<SheetInput, "sheet">> {
  return { known: await knownQuantities(opened, caseId), recipes: [...(await listRecipes(opened.db))].reverse() };
}

/** A sheet with what its columns seem to be, by the newest recipe that fits or by their names. */
export const previewSheet = async (opened: Store, caseId: string, sheet: Sheet, signal?: AbortSignal): Promise<SheetFound> =>
  desk().ask("previewSheet", { sheet, ...(await knownOf(opened, caseId)) }, { signal });

/** Reads the files and guesses what their columns and rows are. Stores nothing. */
export const previewFiles = async (opened: Store, caseId: string, input: z.infer<typeof PreviewInput>, signal?: AbortSignal): Promise<Preview> =>
  desk().ask("previewTexts", { ...input, ...(await knownOf(opened, caseId)) }, { signal });

/** Quantities of a case with what of their records stands for their values. */
export async function knownQuantities(opened: Store, caseId: string): Promise<QuantitySpec[]> {
  const takes = (await findCase(opened.db, caseId))?.setup.takes ?? {};
  return (await listQuantities(opened.db, caseId)).map((q) => ({ ...q, ...(takes[q.key] ? { take: takes[q.key] } : {}) }));
}

import { ENDINGS, LANGUAGES, type Language } from "../../core/manufactured/printed.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { WrittenInput, WrittenShown } from "../desk/writtenTasks.ts";
import { findCase } from "../repositories/cases.ts";
import { UseCaseError } from "./failure.ts";

/** What a manufactured case was written down with. @throws {UseCaseError} It is no such case. */
async function inputOf(opened: Store, caseId: string): Promise<WrittenInput> {
  const setup = (await findCase(opened.db, caseId))?.setup;
  if (!setup) throw new UseCaseError("not-found", "There is no such case.");
  const { problemId, parameters, formulas } = setup;
  if (!problemId?.startsWith("manufactured") || !formulas)
    throw new UseCaseError("invalid", "Only a manufactured case has sources to be written out.");
  return { problemId, parameters, formulas };
}

/** Fields, sources and terms of a manufactured case, checked against differences. */
export const writtenSolution = async (opened: Store, caseId: string): Promise<WrittenShown> => desk().ask("written", await inputOf(opened, caseId));

/** The same as a file for another code. @throws {UseCaseError} No such language. */
export async function writtenFile(opened: Store, caseId: string, language: string): Promise<{ bytes: string; name: string }> {
  if (!(LANGUAGES as readonly string[]).includes(language))
    throw new UseCaseError("not-found", `There is no ${language}; choose one of ${LANGUAGES.join(", ")}.`);
  const known = language as Language;
  const bytes = await desk().ask("writtenFile", { ...(await inputOf(opened, caseId)), language: known });
  return { bytes, name: `manufactured.${ENDINGS[known]}` };
}

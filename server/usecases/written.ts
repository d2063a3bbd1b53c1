import { ENDINGS, LANGUAGES, type Language } from "../../core/manufactured/printed.ts";
import { benchProblem } from "../../core/problems/build/catalogue.ts";
import { familyMesh } from "../../core/problems/describe/problem.ts";
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

/** most cells exact means are worked out for */
const MOST_CELLS = 40_000;

/** Exact means over the cells of the case's mesh with so many cells each way, or what flows through its faces, as a table. @param mesh "32x32" */
export async function writtenOnMesh(opened: Store, caseId: string, what: string, mesh: string): Promise<{ bytes: string; name: string }> {
  if (what !== "cells" && what !== "faces") throw new UseCaseError("not-found", `There is no table of ${what}; choose cells or faces.`);
  const counts = mesh
    .match(/^(\d{1,4})x(\d{1,4})$/)
    ?.slice(1)
    .map(Number);
  if (!counts || counts.some((n) => n < 2) || counts[0] * counts[1] > MOST_CELLS)
    throw new UseCaseError("invalid", `"${mesh}" is no mesh: write it as 32x32, at least 2 each way and at most ${MOST_CELLS} cells.`);
  const input = await inputOf(opened, caseId);
  const spec = familyMesh(benchProblem(input.problemId).family, counts[0], counts[1]);
  return { bytes: await desk().ask("writtenOnMesh", { ...input, what, mesh: spec }), name: `manufactured ${what} ${mesh}.csv` };
}

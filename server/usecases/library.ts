import { z } from "zod";
import { readParameters } from "../../core/exact/explore.ts";
import { type Conditions, followedParameters } from "../../core/exact/fitting.ts";
import { findSolution, LIBRARY } from "../../core/exact/library.ts";
import { canStandFor } from "../../core/exact/libraryYardstick.ts";
import type { Solution } from "../../core/exact/solution.ts";
import { conditionsOf } from "../../core/problems/describe/conditions.ts";
import type { FromLibrary } from "../../core/records/reference.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import { findCase, insertYardstick, listQuantities } from "../repositories/cases.ts";
import { UseCaseError } from "./failure.ts";
import { typed } from "./reader.ts";

/** Parameters as typed, with their units. */
export const ExploreInput = z.object({ parameters: z.record(z.string().max(40), typed), samples: z.number().int().min(2).max(2000).optional() });

/** A solution by the name a path gives it. @throws {UseCaseError} There is none. */
function solutionOf(id: string): Solution {
  const found = findSolution(id);
  if (!found) throw new UseCaseError("not-found", `The library has no solution called ${id}.`);
  return found;
}

/** What the library holds, without its figures. */
export const listLibrary = () =>
  LIBRARY.map(({ id, name, subject, nature, uncertainty, source, formulas, parameters }) => ({
    id,
    name,
    subject,
    nature,
    uncertainty,
    source,
    formulas: [...formulas],
    parameters: parameters.map(({ key, label, unit, preset, low, high }) => ({ key, label, unit, preset, low, high })),
  }));

/** A solution at parameters as they were typed. @throws {UseCaseError} naming the parameter that cannot be used */
export async function exploreSolution(id: string, { parameters, samples }: z.infer<typeof ExploreInput>) {
  const found = await desk().ask("exploreLibrary", { solution: solutionOf(id).id, typed: parameters, samples });
  if (!found?.ok) throw new UseCaseError("invalid", found?.sentence ?? "", { ...found?.mistakes });
  return found;
}

/** What a case says that solutions can be held against. */
export async function caseConditions(opened: Store, caseId: string): Promise<Conditions> {
  const row = await findCase(opened.db, caseId);
  if (!row) throw new UseCaseError("not-found", "There is no such case.");
  return conditionsOf(row.setup);
}

/** Solutions by how well they go with a case, best first. */
export const fittingSolutions = async (opened: Store, caseId: string) => desk().ask("fitLibrary", await caseConditions(opened, caseId));

export const LibraryYardstickInput = z.object({
  name: z.string().trim().min(1, "Name the yardstick.").max(120),
  parameters: z.record(z.string().max(40), typed),
  /** parameters that are the case's own conditions, whatever those become */
  followed: z.array(z.string().max(40)).max(40),
  values: z
    .array(z.object({ from: z.string().max(40), quantityKey: z.string().max(40), sign: z.union([z.literal(1), z.literal(-1)]).default(1) }))
    .max(40),
  curves: z.array(z.object({ from: z.string().max(40), profileKey: z.string().trim().min(1).max(80) })).max(40),
});

/** Takes a solution of the library as a yardstick of a case. Its figures are worked out whenever the case is opened. */
export async function takeFromLibrary(opened: Store, caseId: string, id: string, input: z.infer<typeof LibraryYardstickInput>): Promise<void> {
  const s = solutionOf(id);
  const conditions = await caseConditions(opened, caseId);
  const followable = followedParameters(s, conditions);
  const stray = input.followed.find((key) => followable[key] === undefined);
  if (stray)
    throw new UseCaseError("invalid", `The case says nothing that could stand for ${s.parameters.find((p) => p.key === stray)?.label ?? stray}.`);
  const read = readParameters(s, input.parameters);
  const wrong = Object.values(read.mistakes);
  if (wrong.length) throw new UseCaseError("invalid", wrong[0], read.mistakes);
  const ofCase = Object.fromEntries(input.followed.map((key) => [key, followable[key]]));
  const found = await desk().ask("exploreLibrary", { solution: id, typed: { ...read.parameters, ...ofCase }, samples: 2 });
  if (found && !found.ok) throw new UseCaseError("invalid", found.sentence, { ...found.mistakes });
  const quantities = await listQuantities(opened.db, caseId);
  if (!input.values.length && !input.curves.length) throw new UseCaseError("invalid", "Choose at least one figure or curve, and what it stands for.");
  for (const w of input.values) {
    const [v, q] = [found?.values.find((x) => x.key === w.from), quantities.find((x) => x.key === w.quantityKey)];
    if (!v || !q) throw new UseCaseError("invalid", "Choose a figure of the solution and a quantity of the case.");
    if (!canStandFor(v, q))
      throw new UseCaseError("invalid", `${v.name} is counted in ${v.unit || "pure numbers"}, ${q.name} in ${q.unit}: it cannot stand for it.`);
  }
  const lost = input.curves.find((w) => !found?.curves.some((c) => c.key === w.from));
  if (lost) throw new UseCaseError("invalid", "Choose a curve of the solution.");
  const own = Object.fromEntries(Object.entries(read.parameters).filter(([key]) => !input.followed.includes(key)));
  const made: FromLibrary = { solution: id, parameters: own, followed: input.followed, values: input.values, curves: input.curves };
  await insertYardstick(opened.db, caseId, {
    key: "library",
    name: input.name,
    kind: s.uncertainty > 0 ? "correlation" : "exact",
    source: s.source,
    validity: { sentence: "", inside: true },
    values: [],
    profiles: [],
    made,
  });
}

import { ExploreInput, exploreSolution, fittingSolutions, LibraryYardstickInput, listLibrary, takeFromLibrary } from "../usecases/library.ts";
import { writtenFile, writtenOnMesh, writtenSolution } from "../usecases/written.ts";
import { Done, type Operation, operation, z } from "./operation.ts";

const Formulas = z
  .array(z.object({ key: z.string(), name: z.string(), unit: z.string(), text: z.string(), typeset: z.string().optional() }))
  .readonly();
const Axis = z.object({ name: z.string(), unit: z.string(), log: z.boolean().optional() });

/** The library of exact and semi-empirical solutions. */
export const LIBRARY_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/library",
    says: "Lists the solutions of the library with their parameters, formulas and sources.",
    output: z.array(
      z.object({
        id: z.string(),
        name: z.string(),
        subject: z.string(),
        nature: z.string(),
        uncertainty: z.number(),
        source: z.string(),
        formulas: z.array(z.string()),
        parameters: z.array(
          z.object({ key: z.string(), label: z.string(), unit: z.string(), preset: z.number(), low: z.number(), high: z.number() }),
        ),
      }),
    ),
    run: async () => listLibrary(),
  }),
  operation({
    method: "post",
    path: "/library/{solution}",
    quiet: true,
    says: "Works a solution out at parameters as typed: figures, sampled curves, and whether it holds there.",
    input: ExploreInput,
    output: z.looseObject({
      inside: z.boolean(),
      range: z.array(z.object({ sentence: z.string(), inside: z.boolean() })).readonly(),
      values: z.array(z.object({ key: z.string(), name: z.string(), unit: z.string(), value: z.number(), uncertainty: z.number() })).readonly(),
      curves: z
        .array(
          z.object({ key: z.string(), name: z.string(), x: Axis, y: Axis, points: z.array(z.tuple([z.number(), z.number()]).readonly()).readonly() }),
        )
        .readonly(),
    }),
    run: async ({ at, input }) => ({ ...(await exploreSolution(at.solution, input)) }),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/manufactured",
    says: "A manufactured case written out: fields, sources, the terms it exercises, and the sources held against differences.",
    output: z.object({
      fields: Formulas,
      sources: Formulas,
      terms: z.array(z.object({ equation: z.string(), term: z.string(), size: z.number(), share: z.number(), untested: z.boolean() })).readonly(),
      distance: z.number(),
    }),
    run: ({ opened, at }) => writtenSolution(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/manufactured/{language}",
    says: "The same as a file: c, python, fortran, json, latex or text.",
    output: { file: "text/plain; charset=utf-8" },
    run: ({ opened, at }) => writtenFile(opened, at.id, at.language),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/exact/{what}/{mesh}",
    says: "Exact means of a manufactured case over the cells of a mesh, or what flows through its faces, as CSV: cells or faces, and a mesh such as 32x32.",
    output: { file: "text/csv; charset=utf-8" },
    run: ({ opened, at }) => writtenOnMesh(opened, at.id, at.what, at.mesh),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/library",
    says: "Lists the solutions of the library by how well they go with a case.",
    output: z.array(z.object({ id: z.string(), name: z.string(), inside: z.boolean(), against: z.array(z.string()) })),
    run: ({ opened, at }) => fittingSolutions(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/library/{solution}",
    says: "Takes a solution of the library as a yardstick of a case.",
    input: LibraryYardstickInput,
    output: Done,
    run: ({ opened, at, input }) => takeFromLibrary(opened, at.id, at.solution, input),
  }),
];

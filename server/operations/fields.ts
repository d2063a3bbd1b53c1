import { LayersShape } from "../../core/assessment/meshes/assessor.ts";
import { METRIC_KEYS } from "../../core/dataset/metrics.ts";
import { FIELD_ROLES } from "../../core/intake/gridFields.ts";
import { drawnField, drawnMoment, fieldList, fieldsFile, momentList, momentsFile, rawField, rawMesh, runsWithFieldsOf } from "../usecases/fields.ts";
import { LookGridInput, lookAtGrid, TakeGridInput, takeFields } from "../usecases/gridFields.ts";
import { keepLine, LineInput, spaceFile } from "../usecases/spaceFiles.ts";
import { keepQuality, QualityInput } from "../usecases/spaceQuality.ts";
import { watchedFile, watchedFiles } from "../usecases/watchedFiles.ts";
import { Done, type Operation, operation, z } from "./operation.ts";

const BYTES = { file: "application/octet-stream" } as const;
const CSV = { file: "text/csv; charset=utf-8" } as const;

/** Fields and meshes of runs: kept by the bench, brought in, in time, and files that lie in space. */
export const FIELD_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/runs/{id}/mesh",
    says: "The mesh a run's fields lie on, packed as it was kept.",
    output: BYTES,
    run: async ({ opened, at }) => ({ bytes: await rawMesh(opened, at.id) }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields",
    says: "Names and units of the fields a run left behind.",
    output: z.array(z.object({ name: z.string(), unit: z.string() })),
    run: ({ opened, at }) => fieldList(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/fields",
    says: "Runs of a case that left fields, with the names of these.",
    output: z.array(z.object({ runId: z.string(), label: z.string(), code: z.string(), spacing: z.number(), fields: z.array(z.string()) })),
    run: ({ opened, at }) => runsWithFieldsOf(opened, at.id),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/grid/look",
    quiet: true,
    long: true,
    says: "Looks at an uploaded file with a grid: its cells, its arrays and what they may be; stores nothing.",
    input: LookGridInput,
    output: z.object({
      points: z.number(),
      low: z.array(z.number()),
      high: z.array(z.number()),
      solid: z.number(),
      cells: z.number(),
      kinds: z.array(z.object({ name: z.string(), count: z.number() })),
      arrays: z.array(
        z.object({
          name: z.string(),
          on: z.enum(["cells", "points"]),
          components: z.number(),
          low: z.number().nullable(),
          high: z.number().nullable(),
          role: z.enum(FIELD_ROLES),
          unit: z.string(),
          said: z.boolean(),
        }),
      ),
      notes: z.array(z.string()),
      plane: z.object({ cells: z.number(), width: z.number(), height: z.number() }).optional(),
      quality: z
        .object({
          cells: z.number(),
          faces: z.number(),
          outside: z.number(),
          volume: z.number(),
          inverted: z.array(z.number()),
          open: z.array(z.number()),
          crowded: z.number(),
          interfaces: z
            .object({ faces: z.number(), area: z.number(), open: z.number(), at: z.tuple([z.number(), z.number(), z.number()]) })
            .optional(),
          layers: z.array(LayersShape),
          metrics: z.array(
            z.object({
              metric: z.enum(METRIC_KEYS),
              limit: z.number(),
              worst: z.number(),
              median: z.number(),
              beyond: z.number(),
              least: z.number(),
              counts: z.array(z.number()),
              cells: z.array(z.object({ cell: z.number(), value: z.number(), at: z.tuple([z.number(), z.number(), z.number()]) })),
            }),
          ),
        })
        .optional(),
      refusal: z.string().optional(),
    }),
    run: async ({ opened, at, input, request }) => structuredClone(await lookAtGrid(opened, at.id, input, request.signal)) as never,
  }),
  operation({
    method: "post",
    path: "/runs/{id}/grid",
    says: "Gives a brought-in run its mesh and fields from an uploaded file with a plane grid.",
    input: TakeGridInput,
    output: z.object({ notes: z.array(z.string()) }),
    run: ({ opened, at, input }) => takeFields(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/grid/quality",
    says: "Judges the cells of an uploaded grid in space and keeps their quality with the run, by limits of one's own where they are given.",
    input: QualityInput,
    output: Done,
    run: ({ opened, at, input }) => keepQuality(opened, at.id, input).then(() => ({ ok: true as const })),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/space/file",
    says: "The file of a run that lies in space: whose cells were judged or cut, or the surface the flow acts on.",
    output: BYTES,
    run: ({ opened, at }) => spaceFile(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/watched",
    says: "Result files that stand beside the log a run follows.",
    output: z.array(z.object({ name: z.string(), bytes: z.number(), changedMs: z.number() })),
    run: ({ opened, at }) => watchedFiles(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/watched/{name}",
    says: "One of these files.",
    output: BYTES,
    run: ({ opened, at }) => watchedFile(opened, at.id, at.name),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/space/line",
    says: "Reads a run's file in space along a line, straight or with corners, and keeps the curve with the run.",
    input: LineInput,
    output: z.object({ notes: z.array(z.string()) }),
    run: ({ opened, at, input }) => keepLine(opened, at.id, input),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields/{name}",
    says: "One field, little-endian, one number a cell: doubles, or single precision in a gzip, which is what is drawn.",
    query: z.object({ precision: z.enum(["double", "single"]).optional() }),
    output: BYTES,
    run: async ({ opened, at, query }) =>
      query.precision === "single" ? { bytes: await drawnField(opened, at.id, at.name) } : { bytes: await rawField(opened, at.id, at.name) },
  }),
  operation({
    method: "get",
    path: "/runs/{id}/moments",
    says: "Times of a run in time at which its fields were kept, with their names and units.",
    output: z.array(z.object({ at: z.number(), timeS: z.number(), fields: z.array(z.object({ name: z.string(), unit: z.string() })) })),
    run: ({ opened, at }) => momentList(opened, at.id),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/moments/{at}/{name}",
    says: "One field at one of these times: little-endian single precision in a gzip, one number a cell.",
    output: BYTES,
    run: async ({ opened, at }) => ({ bytes: await drawnMoment(opened, at.id, Number(at.at), at.name) }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/moments.zip",
    says: "A picture of a field at each of these times, all on one scale, with a table of the times.",
    query: z.object({ field: z.string().min(1).max(100) }),
    output: BYTES,
    run: async ({ opened, at, query, request }) => ({ bytes: await momentsFile(opened, at.id, query.field, request.signal), name: "moments.zip" }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields.vtu",
    says: "All fields on their mesh in an open format for unstructured grids.",
    output: { file: "application/xml" },
    run: async ({ opened, at, request }) => ({ bytes: await fieldsFile(opened, at.id, "vtu", request.signal), name: "fields.vtu" }),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/fields.csv",
    says: "All fields as a table, a row a cell.",
    output: CSV,
    run: async ({ opened, at, request }) => ({ bytes: await fieldsFile(opened, at.id, "csv", request.signal), name: "fields.csv" }),
  }),
];

import { dropReading } from "../jobs/readings.ts";
import { listRecipes, markRecipe } from "../repositories/recipes.ts";
import { addToRun, bringIn, bringInFamily } from "../usecases/bringIn.ts";
import { AddInput, BringInInput, FamilyInInput, PreviewInput } from "../usecases/bringInInputs.ts";
import { FollowInput, followLog } from "../usecases/following.ts";
import { previewFiles } from "../usecases/previewFiles.ts";
import {
  beginReading,
  CheckInput,
  checkMapping,
  columnPicture,
  listLogs,
  MOST_UPLOAD,
  ReadingInput,
  readingState,
  takeUpload,
} from "../usecases/readings.ts";
import { Done, Id, Ids, idOf, idsOf, type Operation, operation, Problem, z } from "./operation.ts";

const Names = z.array(z.string());

/** A sheet with what its columns seem to be. */
const SheetPreview = z.object({
  header: Names,
  units: z.array(z.string().optional()),
  delimiter: z.string(),
  rows: z.number(),
  sample: z.array(Names),
  roles: Names,
  recipe: z.object({ name: z.string(), code: z.string(), dimension: z.union([z.literal(2), z.literal(3)]) }).optional(),
  notes: Names,
});

const Reading = z.object({
  name: z.string(),
  state: z.enum(["reading", "done", "refused", "stopped"]),
  read: z.number(),
  total: z.number(),
  rows: z.number(),
  sheets: Names.optional(),
  problems: z.array(Problem),
  preview: SheetPreview.optional(),
});

const Preview = z.object({
  history: SheetPreview.optional(),
  quantities: z
    .object({ rows: z.array(z.object({ line: z.number(), name: z.string(), value: z.number(), unit: z.string().optional() })), roles: Names })
    .optional(),
  problems: z.array(Problem),
});

/** The same data, without its promise that nobody changes it. */
const plain = <T>(value: unknown): T => value as T;

/** Results of other codes: uploads, readings, previews, brought-in runs, followed logs, recipes. */
export const FILE_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/uploads",
    quiet: true,
    says: `Takes a file of up to ${MOST_UPLOAD / 1024 ** 2} MB in pieces; it is read by an operation of its own.`,
    output: z.object({ hash: z.string(), bytes: z.number() }),
    most: "stream",
    run: ({ opened, request }) => takeUpload(opened, request.body, Number(request.headers.get("content-length") ?? Number.NaN)),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/readings",
    quiet: true,
    says: "Begins to read an uploaded file, or a log in a watched folder.",
    input: ReadingInput,
    output: Id,
    run: ({ opened, input }) => beginReading(opened, input),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/readings/{reading}",
    says: "How far a reading is, and what was found once it is done.",
    output: Reading,
    run: async ({ opened, at }) => plain<z.input<typeof Reading>>(await readingState(opened, at.id, at.reading)),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/readings/{reading}/check",
    quiet: true,
    says: "Whether a mapping of columns can be used, and what it leaves out.",
    input: CheckInput,
    output: z.object({ problems: z.array(Problem).readonly(), notes: Names.readonly() }),
    run: ({ opened, at, input, request }) => checkMapping(opened, at.id, at.reading, input, request.signal),
  }),
  operation({
    method: "get",
    path: "/cases/{id}/readings/{reading}/columns/{index}",
    says: "A column for drawing: lowest and highest of every stretch.",
    output: z.object({ at: z.array(z.number()), values: z.array(z.number().nullable()), gaps: z.number() }),
    run: ({ at, request }) => columnPicture(at.reading, Number(at.index), request.signal),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/readings/{reading}",
    quiet: true,
    says: "Stops a reading and forgets its file unless something else names it.",
    output: Done,
    run: async ({ at }) => dropReading(at.reading),
  }),
  operation({
    method: "get",
    path: "/logs",
    says: "Logs in the watched folders, the newest first.",
    output: z.array(z.object({ name: z.string(), path: z.string(), bytes: z.number(), changedAt: z.string() })),
    run: ({ opened }) => listLogs(opened),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/preview",
    quiet: true,
    says: "Reads files and guesses what their columns and rows are; stores nothing.",
    input: PreviewInput,
    output: Preview,
    run: async ({ opened, at, input, request }) => plain<z.input<typeof Preview>>(await previewFiles(opened, at.id, input, request.signal)),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/bring-in",
    says: "Makes a run of confirmed files.",
    input: BringInInput,
    output: Id,
    run: ({ opened, at, input }) => bringIn(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/bring-in-family",
    says: "Makes a run of every file of a family; none unless all can be read.",
    input: FamilyInInput,
    output: Ids,
    run: ({ opened, at, input }) => bringInFamily(opened, at.id, input).then(idsOf),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/add",
    says: "Adds a table of results to a brought-in run.",
    input: AddInput,
    output: Done,
    run: ({ opened, at, input }) => addToRun(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/follow",
    says: "Follows a log while it grows.",
    input: FollowInput,
    output: Id,
    run: ({ opened, at, input }) => followLog(opened, at.id, input).then(idOf),
  }),
  operation({
    method: "get",
    path: "/recipes",
    says: "Ways of reading files that were kept.",
    output: z.array(z.looseObject({ id: z.string(), name: z.string() })),
    run: async ({ opened }) => (await listRecipes(opened.db)).map((r) => ({ ...r })),
  }),
  operation({
    method: "delete",
    path: "/recipes/{id}",
    says: "Forgets a way of reading files; that can be taken back.",
    output: Done,
    run: ({ opened, at }) => markRecipe(opened.db, at.id, new Date()),
  }),
  operation({
    method: "post",
    path: "/recipes/{id}/restore",
    says: "Brings a forgotten way of reading files back.",
    output: Done,
    run: ({ opened, at }) => markRecipe(opened.db, at.id, null),
  }),
];

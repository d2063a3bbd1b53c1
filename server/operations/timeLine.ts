import { checkChain, timeLine } from "../usecases/timeLine.ts";
import { type Operation, operation, z } from "./operation.ts";

const Entry = z.object({
  sequence: z.number(),
  at: z.string(),
  says: z.string(),
  method: z.string(),
  path: z.string(),
  caseId: z.string().nullable(),
  title: z.string().optional(),
  by: z.string().nullable(),
  inputHash: z.string(),
  before: z.string(),
  hash: z.string(),
});

/** Who did what when. */
export const TIME_LINE_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/time-line",
    says: "A page of the time line, the newest entries first: what was changed, when, of which case, and by whom where it was signed.",
    query: z.object({ case: z.uuid().optional(), before: z.coerce.number().int().min(1).optional() }),
    output: z.array(Entry),
    run: ({ opened, query }) => timeLine(opened, { caseId: query.case, before: query.before }),
  }),
  operation({
    method: "get",
    path: "/time-line/check",
    says: "Whether every entry of the time line is as it was entered, by the chain of their hashes.",
    output: z.object({ entries: z.number(), broken: z.number().optional(), hash: z.string(), sentence: z.string() }),
    run: ({ opened }) => checkChain(opened),
  }),
];

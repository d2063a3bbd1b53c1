import { BringPackInput, bringPack, checkPack, giveUpPack, PackInput, packUnderWay } from "../usecases/packs.ts";
import { Done, Id, type Operation, operation, z } from "./operation.ts";

const Lines = z.array(z.string());

const Check = z.object({
  title: z.string(),
  number: z.number(),
  issuedBy: z.string(),
  issuedAt: z.string(),
  manifest: z.string(),
  files: z.number(),
  compared: z.number(),
  changed: Lines,
  differences: z.array(z.object({ where: z.string(), left: z.string().optional(), right: z.string().optional() })),
  otherFiles: Lines,
  notChecked: Lines,
  sameMethod: z.boolean(),
  asPacked: z.boolean(),
  holds: z.boolean(),
  sentence: z.string(),
});

const View = z.object({
  check: Check,
  cases: z.array(z.object({ id: z.string(), title: z.string(), here: z.enum(["not here", "here", "deleted here"]) })),
  programmes: z.array(z.object({ name: z.string(), here: z.boolean() })),
  notes: Lines,
});

/** Evidence packs: checked by making them again, and brought in. */
export const PACK_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/packs/check",
    quiet: true,
    long: true,
    says: "Checks an uploaded evidence pack: its files against its list, and every figure of its report against what its inputs give; stores nothing.",
    input: PackInput,
    output: View,
    run: async ({ opened, input }) => structuredClone(await checkPack(opened, input)) as z.input<typeof View>,
  }),
  operation({
    method: "get",
    path: "/packs/{hash}/under-way",
    says: "How far the check of a pack is; empty where none is under way.",
    output: z.object({ told: z.object({ done: z.number(), of: z.number(), what: z.string() }).optional() }),
    run: async ({ at }) => ({ told: packUnderWay(at.hash) }),
  }),
  operation({
    method: "delete",
    path: "/packs/{hash}/under-way",
    quiet: true,
    says: "Gives the check of a pack up.",
    output: Done,
    run: async ({ at }) => giveUpPack(at.hash),
  }),
  operation({
    method: "post",
    path: "/packs",
    says: "Brings the cases of an evidence pack in, with their runs, their report and what was done to them.",
    input: BringPackInput,
    output: Id,
    run: ({ opened, input }) => bringPack(opened, input),
  }),
];

import { fromPlain, toPlain } from "../../core/solver/wire.ts";
import { bench } from "../jobs/bench.ts";
import { readMessage } from "../jobs/messageShape.ts";
import { type Operation, operation, z } from "./operation.ts";

/** a node tells of checkpoints, which hold the memory of the acceleration */
const MOST_FROM_NODE = 500 * 1024 * 1024;

const Words = z.string().max(300);

const HearInput = z.object({
  runId: z.uuid(),
  attempt: z.number().int().min(1),
  messages: z.array(z.looseObject({ type: z.string() })).max(2000),
});

/** What a bench node may ask: work to take, and what came of it. */
export const NODE_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/node/take",
    says: "A node asks for a run to compute.",
    caller: "node",
    most: MOST_FROM_NODE,
    input: z.object({
      node: z.string().trim().min(1).max(60),
      /** what it computes with; one that does not say is taken for the same as this */
      build: z.object({ version: Words, options: Words.optional(), compiler: Words.optional() }).optional(),
    }),
    output: z.unknown(),
    run: async ({ input }) => {
      const taken = await (await bench()).takeForNode(input.node, input.build);
      if (!taken) return { run: null };
      const { run, checkpoint, start } = taken;
      return {
        run: { id: run.id, attempt: run.attempt, label: run.label, settings: run.settings },
        checkpoint: checkpoint ? toPlain(checkpoint) : null,
        start: start ? toPlain(start) : null,
      };
    },
  }),
  operation({
    method: "post",
    path: "/node/hear",
    says: "A node tells what its run does; the answer is what it is to do next.",
    caller: "node",
    most: MOST_FROM_NODE,
    input: HearInput,
    output: z.object({ control: z.number().nullable(), field: z.number() }),
    run: async ({ input: { runId, attempt, messages } }) => {
      const told = messages.map((m) => readMessage(fromPlain(m)));
      const answer = await (await bench()).hearFromNode(runId, attempt, told);
      return { control: answer?.control ?? null, field: answer?.field ?? 0 };
    },
  }),
];

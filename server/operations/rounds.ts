import { RoundInput, roundState, roundsView, startRound } from "../usecases/rounds.ts";
import { type Operation, operation, z } from "./operation.ts";

const Cell = z.looseObject({
  version: z.string(),
  value: z.number(),
  runId: z.string(),
  change: z.number().optional(),
  moved: z.boolean().optional(),
});

const Shape = z.object({
  codes: z.array(z.object({ code: z.string(), versions: z.number() })),
  rounds: z
    .looseObject({
      code: z.string(),
      versions: z.array(z.string()),
      lines: z.array(z.looseObject({ caseId: z.string(), title: z.string(), name: z.string(), cells: z.array(Cell) })),
      moved: z.record(z.string(), z.number()),
    })
    .optional(),
  sentence: z.string(),
  benchVersion: z.string(),
  waiting: z.number(),
});

/** The benchmarks run again with every version of a code. */
export const ROUND_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/rounds",
    says: "What moved between the versions of a code over the benchmarks of the open programme, by how much, and with which version.",
    query: z.object({ code: z.string().max(80).optional() }),
    output: Shape,
    run: async ({ opened, query }) => (await roundsView(opened, query.code)) as unknown as z.input<typeof Shape>,
  }),
  operation({
    method: "post",
    path: "/rounds",
    says: "Queues a round of the bench: the leading run of every bench case once more, by the version that runs now.",
    input: RoundInput,
    output: z.object({ runs: z.array(z.string()), had: z.number() }),
    run: async ({ opened, input }) => {
      const { runs, had } = await startRound(opened, input);
      return { runs: runs.map((r) => r.id), had };
    },
  }),
  operation({
    method: "post",
    path: "/rounds/state",
    quiet: true,
    says: "How many runs of a round are still to be computed, and which failed.",
    input: z.object({ runs: z.array(z.uuid()).max(500) }),
    output: z.object({ open: z.number(), failed: z.array(z.string()) }),
    run: ({ opened, input }) => roundState(opened, input.runs),
  }),
];

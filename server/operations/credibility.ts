import { FACTOR_KEYS } from "../../core/records/credibility.ts";
import { CredibilityInput, caseCredibility, sayOfCredibility, withdrawCredibility } from "../usecases/credibility.ts";
import { Done, type Operation, operation, z } from "./operation.ts";

const Level = z.number().int().min(0).max(4);

const CredibilityShape = z.looseObject({
  quantityKey: z.string(),
  code: z.string(),
  lowest: Level,
  lowestFactors: z.array(z.string()),
  target: Level.optional(),
  meetsTarget: z.boolean().optional(),
  sentence: z.string(),
  factors: z.array(
    z.looseObject({
      key: z.enum(FACTOR_KEYS),
      name: z.string(),
      level: Level.optional(),
      proposed: Level.optional(),
      criterion: z.string(),
      because: z.string(),
      changed: z.string().optional(),
    }),
  ),
  proofs: z.array(z.looseObject({ caseId: z.string(), title: z.string(), field: z.string(), order: z.number().optional(), formalOrder: z.number() })),
});

/** How credible the figures of a case are. */
export const CREDIBILITY_OPERATIONS: readonly Operation[] = [
  operation({
    method: "get",
    path: "/cases/{id}/credibility/{quantity}",
    says: "How credible a quantity of a case is: eight factors with levels proposed from evidence, what would bring each further, and the code's proofs.",
    output: CredibilityShape,
    run: async ({ opened, at }) => (await caseCredibility(opened, at.id, at.quantity)) as unknown as z.input<typeof CredibilityShape>,
  }),
  operation({
    method: "post",
    path: "/cases/{id}/credibility",
    says: "Says something of a factor: lower with a reason, raised with a document, or that it looks right; signed.",
    input: CredibilityInput,
    output: Done,
    run: ({ opened, at, input }) => sayOfCredibility(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/cases/{id}/credibility/{factor}",
    says: "Takes back what was said of a factor.",
    output: Done,
    run: ({ opened, at }) => withdrawCredibility(opened, at.id, at.factor),
  }),
];

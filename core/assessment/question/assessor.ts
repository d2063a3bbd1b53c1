import { z } from "zod";
import type { Assessor } from "../stages/assessor.ts";
import { number, remarks, State } from "../stages/shapes.ts";
import { assessSetup } from "./assess.ts";

export const setupAssessor: Assessor = {
  assess: ({ e }) => ({ setup: assessSetup(e) }),
  shape: {
    setup: z.looseObject({
      similarity: z.array(z.looseObject({ key: z.string(), name: z.string(), value: number, unit: z.string() })),
      remarks,
      state: State,
    }),
  },
};

import { z } from "zod";
import type { Assessor } from "../stages/assessor.ts";
import { number } from "../stages/shapes.ts";
import { assessDerived } from "./derivedQuantities.ts";

export const derivedAssessor: Assessor = {
  assess: ({ e, set, ladder }, { rules }) => {
    if (!e.derived || !set) return { derived: [] };
    const standards = Object.fromEntries(rules.map((r) => [r.quantityKey, r.uNum === undefined ? undefined : r.uNum * r.scale]));
    return { derived: assessDerived(e.derived, set, ladder[0], standards) };
  },
  shape: {
    derived: z.array(z.looseObject({ key: z.string(), formula: z.string(), uses: z.array(z.string()), value: number.optional() })),
  },
};

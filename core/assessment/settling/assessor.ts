import { z } from "zod";
import { TAKES } from "../../records/take.ts";
import { meshUncertainty } from "../results/meshUncertainty.ts";
import type { Assessor } from "../stages/assessor.ts";
import { number, remarks, State } from "../stages/shapes.ts";
import { assessSettling } from "./settling.ts";

const Average = z.looseObject({
  key: z.string(),
  mean: number,
  expanded: number,
  standard: number,
  cut: number,
  samples: number,
  step: number,
  effectiveSamples: number,
  adopted: z.boolean(),
  abscissa: z.enum(["s", "iterations"]),
  take: z.enum(TAKES),
  taken: z.looseObject({ value: number, expanded: number }).optional(),
  doubts: z.array(z.looseObject({ rule: z.string(), severity: z.enum(["doubt", "note"]), sentence: z.string() })),
});

const Settling = z.looseObject({
  runId: z.string(),
  label: z.string(),
  residuals: z.array(z.looseObject({ name: z.string(), start: number, end: number, drop: number, factor: number, state: z.string(), gaps: number })),
  quantities: z.array(
    z.looseObject({
      key: z.string(),
      value: number,
      error: number,
      kind: z.string(),
      factor: number,
      relative: number,
      threshold: number,
      against: z.enum(["mesh uncertainty", "limit"]),
      holds: z.boolean(),
    }),
  ),
  tolerance: z.array(z.looseObject({ tolerance: number, values: z.record(z.string(), number) })),
  averages: z.array(Average),
  marks: z.array(z.looseObject({ rule: z.string(), iteration: number, label: z.string() })),
  smallestDrop: number.optional(),
  remarks,
  state: State,
});

export const settlingAssessor: Assessor = {
  assess: ({ e, ladder, scales }, { refinement }) => {
    const sizes = Object.fromEntries(Object.entries(scales).map(([key, s]) => [key, s.value]));
    const known = { scales: sizes, meshUncertainty: meshUncertainty(refinement), dropTarget: e.dropTarget, strouhal: e.setup };
    return { settling: ladder.map((run) => assessSettling({ run, quantities: e.quantities, ...known })) };
  },
  shape: { settling: z.array(Settling) },
};

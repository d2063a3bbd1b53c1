import { z } from "zod";
import { assessSpaceQuality } from "../../method/setup/spaceQuality.ts";
import type { Assessor } from "../stages/assessor.ts";
import { number, remarks, State } from "../stages/shapes.ts";

const Spread = z.object({ least: z.number(), median: z.number(), greatest: z.number() }).optional();
const Placed = z.object({ cell: z.number(), at: z.tuple([z.number(), z.number(), z.number()]) }).optional();
export const LayersShape = z.object({
  name: z.string(),
  faces: z.number(),
  cells: z.number(),
  layered: z.number(),
  height: Spread,
  layers: Spread,
  growth: Spread,
  thinnest: Placed,
  steepest: Placed,
});
const Line = z.looseObject({ metric: z.string(), name: z.string(), limit: number, beyond: number, state: State });

/** The meshes in space that were brought in, judged. */
export const meshesAssessor: Assessor = {
  assess: ({ e }) => ({
    meshes: e.runs.flatMap((run) =>
      run.result?.quality ? [{ runId: run.id, label: run.label, ...assessSpaceQuality(run.label, run.result.quality) }] : [],
    ),
  }),
  shape: {
    meshes: z.array(
      z.looseObject({
        runId: z.string(),
        label: z.string(),
        file: z.string(),
        cells: number,
        lines: z.array(Line),
        layers: z.array(LayersShape),
        length: z.string(),
        remarks,
        state: State,
      }),
    ),
  },
};

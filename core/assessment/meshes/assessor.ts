import { z } from "zod";
import { assessSpaceQuality } from "../../method/setup/spaceQuality.ts";
import type { Assessor } from "../stages/assessor.ts";
import { number, remarks, State } from "../stages/shapes.ts";

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
      z.looseObject({ runId: z.string(), label: z.string(), file: z.string(), cells: number, lines: z.array(Line), remarks, state: State }),
    ),
  },
};

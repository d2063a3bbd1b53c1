import { z } from "zod";
import type { RunEvidence } from "../../records/run.ts";
import type { RunBalance } from "../results/balance.ts";
import { type MeshUncertainty, meshUncertainty } from "../results/meshUncertainty.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { number, remarks, State } from "../stages/shapes.ts";
import { assessRunBalance } from "./assess.ts";

const Balance = z.looseObject({
  runId: z.string(),
  label: z.string(),
  lines: z.array(z.looseObject({ what: z.string(), net: number, throughput: number, relative: number, limit: number, state: State })),
  laws: z.array(z.looseObject({ law: z.string(), share: number, demands: z.string(), sentence: z.string(), limit: number, state: State })),
  second: z.array(z.looseObject({ name: z.string(), first: number, second: number, relative: number, limit: number, state: State })),
  surface: z
    .looseObject({
      file: z.string(),
      lines: z.array(
        z.looseObject({
          quantityKey: z.string(),
          name: z.string(),
          reported: number,
          integrated: number,
          relative: number,
          limit: number,
          state: State,
        }),
      ),
      remarks,
      state: State,
    })
    .optional(),
  remarks,
  state: State,
});

export const balanceAssessor: Assessor = {
  assess: (g, { refinement }) => ({ balance: balances(g, meshUncertainty(refinement)) }),
  shape: { balance: z.array(Balance) },
};

function balances({ e, ladder }: Ground, meshU: MeshUncertainty): RunBalance[] {
  const known = Object.values(meshU).filter((u): u is number => u !== undefined);
  return ladder.flatMap(
    (run) =>
      assessRunBalance({
        run,
        quantities: e.quantities,
        meshUncertainty: onMesh(run, ladder[0], meshU, e.formalOrder),
        smallest: known.length ? Math.min(...known) : undefined,
        symmetric: e.setup.facts?.symmetricFlow === 1,
      }) ?? [],
  );
}

/** What the mesh of a coarser run explains: it grows with the spacing at the formal order. */
function onMesh(run: RunEvidence, finest: RunEvidence | undefined, meshU: MeshUncertainty, formalOrder: number): MeshUncertainty {
  if (!run.mesh || !finest?.mesh) return meshU;
  const growth = (run.mesh.spacing / finest.mesh.spacing) ** formalOrder;
  return Object.fromEntries(Object.entries(meshU).map(([key, u]) => [key, u === undefined ? u : u * growth]));
}

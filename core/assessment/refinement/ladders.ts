import { z } from "zod";
import { domainUncertainty } from "../../method/refinement/alongDomain.ts";
import { judgeLadder } from "../../method/refinement/procedures.ts";
import { spaceTimeFit } from "../../method/refinement/spaceTime.ts";
import type { QuantitySpec } from "../../records/quantity.ts";
import { AXIS_WORDS, apartRuns, type Ladder, type LadderAxis, laddersOf, ORDERED, spaceTimeRuns } from "../../study/ladders.ts";
import type { LadderAssessment, LadderList, LadderQuantity } from "../results/refinement.ts";
import { valueError } from "../settling/valueError.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { number } from "../stages/shapes.ts";

/** Ladders along every axis that the runs at hand differ in, besides the family of meshes the case rests on. */
export const laddersAssessor: Assessor = {
  assess: (g) => {
    const family = g.ladder.map((r) => r.id);
    const found = laddersOf(g.e, family);
    return { ladders: { list: found.map((l) => assessLadder(g, l)), ...spaceAndTime(g), apart: apartRuns(g.e, family, found) } };
  },
  shape: {
    ladders: z.looseObject({
      list: z.array(
        z.looseObject({
          key: z.string(),
          axis: z.enum(Object.keys(AXIS_WORDS) as [LadderAxis, ...LadderAxis[]]),
          title: z.string(),
          runs: z.array(z.looseObject({ runId: z.string(), label: z.string(), position: number.optional(), place: z.string() })),
          quantities: z.array(z.looseObject({ key: z.string(), relative: number.optional(), spread: number.optional() })),
        }),
      ),
      apart: z.array(z.looseObject({ runId: z.string(), label: z.string(), differs: z.array(z.string()) })),
    }),
  },
};

/** Space and time at once: offered where runs differ in their time steps at all. */
function spaceAndTime({ e }: Ground): Pick<LadderList, "together"> {
  const runs = spaceTimeRuns(e);
  const inTime = runs[0] && (runs[0].run.origin === "bench" ? 2 : 1);
  // One step a mesh is a plain family: there is nothing to tell apart, and nobody asked.
  const perSpacing = new Set(runs.map((r) => r.spacing.toPrecision(6))).size;
  if (!inTime || runs.length < 4 || perSpacing === runs.length) return {};
  return {
    together: {
      runs: runs.map(({ run, spacing, step }) => ({ label: run.label, spacing, step })),
      fits: e.quantities.map((q) => {
        const values = runs.flatMap(({ run, spacing, step }) => {
          const value = run.result?.quantities[q.key];
          return value !== undefined && Number.isFinite(value) ? [{ spacing, step, value }] : [];
        });
        return { key: q.key, fit: spaceTimeFit(values, [e.formalOrder, inTime]) };
      }),
    },
  };
}

function assessLadder(g: Ground, l: Ladder): LadderAssessment {
  return {
    key: l.key,
    axis: l.axis,
    title: `${AXIS_WORDS[l.axis]}${held(l)}`,
    runs: l.runs.map(({ run, position, place }) => ({ runId: run.id, label: run.label, ...(position === undefined ? {} : { position }), place })),
    quantities: g.e.quantities.map((q) => alongAxis(g, l, q)),
  };
}

/** Where the ladder stands in everything else that counts, in words. */
function held({ axis, runs }: Ladder): string {
  const [{ run }] = runs;
  return axis.startsWith("mesh") || axis === "domain" || !run.mesh ? "" : `, on ${run.mesh.label}`;
}

/** Formal order along an axis: that of the scheme in space; of the bench in time; the least another code can have; errors that follow the tolerance. */
function formalOrder({ e }: Ground, { axis, runs }: Ladder): number {
  if (axis === "time-step") return runs[0].run.origin === "bench" ? 2 : 1;
  return axis === "tolerance" ? 1 : e.formalOrder;
}

function alongAxis(g: Ground, l: Ladder, q: QuantitySpec): LadderQuantity {
  const values = l.runs.map(({ run }) => {
    const value = run.result?.quantities[q.key];
    return value !== undefined && Number.isFinite(value) ? value : undefined;
  });
  const known = values.filter((v): v is number => v !== undefined);
  const scale = g.scales[q.key].value;
  const base = { key: q.key, values, ...(known.length > 1 ? { spread: (Math.max(...known) - Math.min(...known)) / scale } : {}) };
  // Cells along one axis alone leave the error of the other as it is: an order can be observed, and is that of the share of this axis.
  if (!ORDERED.includes(l.axis)) return base;
  const rungs = l.runs.flatMap(({ run, position }, k) => {
    const value = values[k];
    return value === undefined || position === undefined ? [] : [{ spacing: position, value, error: Math.abs(valueError(run, q, g.e.setup)) || 0 }];
  });
  if (l.axis === "domain")
    return rungs.length < 2 || q.ofDomain
      ? base
      : {
          ...base,
          relative:
            domainUncertainty(
              rungs.map((r) => r.value),
              0,
            ) / scale,
        };
  if (rungs.length < 3) return base;
  const { three, adopted } = judgeLadder(rungs, formalOrder(g, l));
  return { ...base, kind: three.kind, ...(three.kind === "monotone" ? { order: three.order } : {}), relative: adopted.uncertainty / scale };
}

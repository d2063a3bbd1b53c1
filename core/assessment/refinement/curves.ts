import { z } from "zod";
import { refineCurve } from "../../method/refinement/pointByPoint.ts";
import { thinned } from "../../numeric/thinned.ts";
import type { Profile } from "../../records/profile.ts";
import type { RunEvidence } from "../../records/run.ts";
import type { CurveAssessment } from "../results/refinement.ts";
import type { Assessor, Ground } from "../stages/assessor.ts";
import { number } from "../stages/shapes.ts";

/** Curves of the case, point by point over the three finest meshes of its family. */
export const curvesAssessor: Assessor = {
  assess: (g) => ({ curves: curvesOf(g) }),
  shape: {
    curves: z.array(
      z.looseObject({
        key: z.string(),
        name: z.string(),
        rungs: z.array(z.looseObject({ label: z.string(), at: z.array(number), value: z.array(number) })),
        at: z.array(number),
        fine: z.array(number),
        band: z.array(number),
        averageOrder: number.optional(),
        orders: z.array(number),
      }),
    ),
  },
};

/** points of a curve that are kept to be drawn */
const DRAWN = 120;

function curvesOf({ e, ladder }: Ground): CurveAssessment[] {
  const runs = ladder.filter((r) => r.mesh);
  return (runs[0]?.result?.profiles ?? []).flatMap((p) => {
    const having = runs.flatMap((run) => {
      const profile = run.result?.profiles.find((x) => x.key === p.key);
      return profile && rising(profile) ? [{ run, profile }] : [];
    });
    const found = refined(having, e.formalOrder);
    if (!found) return [];
    return [
      {
        key: p.key,
        name: p.name,
        abscissa: { name: p.abscissa.name, unit: p.abscissa.unit },
        value: { name: p.value.name, unit: p.value.unit },
        rungs: having.map(({ run, profile }) => ({
          label: run.label,
          at: thinned(profile.abscissa.values, DRAWN),
          value: thinned(profile.value.values, DRAWN),
        })),
        ...found,
        at: thinned(found.at, DRAWN),
        fine: thinned(found.fine, DRAWN),
        band: thinned(found.band, DRAWN),
        widest: Math.max(...found.band),
      },
    ];
  });
}

/** Abscissae that fall, or stand still, are not interpolated between. */
const rising = ({ abscissa: { values: x }, value: { values: y } }: Profile): boolean =>
  x.length > 2 && x.length === y.length && y.every(Number.isFinite) && x.every((v, i) => Number.isFinite(v) && (i === 0 || v > x[i - 1]));

function refined(having: readonly { run: RunEvidence; profile: Profile }[], formalOrder: number) {
  const [fine, medium, coarse] = having;
  if (!coarse) return undefined;
  const curve = ({ profile }: (typeof having)[number]) => ({ at: profile.abscissa.values, value: profile.value.values });
  const spacing = [fine, medium, coarse].map(({ run }) => run.mesh?.spacing ?? 0) as [number, number, number];
  if (!(spacing[0] > 0 && spacing[1] > spacing[0] && spacing[2] > spacing[1])) return undefined;
  return refineCurve([curve(fine), curve(medium), curve(coarse)], spacing, formalOrder);
}

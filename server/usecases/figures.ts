import { z } from "zod";
import { calibrationMistake } from "../../core/figure/calibration.ts";
import { readFigureCurve } from "../../core/figure/readCurve.ts";
import { curveKey } from "../../core/intake/curveImport.ts";
import type { ReferenceProfile } from "../../core/records/reference.ts";
import { isUnit } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { findCase, findYardstick, insertYardstick } from "../repositories/cases.ts";
import { curvesYardstick, typedConditions, YardstickWords } from "./curves.ts";
import { UseCaseError } from "./failure.ts";
import { Reader } from "./reader.ts";

const Place = z.tuple([z.number().min(-1e5).max(1e5), z.number().min(-1e5).max(1e5)]);
const Axis = z.object({ at: z.tuple([Place, Place]), values: z.tuple([z.number(), z.number()]), log: z.boolean() });
const Named = z.object({ name: z.string().trim().min(1, "Name both axes.").max(80), unit: z.string().trim().max(20) });
const Hash = z.string().regex(/^[0-9a-f]{64}$/);

export const FigureInput = YardstickWords.extend({
  /** PNG, uploaded before */
  picture: z.object({ hash: Hash, name: z.string().max(200), sourceHash: Hash.optional() }),
  calibration: z.object({ x: Axis, y: Axis }),
  x: Named,
  y: Named,
  /** standard uncertainties of places, pixels */
  doubt: z.object({ reading: z.number().min(0.05).max(50), calibration: z.number().min(0).max(50) }),
  /** what printed bars are multiples of */
  coverage: z.union([z.literal(1), z.literal(2)]),
  curves: z
    .array(
      z.object({
        name: z.string().trim().min(1, "Name every curve.").max(120),
        /** curve of the case it stands beside; one of its own name where empty */
        target: z.string().max(80),
        places: z
          .array(z.object({ at: Place, bar: Place.optional() }))
          .min(2, "A curve needs two points.")
          .max(2000),
      }),
    )
    .min(1, "Read at least one curve.")
    .max(60),
});

const PNG = [137, 80, 78, 71, 13, 10, 26, 10];

/** Curves read off a picture as a yardstick; figures and their uncertainties are worked out of the places, and the picture is kept. */
export async function bringFigure(opened: Store, caseId: string, input: z.infer<typeof FigureInput>): Promise<void> {
  if (!(await findCase(opened.db, caseId))) throw new UseCaseError("not-found", "There is no such case.");
  const mistake = calibrationMistake(input.calibration);
  if (mistake) throw new UseCaseError("invalid", mistake);
  const reader = new Reader();
  for (const axis of ["x", "y"] as const)
    if (input[axis].unit && !isUnit(input[axis].unit)) reader.mistakes[`${axis}Unit`] = `"${input[axis].unit}" is no unit that is known here.`;
  const conditions = typedConditions(reader, input.conditions);
  reader.done();
  const bytes = await opened.blobs.get(input.picture.hash).catch(() => undefined);
  if (!bytes || PNG.some((b, i) => bytes[i] !== b)) throw new UseCaseError("invalid", "The picture did not arrive as a PNG. Choose it again.");
  const { x, y, calibration, doubt, coverage, picture } = input;
  const read = input.curves.map((c) => ({ c, key: c.target || curveKey(c.name), found: readFigureCurve(calibration, c.places, doubt, coverage) }));
  const profiles = read.map(
    ({ c, key, found }): ReferenceProfile => ({
      profileKey: key,
      axes: { name: c.name, abscissa: { name: x.name, unit: x.unit || "1" }, value: { name: y.name, unit: y.unit || "1" } },
      abscissa: found.abscissa,
      value: found.value,
      standardUncertainty: found.own,
      systematicUncertainty: found.shared,
      abscissaUncertainty: found.place,
      uncertaintyNote: `read off a figure: ${doubt.reading} pixels a reading, ${doubt.calibration} pixels a place of the calibration${c.places.some((p) => p.bar) ? ", and the printed bars" : ""}`,
      changes: ["Read off a figure."],
    }),
  );
  const figure = { ...picture, calibration, doubt, places: Object.fromEntries(read.map(({ key, found }) => [key, found.places])) };
  await insertYardstick(opened.db, caseId, { ...curvesYardstick(input, conditions, profiles), figure });
}

/** The picture a yardstick was read off. */
export async function figurePicture(opened: Store, id: string): Promise<Uint8Array> {
  const figure = (await findYardstick(opened.db, id))?.data.figure;
  if (!figure) throw new UseCaseError("not-found", "That yardstick was not read off a figure.");
  return opened.blobs.get(figure.hash);
}

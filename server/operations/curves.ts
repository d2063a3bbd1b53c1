import { AddCurvesInput, addCurves, BringCurvesInput, bringCurves, CurvesInput, DoubtInput, doubtPoint, previewCurves } from "../usecases/curves.ts";
import { bringFigure, FigureInput, figurePicture } from "../usecases/figures.ts";
import { TurnInput, turnCurve } from "../usecases/turnedCurves.ts";
import { Done, type Operation, operation, Problem, z } from "./operation.ts";

const Names = z.array(z.string()).readonly();
const Numbers = z.array(z.number()).readonly();
const Axis = z.object({ name: z.string(), unit: z.string() });

/** Curves from files: measured, published, of other codes, and those of a person's own runs. */
export const CURVE_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/curves/preview",
    quiet: true,
    says: "Reads a table of curves: what its columns are, the curves they make, points that do not go with their neighbours; stores nothing.",
    input: CurvesInput,
    output: z.object({
      header: Names,
      units: z.array(z.string().nullable()).readonly(),
      rows: z.number(),
      sample: z.array(Names).readonly(),
      roles: Names,
      curves: z
        .array(
          z.object({
            name: z.string(),
            station: z.number().optional(),
            axes: z.object({ name: z.string(), abscissa: Axis, value: Axis }),
            abscissa: Numbers,
            value: Numbers,
            own: Numbers.optional(),
            shared: Numbers.optional(),
            place: Numbers.optional(),
            repeats: z.number(),
            proposals: z.array(z.object({ index: z.number(), reason: z.string() })).readonly(),
          }),
        )
        .readonly(),
      notes: Names,
      problems: z.array(Problem).readonly(),
    }),
    run: ({ input, request }) => previewCurves(input, request.signal),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/curves",
    says: "Takes curves of a file as a yardstick, with uncertainties, conditions and provenance.",
    input: BringCurvesInput,
    output: Done,
    run: ({ opened, at, input }) => bringCurves(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/cases/{id}/figures",
    says: "Takes curves read off an uploaded picture as a yardstick: places in pixels, calibrated by two of each axis.",
    input: FigureInput,
    output: Done,
    run: ({ opened, at, input }) => bringFigure(opened, at.id, input),
  }),
  operation({
    method: "get",
    path: "/yardsticks/{id}/picture",
    says: "The picture a yardstick was read off.",
    output: { file: "image/png" },
    run: async ({ opened, at }) => ({ bytes: await figurePicture(opened, at.id) }),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/curves",
    says: "Adds curves of a file to a run that was brought in.",
    input: AddCurvesInput,
    output: Done,
    run: ({ opened, at, input }) => addCurves(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/yardsticks/{id}/doubts",
    says: "Marks a point of a yardstick as doubtful, with a reason, or takes that back.",
    input: DoubtInput,
    output: Done,
    run: ({ opened, at, input }) => doubtPoint(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/yardsticks/{id}/turns",
    says: "States how the figures of a curve are turned before they are compared: a factor, a shift and the sign of each axis. With nothing typed they count as they are.",
    input: TurnInput,
    output: Done,
    run: ({ opened, at, input }) => turnCurve(opened, at.id, input),
  }),
];

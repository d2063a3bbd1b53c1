import { SURFACE_ROLES } from "../../core/records/surfaces.ts";
import {
  addPoints,
  addStations,
  DivisionInput,
  dropSurface,
  LookSurfaceInput,
  lookAtSurfaceOf,
  PointsInput,
  StationsInput,
  surfaceFile,
  TakeSurfaceInput,
  takeSurfaceOf,
} from "../usecases/surfaces.ts";
import { Done, type Operation, operation, z } from "./operation.ts";

const Vector = z.tuple([z.number(), z.number(), z.number()]);

/** Surfaces of brought-in runs and the forces on them. */
export const SURFACE_OPERATIONS: readonly Operation[] = [
  operation({
    method: "post",
    path: "/runs/{id}/surface/look",
    quiet: true,
    long: true,
    says: "Looks at an uploaded file with a surface (VTK XML, STL, PLY): its pieces, its arrays, what is wrong with it; stores nothing.",
    input: LookSurfaceInput,
    output: z.object({
      faces: z.number(),
      points: z.number(),
      low: Vector,
      high: Vector,
      normals: z.enum(["out of the body", "into the body"]),
      why: z.string(),
      arrays: z.array(
        z.object({ name: z.string(), on: z.enum(["cells", "points"]), components: z.number(), role: z.enum(SURFACE_ROLES), unit: z.string() }),
      ),
      divisions: z.array(DivisionInput),
      shells: z.array(z.object({ faces: z.number(), area: z.number(), gap: z.number(), closed: z.boolean(), volume: z.number().optional() })),
      rims: z.array(z.object({ edges: z.number(), length: z.number(), at: Vector })),
      turned: z.object({ faces: z.number(), at: Vector.optional() }),
      twice: z.number(),
      crowded: z.number(),
      oneSided: z.number(),
      division: DivisionInput,
      pieces: z.array(z.object({ called: z.string().optional(), faces: z.number(), area: z.number(), at: Vector, facing: Vector })),
      names: z.array(z.string()),
      notes: z.array(z.string()),
    }),
    run: async ({ opened, at, input, request }) => structuredClone(await lookAtSurfaceOf(opened, at.id, input, request.signal)) as never,
  }),
  operation({
    method: "post",
    path: "/runs/{id}/surface",
    says: "Gives a brought-in run its surface: patches named, pressure and shear integrated over them, held against the forces that were reported.",
    input: TakeSurfaceInput,
    output: z.object({ notes: z.array(z.string()) }),
    run: async ({ opened, at, input }) => ({ notes: [...(await takeSurfaceOf(opened, at.id, input)).notes] }),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/surface/curves",
    says: "Cuts a run's surface at stations and keeps the curves of pressure, shear or temperature along the cuts with the run.",
    input: StationsInput,
    output: z.object({ kept: z.array(z.string()), notes: z.array(z.string()) }),
    run: ({ opened, at, input }) => addStations(opened, at.id, input),
  }),
  operation({
    method: "post",
    path: "/runs/{id}/surface/points",
    says: "Reads a run's surface at the points of a table (x, y, z, and what was measured there) and keeps both sides for the comparison.",
    input: PointsInput,
    output: z.object({ notes: z.array(z.string()) }),
    run: ({ opened, at, input }) => addPoints(opened, at.id, input),
  }),
  operation({
    method: "delete",
    path: "/runs/{id}/surface",
    says: "Takes a run's surface away again; its file goes with the sweep.",
    output: Done,
    run: ({ opened, at }) => dropSurface(opened, at.id).then(() => ({ ok: true as const })),
  }),
  operation({
    method: "get",
    path: "/runs/{id}/surface/file",
    says: "The file of a run's surface, as it was brought in.",
    output: { file: "application/octet-stream" },
    run: ({ opened, at }) => surfaceFile(opened, at.id),
  }),
];

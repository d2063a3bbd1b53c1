import { z } from "zod";
import { curveKey } from "../../core/intake/curveImport.ts";
import { balanceOf } from "../../core/intake/surfaceBalance.ts";
import { POINT_READINGS } from "../../core/intake/surfacePoints.ts";
import { SURFACE_ROLES, type SurfaceRecord, type SurfaceSaid } from "../../core/records/surfaces.ts";
import { parseQuantity } from "../../core/units/units.ts";
import type { Store } from "../db/store.ts";
import { desk } from "../desk/desk.ts";
import type { Output } from "../desk/tasks.ts";
import { insertYardstick, listQuantities } from "../repositories/cases.ts";
import { findRun } from "../repositories/runs.ts";
import { broughtInRun, changeRun, type FinishedRun, metresOf, withFile, withoutFile } from "./broughtIn.ts";
import { curvesYardstick, withCurves } from "./curves.ts";
import { UseCaseError } from "./failure.ts";

const Hash = z.string().regex(/^[0-9a-f]{64}$/, "Choose the file again.");
const Vector = z.tuple([z.number(), z.number(), z.number()]);
const Direction = Vector.refine((v) => v.some((x) => x !== 0), "A direction needs a part that is not 0.");
const Name = z.string().trim().min(1, "A patch needs a name.").max(80);
const Of = z.string().trim().max(80);
const Degrees = z.number().min(0).max(180);

export const DivisionInput = z.discriminatedUnion("by", [
  z.object({ by: z.literal("angle"), degrees: Degrees }),
  z.object({ by: z.literal("array"), array: z.string().max(200) }),
  z.object({ by: z.literal("parts") }),
]);

const SplitInput = z.discriminatedUnion("by", [
  z.object({ by: z.literal("plane"), of: Of, at: Vector, normal: Direction, name: Name }),
  z.object({ by: z.literal("box"), of: Of, low: Vector, high: Vector, name: Name }),
  z.object({ by: z.literal("normal"), of: Of, direction: Direction, withinDeg: Degrees, name: Name }),
  z.object({ by: z.literal("smooth"), of: Of, at: Vector, degrees: Degrees, name: Name }),
]);

export const LookSurfaceInput = z.object({ hash: Hash, division: DivisionInput.optional() });

/** an entry with its unit */
const Entry = z.string().trim().min(1).max(60);

export const LinkInput = z.object({
  quantityKey: z.string().min(1).max(200),
  of: z.enum(["force", "moment"]),
  patches: z.array(Name).max(200),
  direction: Direction,
  factor: z.number().positive().max(1e6),
  coefficient: z.object({ density: Entry, speed: Entry, area: Entry, length: Entry.optional() }).optional(),
});

export const TakeSurfaceInput = z.object({
  hash: Hash,
  name: z.string().min(1).max(200),
  length: z.string().trim().min(1, "Say the file's unit of length.").max(20),
  arrays: z
    .array(z.object({ name: z.string().max(200), on: z.enum(["cells", "points"]), role: z.enum(SURFACE_ROLES), unit: z.string().trim().max(40) }))
    .max(2000),
  division: DivisionInput,
  names: z.array(z.object({ at: Vector, name: Name })).max(2000),
  splits: z.array(SplitInput).max(200),
  normals: z.enum(["out of the body", "into the body"]),
  shearOn: z.enum(["wall", "fluid"]),
  /** pressure taken off, with its unit */
  reference: Entry,
  /** moments are taken about it, m */
  aboutM: Vector,
  links: z.array(LinkInput).max(60),
});

type Taken = z.infer<typeof TakeSurfaceInput>;

/** Looks at an uploaded file with a surface; stores nothing. */
export async function lookAtSurfaceOf(
  opened: Store,
  runId: string,
  { hash, division }: z.infer<typeof LookSurfaceInput>,
  signal?: AbortSignal,
): Promise<Output<"lookSurface">> {
  await broughtInRun(opened, runId, "a surface");
  return desk().ask("lookSurface", { blobs: opened.blobs.folder, hash, ...(division ? { division } : {}) }, { signal });
}

/** An entry in SI. @throws {UseCaseError} it is none */
function siOf(entry: string, unit: string, field: string, positive = true): number {
  const read = parseQuantity(entry, unit);
  if (read.ok && (!positive || read.si > 0)) return read.si;
  const sentence = `${field}: ${read.ok ? "it must be positive." : read.sentence}`;
  throw new UseCaseError("invalid", sentence, { [field.toLowerCase()]: sentence });
}

/** Units a link's quantity may be in. */
const UNITS = { force: "N", moment: "N m" } as const;

function linkOf(
  link: z.infer<typeof LinkInput>,
  quantity: { readonly name: string; readonly unit: string } | undefined,
): SurfaceSaid["links"][number] {
  if (!quantity) throw new UseCaseError("invalid", `The case has no quantity "${link.quantityKey}".`);
  const { coefficient: c, ...rest } = link;
  const pure = quantity.unit === "1" || quantity.unit === "";
  if (pure !== (c !== undefined))
    throw new UseCaseError(
      "invalid",
      pure
        ? `${quantity.name} is a coefficient: say what it was made with.`
        : `${quantity.name} is in ${quantity.unit}: it needs nothing it was made with.`,
    );
  if (!pure && quantity.unit !== UNITS[link.of])
    throw new UseCaseError("invalid", `${quantity.name} is in ${quantity.unit}; a ${link.of} is in ${UNITS[link.of]}, or a coefficient.`);
  if (!c) return rest;
  return {
    ...rest,
    coefficient: {
      densityKgM3: siOf(c.density, "kg/m^3", "Density"),
      speedMS: siOf(c.speed, "m/s", "Speed"),
      areaM2: siOf(c.area, "m^2", "Area"),
      lengthM: c.length === undefined && link.of === "force" ? 1 : siOf(c.length ?? "", "m", "Length"),
    },
  };
}

/**
 * Gives a brought-in run its surface: patches named, forces integrated, and what of the run's quantities they are held against.
 * @returns what was done to what stood in the file, in sentences
 */
export async function takeSurfaceOf(opened: Store, runId: string, input: Taken): Promise<{ notes: readonly string[] }> {
  const run = await broughtInRun(opened, runId, "a surface");
  const quantities = await listQuantities(opened.db, run.caseId);
  const said: SurfaceSaid = {
    length: input.length,
    arrays: input.arrays.filter((a) => a.role !== "ignore"),
    recipe: { division: input.division, names: input.names, splits: input.splits },
    normals: input.normals,
    shearOn: input.shearOn,
    referencePa: siOf(input.reference, "Pa", "Reference pressure", false),
    aboutM: input.aboutM,
    links: input.links.map((l) =>
      linkOf(
        l,
        quantities.find((q) => q.key === l.quantityKey),
      ),
    ),
  };
  if (said.links.length && !said.arrays.length)
    throw new UseCaseError("invalid", "Nothing is integrated: say which array is the pressure or the stress along the wall.");
  const densityKgM3 = run.settings.parameters.densityKgM3 ?? 1;
  const found = await desk().ask("takeSurface", { blobs: opened.blobs.folder, hash: input.hash, said, unitM: metresOf(input.length), densityKgM3 });
  const balance = balanceOf(found);
  const notes = [...found.notes];
  const surface: SurfaceRecord = { file: { name: input.name, hash: input.hash }, said, found };
  await changeRun(opened, runId, (now) => {
    const { reported, settings, result } = withoutSurface(now);
    if (reported && balance)
      notes.push("The run has flows of its own, which were reported; they stay, and what the surface gives stands beside its patches.");
    return { settings: withFile(settings, surface.file), result: { ...result, ...(balance && !reported ? { balance } : {}), surface } };
  });
  return { notes };
}

/** A run as it is without its surface and what was made of it alone; a file that serves something else as well stays. */
function withoutSurface({ settings, result }: FinishedRun) {
  const { surface, balance, ...rest } = result;
  const reported = balance && balance.from !== "surface";
  const served = settings.files?.find((f) => f.hash === surface?.file.hash);
  const stays = served && (served.hash === result.quality?.file.hash || served.name === settings.fieldsFrom?.file);
  return {
    reported,
    settings: stays ? settings : { ...settings, files: withoutFile(settings.files, surface?.file.hash) },
    result: { ...rest, ...(reported ? { balance } : {}) },
  };
}

/** A run's surface as tasks are given it. @throws {UseCaseError} it has none */
async function surfaceOf(opened: Store, runId: string) {
  const { result, settings } = await broughtInRun(opened, runId, "curves");
  const { surface } = result;
  if (!surface) throw new UseCaseError("not-found", "The run has no surface.");
  return {
    blobs: opened.blobs.folder,
    hash: surface.file.hash,
    said: surface.said,
    unitM: surface.found.unitM,
    densityKgM3: settings.parameters.densityKgM3 ?? 1,
  };
}

const Axis = z.union([z.literal(0), z.literal(1), z.literal(2)]);

export const StationsInput = z.object({
  /** axis the planes stand across, 0 is x, and the one the curves run along */
  across: Axis,
  along: Axis,
  /** in the file's unit of length */
  stations: z.array(z.number()).min(1, "Say where the planes stand.").max(100),
  of: z.enum(["pressure", "shear", "temperature"]),
  abscissa: z.enum(["axis", "share", "arc"]),
  coefficient: z.object({ density: Entry, speed: Entry }).optional(),
  names: z.tuple([Name, Name]),
  replace: z.boolean().optional(),
});

/** Curves over cuts through a run's surface, kept with the run: they stand beside a yardstick's of the same names. */
export async function addStations(opened: Store, runId: string, input: z.infer<typeof StationsInput>): Promise<{ kept: string[]; notes: string[] }> {
  const { coefficient: c, replace, ...asked } = input;
  const coefficient = c && { densityKgM3: siOf(c.density, "kg/m^3", "Density"), speedMS: siOf(c.speed, "m/s", "Speed") };
  const { curves, notes } = await desk().ask("cutStations", {
    ...(await surfaceOf(opened, runId)),
    asked: { ...asked, ...(coefficient ? { coefficient } : {}) },
  });
  await changeRun(opened, runId, ({ label, result }) => ({
    result: { ...result, profiles: withCurves(label, result.profiles, curves, replace === true) },
  }));
  return { kept: curves.map((x) => x.name), notes: [...notes] };
}

export const PointsInput = z.object({
  file: z.object({ name: z.string().min(1).max(200), text: z.string().max(2 * 1024 * 1024, "The table is larger than 2 MB.") }),
  of: z.enum(POINT_READINGS),
  /** what the curve over the points is called, with the run and with the yardstick */
  name: Name,
  /** the measured values as a yardstick: where they come from, and how uncertain each is at 95 % */
  yardstick: z.object({ source: z.string().trim().min(1, "Say where the readings come from.").max(400), uncertainty: Entry }).optional(),
  replace: z.boolean().optional(),
});

/** Values of a run's surface at the points of a table as a curve over their numbers, and the measured ones as a yardstick beside it. */
export async function addPoints(opened: Store, runId: string, input: z.infer<typeof PointsInput>): Promise<{ notes: string[] }> {
  const found = await desk().ask("pointsOn", { ...(await surfaceOf(opened, runId)), of: input.of, text: input.file.text });
  const key = curveKey(input.name);
  const abscissa = { name: "point", unit: "1", values: found.points.map((_, k) => k + 1) };
  const curve = { key, name: input.name, abscissa, value: { name: input.of, unit: found.unit, values: found.points.map((p) => p.computed) } };
  const measured = found.points.map((p) => p.measured);
  const uncertainty = input.yardstick && siOf(input.yardstick.uncertainty, found.unit, "Uncertainty");
  if (input.yardstick && !measured.every((v) => v !== undefined))
    throw new UseCaseError("invalid", "The table has no column with what was measured.");
  const reference =
    input.yardstick &&
    uncertainty !== undefined &&
    curvesYardstick(
      { name: input.name, kind: "measured", source: input.yardstick.source, validity: "", who: "", how: "", when: "", conditions: {} },
      [],
      [
        {
          profileKey: key,
          axes: { name: input.name, abscissa: { name: abscissa.name, unit: abscissa.unit }, value: { name: input.of, unit: found.unit } },
          abscissa: abscissa.values,
          value: measured as number[],
          standardUncertainty: uncertainty / 2,
          uncertaintyNote: `each point's own ${input.yardstick.uncertainty}; as 95 % figures`,
        },
      ],
    );
  const hash = await opened.blobs.put(new TextEncoder().encode(input.file.text));
  const file = { name: input.file.name, hash };
  await changeRun(opened, runId, async (now, tx) => {
    const profiles = withCurves(now.label, now.result.profiles, [curve], input.replace === true);
    if (reference) await insertYardstick(tx.db, now.caseId, { ...reference, provenance: { ...reference.provenance, file } });
    return { settings: withFile(now.settings, file), result: { ...now.result, profiles } };
  });
  return { notes: [...found.notes] };
}

/** Takes a run's surface away again. */
export async function dropSurface(opened: Store, runId: string): Promise<void> {
  await fileOf(opened, runId);
  await changeRun(opened, runId, (now) => {
    const { settings, result } = withoutSurface(now);
    return { settings, result };
  });
}

/** The file a run's surface was read from. @throws {UseCaseError} it has none */
async function fileOf(opened: Store, runId: string): Promise<SurfaceRecord["file"]> {
  const file = (await findRun(opened.db, runId))?.result?.surface?.file;
  if (!file) throw new UseCaseError("not-found", "The run has no surface.");
  return file;
}

/** The file of a run's surface, as it was brought in. */
export async function surfaceFile(opened: Store, runId: string): Promise<{ bytes: Uint8Array; name: string }> {
  const { hash, name } = await fileOf(opened, runId);
  return { bytes: await opened.blobs.get(hash), name };
}

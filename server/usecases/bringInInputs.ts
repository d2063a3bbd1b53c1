import { z } from "zod";
import { MOST_BYTES } from "../../core/formats/delimited.ts";
import { PLAIN_FLUXES, SIGNS } from "../../core/intake/quantityImport.ts";

export const FileInput = z.object({ name: z.string().max(200), text: z.string().max(MOST_BYTES, "The file is larger than 16 MB.") });
export const Role = z
  .string()
  .max(60)
  .regex(
    /^(iteration|time|residual|log-residual|ignore|boundary-(mass|x|y|energy|species)|quantity:[\w-]+)$/,
    "A role is iteration, time, residual, log-residual, ignore, boundary-mass, -x, -y, -energy, -species, or quantity: and its key.",
  );
/** A row of a table of results is no iteration, no time and no residual. */
export const RowRoleInput = z
  .string()
  .max(60)
  .regex(
    /^(ignore|boundary-(mass|x|y|energy|species)|norm-(l1|l2|max|scale)|quantity:[\w-]+)$/,
    "A row is ignore, boundary-mass, -x, -y, -energy, -species, norm-l1, -l2, -max, -scale, or quantity: and its key.",
  );
export const Units = z.array(z.string().max(60).nullable()).max(400);

export const PreviewInput = z.object({ history: FileInput.nullable(), quantities: FileInput.nullable() });

/** Settings of one run, where they are its own. */
const StatedInput = z.object({
  schemeOrder: z.union([z.literal(1), z.literal(2)]).optional(),
  dropOrders: z.number().min(0.1).max(16).optional(),
  timeStepS: z.number().positive().optional(),
  domainM: z.number().positive().optional(),
  note: z.string().trim().max(200).optional(),
});

/** What is said of every brought-in run besides its files. */
const word = z.string().trim().max(200).optional();
export const BuildInput = z.object({ version: word, options: word, compiler: word, machine: word });

export const RunWords = z.object({
  label: z.string().trim().min(1, "Name the run.").max(80),
  code: z.string().trim().min(1, "Name the code that made it.").max(80),
  cells: z.number().int().min(1, "The number of cells is needed to place the run on the ladder.").max(1e10),
  volume: z.string().max(60),
  build: BuildInput.optional(),
  /** of the mesh; the case's own space unless given */
  dimension: z.union([z.literal(2), z.literal(3)]).optional(),
  roles: z.array(Role).max(400),
  units: Units.optional(),
  /** name under which the mapping is kept for the next file */
  recipe: z.string().trim().max(80).optional(),
});
export type RunWords = z.infer<typeof RunWords>;

export const BringInInput = RunWords.extend({
  history: z.union([FileInput, z.object({ reading: z.uuid() })]).nullable(),
  quantities: FileInput.nullable(),
  rowRoles: z.array(RowRoleInput).max(4000),
  rowUnits: z.array(z.string().max(60).nullable()).max(4000).optional(),
  fluxes: z.object({ signs: z.enum(SIGNS), factor: z.number().min(1).max(1000) }).default(PLAIN_FLUXES),
  /** what this run was made with where it differs from the case */
  own: StatedInput.optional(),
});

const MOST_RUNS = 40;

/** Several runs of one family: what they share is said once. */
export const FamilyInInput = RunWords.omit({ label: true, cells: true }).extend({
  fluxes: z.object({ signs: z.enum(SIGNS), factor: z.number().min(1).max(1000) }).default(PLAIN_FLUXES),
  own: StatedInput.optional(),
  /** roles and units by the name of a column or row: files of one family need not have them in one order */
  columnRoles: z.record(z.string().max(200), Role),
  columnUnits: z.record(z.string().max(200), z.string().max(60)).default({}),
  rowRolesByName: z.record(z.string().max(200), RowRoleInput).default({}),
  rowUnitsByName: z.record(z.string().max(200), z.string().max(60)).default({}),
  runs: z
    .array(
      z.object({
        label: z.string().trim().min(1, "Name every run.").max(80),
        cells: z.number().int().min(1, "Every run needs its number of cells, to be placed on the ladder.").max(1e10),
        history: FileInput.nullable(),
        quantities: FileInput.nullable(),
      }),
    )
    .min(1)
    .max(MOST_RUNS, `At most ${MOST_RUNS} runs at once.`),
});

export const AddInput = z.object({
  quantities: FileInput,
  rowRoles: z.array(RowRoleInput).max(4000),
  rowUnits: z.array(z.string().max(60).nullable()).max(4000).optional(),
  fluxes: z.object({ signs: z.enum(SIGNS), factor: z.number().min(1).max(1000) }).default(PLAIN_FLUXES),
  replace: z.boolean().default(false),
});

import type { Grid, GridArray } from "../dataset/grid.ts";
import { convert } from "../units/units.ts";
import { onMeshCells, type PlaneGrid } from "./planeGrid.ts";

/** What an array of a grid is said to be. */
export const FIELD_ROLES = ["ignore", "velocity", "velocity-x", "velocity-y", "pressure", "temperature", "density", "other"] as const;
export type FieldRole = (typeof FIELD_ROLES)[number];

/** Unit each role is kept in. */
export const ROLE_UNITS: Readonly<Record<Exclude<FieldRole, "ignore" | "other">, string>> = {
  velocity: "m/s",
  "velocity-x": "m/s",
  "velocity-y": "m/s",
  pressure: "Pa",
  temperature: "K",
  density: "kg/m^3",
};

/** pressure or stress over density, which codes of incompressible flow write */
export const KINEMATIC = "m^2/s^2";

/** An array with what it is said to be. */
export interface ArrayWords {
  readonly name: string;
  readonly on: "cells" | "points";
  readonly role: FieldRole;
  readonly unit: string;
}

/** A field on the cells of a plane mesh. */
export interface MadeField {
  readonly name: string;
  readonly unit: string;
  readonly values: Float64Array;
}

/** what a field of one component is kept as */
const NAMES: Readonly<Partial<Record<FieldRole, string>>> = { pressure: "p", "velocity-x": "u", "velocity-y": "v" };

const GUESSES: readonly (readonly [RegExp, FieldRole, number])[] = [
  [/^(u|vel|velocity|v)$/i, "velocity", 2],
  [/^(u|u[ _]?x|v[ _]?x|x[ _-]?velocity|velocity[ _-]?x)$/i, "velocity-x", 1],
  [/^(v|u[ _]?y|v[ _]?y|y[ _-]?velocity|velocity[ _-]?y)$/i, "velocity-y", 1],
  [/^(p|pressure|static[ _]?pressure)$/i, "pressure", 1],
  [/^(t|temp|temperature)$/i, "temperature", 1],
  [/^(rho|density|ρ)$/i, "density", 1],
];

/** Guesses what an array is by its name and how many components it has; whoever confirms it sees the guess. */
export function guessRole({ name, components }: Pick<GridArray, "name" | "components">): FieldRole {
  const plain = plainName(name);
  const found = GUESSES.find(([pattern, , least]) => pattern.test(plain) && components >= least && (least > 1 || components === 1));
  return found?.[1] ?? "ignore";
}

/** A name without the unit that may stand at its end. */
export const plainName = (name: string): string => name.replace(/[,([].*$/, "").trim() || name;

/** A name with its unit at the end, where it has one. */
export const withUnit = (name: string, unit: string): string => (unit && unit !== "1" ? `${name}, ${unit}` : name);

/** A unit at the end of a name, as "u, m/s" or "p (Pa)" have it. */
export const unitInName = (name: string): string | undefined => name.match(/[,([]\s*([^,()[\]]+?)\s*[)\]]?$/)?.[1];

/** An array that cannot be used as it was said, in a sentence. */
export class FieldMistake extends Error {
  constructor(
    readonly array: string,
    sentence: string,
  ) {
    super(`${array}: ${sentence}`);
  }
}

/**
 * Fields of the arrays that were said to be some, in SI.
 * @param densityKgM3 of the case, for pressures over density
 * @throws {FieldMistake} an array is not there, its unit is none of its kind, two are the same, or none was chosen
 */
export function gridFields(
  grid: Grid,
  plane: PlaneGrid,
  words: readonly ArrayWords[],
  densityKgM3: number,
): { fields: MadeField[]; notes: string[] } {
  const fields: MadeField[] = [];
  const notes: string[] = [];
  for (const w of words) {
    if (w.role === "ignore") continue;
    const array = (w.on === "cells" ? grid.onCells : grid.onPoints).find((a) => a.name === w.name);
    if (!array) throw new FieldMistake(w.name, `the file has no such array on its ${w.on}.`);
    if (w.on === "points") notes.push(`${w.name} lies on points: each cell has the mean of its corners.`);
    for (const f of fieldsOf(array, w, plane, densityKgM3, notes)) {
      if (fields.some((x) => x.name === f.name)) throw new FieldMistake(w.name, `${f.name} comes from two arrays; leave one out.`);
      const gaps = f.values.reduce((n, v) => n + (Number.isFinite(v) ? 0 : 1), 0);
      if (gaps) throw new FieldMistake(w.name, `${gaps} of ${f.values.length} cells have no value.`);
      fields.push(f);
    }
  }
  if (!fields.length) throw new FieldMistake("Fields", "say what at least one array is.");
  return { fields, notes };
}

function fieldsOf(array: GridArray, w: ArrayWords, plane: PlaneGrid, density: number, notes: string[]): MadeField[] {
  const onPoints = w.on === "points";
  if (w.role === "velocity") {
    if (array.components < 2) throw new FieldMistake(w.name, "a velocity has two components or three.");
    const by = factorOf(w, "m/s");
    return plane.along.map((along, k) => ({
      name: k ? "v" : "u",
      unit: "m/s",
      values: sumOf(along.map((share, d) => (share ? times(component(plane, array, onPoints, d, w), share * by) : undefined))),
    }));
  }
  if (array.components !== 1)
    throw new FieldMistake(w.name, `it has ${array.components} components; a ${w.role === "other" ? "field" : w.role} has one.`);
  const values = onMeshCells(plane, array, onPoints);
  if (w.role === "other") return [{ name: plainName(w.name), unit: w.unit.trim() || "1", values }];
  if (w.role === "pressure" && isKinematic(w.unit)) {
    notes.push(`${w.name} is pressure over density; it was multiplied by the density of the case, ${density} kg/m^3.`);
    const by = factorOf(w, KINEMATIC);
    return [{ name: "p", unit: "Pa", values: values.map((v) => v * by * density) }];
  }
  const unit = ROLE_UNITS[w.role as keyof typeof ROLE_UNITS];
  return [{ name: NAMES[w.role] ?? w.role, unit, values: values.map((v) => converted(v, w, unit)) }];
}

/** What an array has along an axis: one of two components has x and y. */
function component(plane: PlaneGrid, array: GridArray, onPoints: boolean, axis: number, w: ArrayWords): Float64Array {
  if (axis < array.components) return onMeshCells(plane, array, onPoints, axis);
  throw new FieldMistake(w.name, `it has ${array.components} components and the plane needs the one along ${"xyz"[axis]}.`);
}

const times = (values: Float64Array, by: number): Float64Array => (by === 1 ? values : values.map((v) => v * by));

function sumOf(parts: readonly (Float64Array | undefined)[]): Float64Array {
  const [first, ...rest] = parts.filter((p) => p !== undefined);
  for (const part of rest) for (let c = 0; c < first.length; c++) first[c] += part[c];
  return first;
}

export const isKinematic = (unit: string): boolean => convert(1, unit, "Pa") === undefined && convert(1, unit, KINEMATIC) !== undefined;

const factorOf = (w: ArrayWords, unit: string): number => converted(1, w, unit);

/** A value of an array in another unit. @throws {FieldMistake} it has none, or one of another kind */
export function converted(value: number, { name, unit }: Pick<ArrayWords, "name" | "unit">, target: string): number {
  if (!unit.trim()) throw new FieldMistake(name, `say its unit, ${target} or another of its kind.`);
  const found = convert(value, unit, target);
  if (found === undefined) throw new FieldMistake(name, `"${unit}" cannot be turned into ${target}.`);
  return found;
}

import type { Grid, GridArray } from "../dataset/grid.ts";
import { faceCount, type Surface } from "../dataset/surface.ts";
import type { OnSurface } from "../dataset/surfaceForces.ts";
import type { SurfaceRole, SurfaceWords } from "../records/surfaces.ts";
import { converted, FieldMistake, isKinematic, KINEMATIC } from "./gridFields.ts";

const GUESSES: readonly (readonly [RegExp, SurfaceRole, number])[] = [
  [/^(p|pressure|static[ _]?pressure|gauge[ _]?pressure)$/i, "pressure", 1],
  [/^(wall[ _]?shear([ _]?stress)?|shear([ _]?stress)?|tau([ _]?w(all)?)?|traction)$/i, "shear", 3],
  [/^(tau|shear|wall[ _]?shear([ _]?stress)?)[ _]?x$|^x[ _-]?(wall[ _-]?)?shear([ _-]?stress)?$/i, "shear-x", 1],
  [/^(tau|shear|wall[ _]?shear([ _]?stress)?)[ _]?y$|^y[ _-]?(wall[ _-]?)?shear([ _-]?stress)?$/i, "shear-y", 1],
  [/^(tau|shear|wall[ _]?shear([ _]?stress)?)[ _]?z$|^z[ _-]?(wall[ _-]?)?shear([ _-]?stress)?$/i, "shear-z", 1],
];

/** Guesses what an array on a surface is by its name; whoever confirms it sees the guess. */
export function guessSurfaceRole({ name, components }: Pick<GridArray, "name" | "components">): SurfaceRole {
  const plain = name.replace(/[,([].*$/, "").trim();
  return GUESSES.find(([pattern, , n]) => pattern.test(plain) && components === n)?.[1] ?? "ignore";
}

export interface SurfaceFields {
  readonly pressure?: OnSurface;
  readonly shear?: OnSurface;
  readonly notes: readonly string[];
}

/**
 * Pressure and wall shear of a surface from the arrays that were said to be them, in Pa.
 * @param densityKgM3 of the case, for values over density
 * @throws {FieldMistake} an array is not there, has other components or another kind of unit, two are the same, or values are missing
 */
export function surfaceFields(grid: Grid, surface: Surface, words: readonly SurfaceWords[], densityKgM3: number): SurfaceFields {
  const notes: string[] = [];
  const read = (role: SurfaceRole): OnSurface | undefined => {
    const said = words.filter((w) => w.role === role);
    if (said.length > 1) throw new FieldMistake(said[1].name, `${role} comes from two arrays; leave one out.`);
    return said[0] && arrayOf(grid, surface, said[0], densityKgM3, notes);
  };
  const pressure = read("pressure");
  const whole = read("shear");
  const parts = (["shear-x", "shear-y", "shear-z"] as const).map((role) => [role, read(role)] as const);
  const shear = whole ?? fromParts(parts);
  if (whole && parts.some(([, a]) => a)) throw new FieldMistake("Shear", "it comes both as a vector and by its parts; leave one out.");
  return { ...(pressure ? { pressure } : {}), ...(shear ? { shear } : {}), notes };
}

function fromParts(parts: readonly (readonly [SurfaceRole, OnSurface | undefined])[]): OnSurface | undefined {
  if (parts.every(([, a]) => !a)) return undefined;
  const missing = parts.find(([, a]) => !a);
  if (missing) throw new FieldMistake("Shear", `its part along ${missing[0].slice(-1)} is missing; a part that is nothing still has to be said.`);
  const arrays = parts.map(([, a]) => a as OnSurface);
  if (new Set(arrays.map((a) => a.on)).size > 1)
    throw new FieldMistake("Shear", "its parts lie some on points and some on cells; they must lie on the same.");
  const values = new Float64Array(3 * arrays[0].values.length);
  arrays.forEach((a, d) => {
    a.values.forEach((v, k) => {
      values[3 * k + d] = v;
    });
  });
  return { on: arrays[0].on, components: 3, values };
}

function arrayOf(grid: Grid, surface: Surface, w: SurfaceWords, densityKgM3: number, notes: string[]): OnSurface {
  const array = (w.on === "cells" ? grid.onCells : grid.onPoints).find((a) => a.name === w.name);
  if (!array) throw new FieldMistake(w.name, `the file has no such array on its ${w.on}.`);
  const components = w.role === "shear" ? 3 : 1;
  if (array.components !== components)
    throw new FieldMistake(
      w.name,
      `it has ${array.components} components; a ${w.role === "shear" ? "stress along the wall" : w.role} has ${components}.`,
    );
  const kinematic = isKinematic(w.unit);
  const by = kinematic ? converted(1, w, KINEMATIC) * densityKgM3 : 0;
  if (kinematic) notes.push(`${w.name} is over density; it was multiplied by the density of the case, ${densityKgM3} kg/m^3.`);
  const at = w.on === "cells" ? surface.cellOf : surface.pointOf;
  const values = new Float64Array(components * at.length);
  const offset = kinematic ? 0 : converted(0, w, "Pa");
  const factor = kinematic ? by : converted(1, w, "Pa") - offset;
  for (let k = 0; k < at.length; k++)
    for (let d = 0; d < components; d++) values[components * k + d] = offset + factor * array.values[components * at[k] + d];
  const gaps = values.reduce((n, v) => n + (Number.isFinite(v) ? 0 : 1), 0);
  if (gaps) throw new FieldMistake(w.name, `${gaps} of its values on the ${faceCount(surface)} faces are no numbers.`);
  return { on: w.on === "cells" ? "faces" : "corners", components, values };
}

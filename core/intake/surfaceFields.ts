import type { Grid, GridArray } from "../dataset/grid.ts";
import { faceCount, type Surface } from "../dataset/surface.ts";
import type { OnSurface } from "../dataset/surfaceForces.ts";
import { AXES } from "../dataset/vector.ts";
import type { SurfaceRole, SurfaceWords } from "../records/surfaces.ts";
import { converted, FieldMistake, isKinematic, KINEMATIC, plainName } from "./gridFields.ts";
import { SURFACE_UNITS } from "./surfaceUnits.ts";

const GUESSES: readonly (readonly [RegExp, SurfaceRole, number])[] = [
  [/^(p|pressure|static[ _]?pressure|gauge[ _]?pressure)$/i, "pressure", 1],
  [/^(wall[ _]?shear([ _]?stress)?|shear([ _]?stress)?|tau([ _]?w(all)?)?|traction)$/i, "shear", 3],
  [/^(tau|shear|wall[ _]?shear([ _]?stress)?)[ _]?x$|^x[ _-]?(wall[ _-]?)?shear([ _-]?stress)?$/i, "shear-x", 1],
  [/^(tau|shear|wall[ _]?shear([ _]?stress)?)[ _]?y$|^y[ _-]?(wall[ _-]?)?shear([ _-]?stress)?$/i, "shear-y", 1],
  [/^(tau|shear|wall[ _]?shear([ _]?stress)?)[ _]?z$|^z[ _-]?(wall[ _-]?)?shear([ _-]?stress)?$/i, "shear-z", 1],
  [/^(u|vel|velocity)$/i, "velocity", 3],
  [/^(u[ _]?x|v[ _]?x|x[ _-]?velocity|velocity[ _-]?x)$/i, "velocity-x", 1],
  [/^(u[ _]?y|v[ _]?y|y[ _-]?velocity|velocity[ _-]?y)$/i, "velocity-y", 1],
  [/^(u[ _]?z|v[ _]?z|w|z[ _-]?velocity|velocity[ _-]?z)$/i, "velocity-z", 1],
  [/^(t|temp|temperature)$/i, "temperature", 1],
  [/^(rho|density|ρ)$/i, "density", 1],
];

/** Guesses what an array on a surface is by its name; whoever confirms it sees the guess. */
export function guessSurfaceRole({ name, components }: Pick<GridArray, "name" | "components">): SurfaceRole {
  const plain = plainName(name);
  return GUESSES.find(([pattern, , n]) => pattern.test(plain) && components === n)?.[1] ?? "ignore";
}

export interface SurfaceFields {
  readonly pressure?: OnSurface;
  readonly shear?: OnSurface;
  readonly velocity?: OnSurface;
  readonly density?: OnSurface;
  readonly temperature?: OnSurface;
  readonly notes: readonly string[];
}

/**
 * What is known on a surface from the arrays that were said to be it, in SI.
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
  const vector = (role: "shear" | "velocity"): OnSurface | undefined => {
    const whole = read(role);
    const parts = AXES.map((axis) => [axis, read(`${role}-${axis}`)] as const);
    if (whole && parts.some(([, a]) => a)) throw new FieldMistake(CALLED[role], "it comes both as a vector and by its parts; leave one out.");
    return whole ?? fromParts(CALLED[role], parts);
  };
  const found = {
    pressure: read("pressure"),
    shear: vector("shear"),
    velocity: vector("velocity"),
    density: read("density"),
    temperature: read("temperature"),
  };
  return { ...Object.fromEntries(Object.entries(found).filter(([, a]) => a)), notes };
}

const CALLED = { shear: "Shear", velocity: "Velocity" } as const;

function fromParts(called: string, parts: readonly (readonly [axis: string, OnSurface | undefined])[]): OnSurface | undefined {
  if (parts.every(([, a]) => !a)) return undefined;
  const missing = parts.find(([, a]) => !a);
  if (missing) throw new FieldMistake(called, `its part along ${missing[0]} is missing; a part that is nothing still has to be said.`);
  const arrays = parts.map(([, a]) => a as OnSurface);
  if (new Set(arrays.map((a) => a.on)).size > 1)
    throw new FieldMistake(called, "its parts lie some on points and some on cells; they must lie on the same.");
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
  const components = w.role === "shear" || w.role === "velocity" ? 3 : 1;
  if (array.components !== components) throw new FieldMistake(w.name, `it has ${array.components} components; as ${w.role} it has ${components}.`);
  const unit = SURFACE_UNITS[w.role as keyof typeof SURFACE_UNITS];
  const kinematic = unit === "Pa" && isKinematic(w.unit);
  if (kinematic) notes.push(`${w.name} is over density; it was multiplied by the density of the case, ${densityKgM3} kg/m^3.`);
  const offset = kinematic ? 0 : converted(0, w, unit);
  const factor = kinematic ? converted(1, w, KINEMATIC) * densityKgM3 : converted(1, w, unit) - offset;
  const at = w.on === "cells" ? surface.cellOf : surface.pointOf;
  const values = new Float64Array(components * at.length);
  for (let k = 0; k < at.length; k++)
    for (let d = 0; d < components; d++) values[components * k + d] = offset + factor * array.values[components * at[k] + d];
  const gaps = values.reduce((n, v) => n + (Number.isFinite(v) ? 0 : 1), 0);
  if (gaps) throw new FieldMistake(w.name, `${gaps} of its values on the ${faceCount(surface)} faces are no numbers.`);
  return { on: w.on === "cells" ? "faces" : "corners", components, values };
}

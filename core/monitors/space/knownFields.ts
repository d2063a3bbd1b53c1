import type { Grid, GridArray } from "../../dataset/grid.ts";
import type { SlopeWork } from "../../dataset/slopes.ts";
import { FieldMistake, isKinematic, KINEMATIC, plainName, ROLE_UNITS, withUnit } from "../../intake/gridFields.ts";
import { convert } from "../../units/units.ts";
import type { NamedField } from "../fieldFormula.ts";
import { symbolsOf } from "../symbols.ts";
import type { Made, SpaceArray, SpaceSaid } from "./said.ts";

/** A field of the file in SI. */
export interface Known {
  readonly array: GridArray;
  readonly on: "cells" | "points";
  readonly unit: string;
}

/** Values of an array in SI. */
function inSi(array: GridArray, unit: string, target: string): GridArray {
  if (!unit.trim()) throw new FieldMistake(array.name, `say its unit, ${target} or another of its kind.`);
  const [none, one] = [convert(0, unit, target), convert(1, unit, target)];
  if (none === undefined || one === undefined) throw new FieldMistake(array.name, `"${unit}" cannot be turned into ${target}.`);
  return none === 0 && one === 1 ? array : { ...array, values: array.values.map((v) => none + (one - none) * v) };
}

/** The fields of a grid in space by what they are said to be, each in SI, and what is said of the flow besides. */
export class KnownFields {
  readonly grid: Grid;

  constructor(
    readonly work: SlopeWork,
    readonly said: SpaceSaid,
  ) {
    this.grid = work.grid;
  }

  find(name: string, on: "cells" | "points"): GridArray {
    const found = (on === "cells" ? this.grid.onCells : this.grid.onPoints).find((a) => a.name === name);
    if (!found) throw new FieldMistake(name, `the file has no such array on its ${on}.`);
    return found;
  }

  known(role: keyof typeof ROLE_UNITS, components: number): Known {
    const said = this.said.arrays.find((a) => a.role === role);
    if (!said) throw new FieldMistake("Fields", `say which array is the ${role}.`);
    const array = this.find(said.name, said.on);
    if (array.components !== components) throw new FieldMistake(said.name, `it has ${array.components} components; a ${role} has ${components}.`);
    return { array: this.roleInSi(array, said, role), on: said.on, unit: ROLE_UNITS[role] };
  }

  /** Values of an array in the SI unit of its role; a pressure over density, as codes of incompressible flow write it, times the density that was said. */
  roleInSi(array: GridArray, said: SpaceArray, role: keyof typeof ROLE_UNITS): GridArray {
    if (role !== "pressure" || !isKinematic(said.unit)) return inSi(array, said.unit, ROLE_UNITS[role]);
    const density = this.density();
    return { ...array, values: inSi(array, said.unit, KINEMATIC).values.map((v) => density * v) };
  }

  has = (role: keyof typeof ROLE_UNITS): boolean => this.said.arrays.some((a) => a.role === role);

  /** Fields on one place: those on points are brought to the cells, as means of their corners, where others lie there. */
  private together(fields: readonly Known[]): { readonly values: readonly GridArray[]; readonly on: "cells" | "points"; readonly note: string } {
    if (fields.every((f) => f.on === fields[0].on)) return { values: fields.map((f) => f.array), on: fields[0].on, note: "" };
    const brought = fields.filter((f) => f.on === "points").map((f) => f.array.name);
    return {
      values: fields.map((f) => (f.on === "points" ? this.toCells(f.array) : f.array)),
      on: "cells",
      note: `; ${brought.join(", ")} brought to the cells as the mean of their corners`,
    };
  }

  /** Values on points as the mean of each cell's corners. */
  toCells({ name, components, values }: GridArray): GridArray {
    const { kinds, cellStart, corners } = this.grid;
    const out = new Float64Array(components * kinds.length);
    for (let c = 0; c < kinds.length; c++)
      for (let k = cellStart[c]; k < cellStart[c + 1]; k++)
        for (let d = 0; d < components; d++) out[components * c + d] += values[components * corners[k] + d] / (cellStart[c + 1] - cellStart[c]);
    return { name, components, values: out };
  }

  made(name: string, unit: string, components: number, values: Float64Array, on: "cells" | "points", made: string): Made {
    return {
      array: { name: withUnit(name, unit), components, values },
      on,
      unit,
      made: `${name.length > 2 ? name[0].toUpperCase() : name[0]}${name.slice(1)}: ${made}.`,
    };
  }

  /** A field of one value a place from others on the same place. */
  each(name: string, unit: string, fields: readonly Known[], of: (at: (field: number, component?: number) => number) => number, words: string): Made {
    const { values, on, note } = this.together(fields);
    const count = values[0].values.length / values[0].components;
    const out = new Float64Array(count);
    let k = 0;
    const at = (field: number, component = 0): number => values[field].values[values[field].components * k + component];
    for (k = 0; k < count; k++) out[k] = of(at);
    return this.made(name, unit, 1, out, on, `${words}${note}`);
  }

  gas(): { readonly gamma: number; readonly gasConstant: number } {
    const { gas } = this.said;
    if (!gas) throw new FieldMistake("Fields", "say the ratio of specific heats and the gas constant of the gas.");
    return gas;
  }

  density(): number {
    const { densityKgM3 } = this.said;
    if (!(densityKgM3 !== undefined && densityKgM3 > 0)) throw new FieldMistake("Fields", "say the density of the fluid.");
    return densityKgM3;
  }

  far(): NonNullable<SpaceSaid["far"]> {
    const { far } = this.said;
    if (!far || !(far.speedMS > 0)) throw new FieldMistake("Fields", "say the pressure and the speed far away.");
    return far;
  }

  /** Fields as formulas name them, in SI where their unit is said. */
  named(): NamedField[] {
    const single = this.said.arrays.flatMap((said) => {
      const { name, on, role, unit } = said;
      const array = this.find(name, on);
      const target = role === "ignore" || role === "other" ? undefined : ROLE_UNITS[role];
      const own = role === "ignore" || role === "other" ? array : this.roleInSi(array, said, role);
      return Array.from({ length: array.components }, (_, d) => ({
        name: array.components === 1 ? name : `${plainName(name)}_${"xyz"[d] ?? d}`,
        on,
        unit: target ?? (unit || "1"),
        values: array.components === 1 ? own.values : own.values.filter((_v, k) => k % array.components === d),
      }));
    });
    const symbols = symbolsOf(single.map((f) => f.name));
    return single.map((f, k) => ({ symbol: symbols[k], unit: f.unit, values: f.values, on: f.on }));
  }
}

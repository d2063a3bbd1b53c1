import type { Grid, GridArray } from "../dataset/grid.ts";
import { cellMetrics, METRICS } from "../dataset/gridQuality.ts";
import { type SlopeWork, slopesOf } from "../dataset/slopes.ts";
import { layersFromOutside, wallLayers } from "../dataset/wallLayers.ts";
import { FieldMistake, type FieldRole, isKinematic, KINEMATIC, ROLE_UNITS } from "../intake/gridFields.ts";
import { DerivedError } from "../method/propagation/derived.ts";
import { eigenvaluesSymmetric3 } from "../numeric/symmetric3.ts";
import { convert } from "../units/units.ts";
import { fieldFormula, type NamedField } from "./fieldFormula.ts";
import { symbolsOf } from "./symbols.ts";

/** An array of a grid in space with what it is said to be. */
export interface SpaceArray {
  readonly name: string;
  readonly on: "cells" | "points";
  readonly role: Extract<FieldRole, "ignore" | "velocity" | "pressure" | "temperature" | "density" | "other">;
  readonly unit: string;
}

/** What is said of a grid in space before fields are made of its own. */
export interface SpaceSaid {
  /** metres of its unit of length */
  readonly unitM: number;
  readonly arrays: readonly SpaceArray[];
  /** of the case, where no density is among the arrays */
  readonly densityKgM3?: number | undefined;
  /** ratio of specific heats and gas constant, J/(kg K), of a gas */
  readonly gas?: { readonly gamma: number; readonly gasConstant: number };
  /** state far away */
  readonly far?: { readonly pressurePa: number; readonly speedMS: number; readonly temperatureK?: number };
}

/** Of the cells themselves, whatever is known on them. */
const MESH_FIELDS = {
  depth: "cells from the outside",
  firstHeight: "height of the first layer",
  layerCount: "layers along the outside",
  layerGrowth: "growth of these layers",
  volume: "volume of the cells",
  nonOrthogonality: METRICS.nonOrthogonality.name,
  skewness: METRICS.skewness.name,
  equiangle: METRICS.equiangle.name,
  aspect: METRICS.aspect.name,
  volumeRatio: METRICS.volumeRatio.name,
  areaRatio: METRICS.areaRatio.name,
  warpage: METRICS.warpage.name,
} as const;
type MeshField = keyof typeof MESH_FIELDS;

/** Fields that can be made of what a grid in space has, in the order they are offered. */
export const MADE_FIELDS = {
  speed: "speed",
  slope: "slope of a field",
  vorticity: "vorticity",
  divergence: "divergence of the velocity",
  q: "Q, turning over straining",
  lambda2: "lambda-2",
  totalPressure: "total pressure",
  pressureCoefficient: "pressure coefficient",
  mach: "Mach number",
  totalTemperature: "total temperature",
  entropy: "entropy over the state far away",
  formula: "a formula of your own",
  ...MESH_FIELDS,
} as const;
export type MadeKind = keyof typeof MADE_FIELDS;

/** A field that is wished for. */
export type Wish =
  | { readonly kind: Exclude<MadeKind, "slope" | "formula"> }
  | { readonly kind: "slope"; readonly of: { readonly name: string; readonly on: "cells" | "points" } }
  | { readonly kind: "formula"; readonly text: string; readonly name: string };

/** A field that was made, in SI, with what it was made from. */
export interface Made {
  readonly array: GridArray;
  readonly on: "cells" | "points";
  readonly unit: string;
  readonly made: string;
}

interface Known {
  readonly array: GridArray;
  readonly on: "cells" | "points";
  readonly unit: string;
}

/**
 * A field made of the arrays of a grid in space.
 * @throws {FieldMistake} what it needs is not there, is of another unit, or a formula that is none
 */
export function spaceField(work: SlopeWork, said: SpaceSaid, wish: Wish): Made {
  const maker = new Maker(work, said);
  if (wish.kind === "formula") return maker.formula(wish.text, wish.name);
  if (wish.kind === "slope") return maker.slope(wish.of);
  if (isOfMesh(wish.kind)) return maker.ofMesh(wish.kind);
  return maker[wish.kind]();
}

const isOfMesh = (kind: MadeKind): kind is MeshField => kind in MESH_FIELDS;

const withUnit = (name: string, unit: string): string => (unit === "1" ? name : `${name}, ${unit}`);

/** Values of an array in SI. */
function inSi(array: GridArray, unit: string, target: string): GridArray {
  if (!unit.trim()) throw new FieldMistake(array.name, `say its unit, ${target} or another of its kind.`);
  const [none, one] = [convert(0, unit, target), convert(1, unit, target)];
  if (none === undefined || one === undefined) throw new FieldMistake(array.name, `"${unit}" cannot be turned into ${target}.`);
  return none === 0 && one === 1 ? array : { ...array, values: array.values.map((v) => none + (one - none) * v) };
}

class Maker {
  private readonly grid: Grid;

  constructor(
    private readonly work: SlopeWork,
    private readonly said: SpaceSaid,
  ) {
    this.grid = work.grid;
  }

  private find(name: string, on: "cells" | "points"): GridArray {
    const found = (on === "cells" ? this.grid.onCells : this.grid.onPoints).find((a) => a.name === name);
    if (!found) throw new FieldMistake(name, `the file has no such array on its ${on}.`);
    return found;
  }

  private known(role: keyof typeof ROLE_UNITS, components: number): Known {
    const said = this.said.arrays.find((a) => a.role === role);
    if (!said) throw new FieldMistake("Fields", `say which array is the ${role}.`);
    const array = this.find(said.name, said.on);
    if (array.components !== components) throw new FieldMistake(said.name, `it has ${array.components} components; a ${role} has ${components}.`);
    return { array: this.roleInSi(array, said, role), on: said.on, unit: ROLE_UNITS[role] };
  }

  /** Values of an array in the SI unit of its role; a pressure over density, as codes of incompressible flow write it, times the density that was said. */
  private roleInSi(array: GridArray, said: SpaceArray, role: keyof typeof ROLE_UNITS): GridArray {
    if (role !== "pressure" || !isKinematic(said.unit)) return inSi(array, said.unit, ROLE_UNITS[role]);
    const density = this.density();
    return { ...array, values: inSi(array, said.unit, KINEMATIC).values.map((v) => density * v) };
  }

  private has = (role: keyof typeof ROLE_UNITS): boolean => this.said.arrays.some((a) => a.role === role);

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

  private toCells({ name, components, values }: GridArray): GridArray {
    const { kinds, cellStart, corners } = this.grid;
    const out = new Float64Array(components * kinds.length);
    for (let c = 0; c < kinds.length; c++)
      for (let k = cellStart[c]; k < cellStart[c + 1]; k++)
        for (let d = 0; d < components; d++) out[components * c + d] += values[components * corners[k] + d] / (cellStart[c + 1] - cellStart[c]);
    return { name, components, values: out };
  }

  private made(name: string, unit: string, components: number, values: Float64Array, on: "cells" | "points", made: string): Made {
    return { array: { name: withUnit(name, unit), components, values }, on, unit, made: `${name[0].toUpperCase()}${name.slice(1)}: ${made}.` };
  }

  /** A field of one value a place from others on the same place. */
  private each(
    name: string,
    unit: string,
    fields: readonly Known[],
    of: (at: (field: number, component?: number) => number) => number,
    words: string,
  ): Made {
    const { values, on, note } = this.together(fields);
    const count = values[0].values.length / values[0].components;
    const out = new Float64Array(count);
    let k = 0;
    const at = (field: number, component = 0): number => values[field].values[values[field].components * k + component];
    for (k = 0; k < count; k++) out[k] = of(at);
    return this.made(name, unit, 1, out, on, `${words}${note}`);
  }

  /** A field of the cells themselves. */
  ofMesh(kind: MeshField): Made {
    const { unitM } = this.said;
    const name = MESH_FIELDS[kind];
    if (kind === "depth") return this.made(name, "1", 1, layersFromOutside(this.grid, this.work.faces), "cells", "counted inwards over faces");
    if (kind === "firstHeight" || kind === "layerCount" || kind === "layerGrowth") {
      const layers = wallLayers(this.grid, this.work.faces, this.work.middles);
      const words = "along the outside, of cells whose face there has one opposite; where heights change by more than a factor of two the layers end";
      if (kind === "layerCount") return this.made(name, "1", 1, layers.layers, "cells", words);
      if (kind === "layerGrowth") return this.made(name, "1", 1, layers.growth, "cells", words);
      const height = layers.height.map((h) => h * unitM);
      return this.made(name, "m", 1, height, "cells", `twice the distance of a cell's middle from its face outside; ${words}`);
    }
    const values = cellMetrics(this.grid, this.work.faces)[kind];
    if (kind === "volume")
      return this.made(
        name,
        "m^3",
        1,
        values.map((v) => v * unitM ** 3),
        "cells",
        "by tetrahedra about its middle",
      );
    return this.made(name, METRICS[kind].unit, 1, values, "cells", `the worst of each cell's faces; looked at from ${METRICS[kind].limit} on`);
  }

  speed(): Made {
    const u = this.known("velocity", 3);
    return this.each("speed", "m/s", [u], (at) => Math.hypot(at(0, 0), at(0, 1), at(0, 2)), `the size of ${u.array.name}`);
  }

  slope({ name, on }: { readonly name: string; readonly on: "cells" | "points" }): Made {
    const said = this.said.arrays.find((a) => a.name === name && a.on === on);
    const array = this.find(name, on);
    if (array.components !== 1) throw new FieldMistake(name, `it has ${array.components} components; a slope is made of one.`);
    const role = said && said.role !== "ignore" && said.role !== "other" ? said.role : undefined;
    const own = said && role ? this.roleInSi(array, said, role) : array;
    const unit = role ? ROLE_UNITS[role] : said?.unit || "1";
    const values = slopesOf(this.work, own, on).map((v) => v / this.said.unitM);
    const perMetre = unit === "1" ? "1/m" : `${unit.includes("/") || unit.includes(" ") ? `(${unit})` : unit}/m`;
    return this.made(`slope of ${name.replace(/[,([].*$/, "").trim()}`, perMetre, 3, values, "cells", `${wayOf(on)} ${name}`);
  }

  /** Slopes of the velocity, 1/s. */
  private strain(): { readonly slopes: Float64Array; readonly words: string } {
    const { array, on } = this.known("velocity", 3);
    return { slopes: slopesOf(this.work, array, on).map((v) => v / this.said.unitM), words: `${wayOf(on)} ${array.name}` };
  }

  private ofStrain(name: string, unit: string, words: string, of: (g: Float64Array) => number): Made {
    const { slopes, words: way } = this.strain();
    const out = new Float64Array(slopes.length / 9);
    for (let c = 0; c < out.length; c++) out[c] = of(slopes.subarray(9 * c, 9 * c + 9));
    return this.made(name, unit, 1, out, "cells", `${words}, of ${way}`);
  }

  vorticity(): Made {
    const { slopes: g, words } = this.strain();
    const out = new Float64Array(g.length / 3);
    for (let c = 0; c < out.length / 3; c++) {
      out[3 * c] = g[9 * c + 7] - g[9 * c + 5];
      out[3 * c + 1] = g[9 * c + 2] - g[9 * c + 6];
      out[3 * c + 2] = g[9 * c + 3] - g[9 * c + 1];
    }
    return this.made("vorticity", "1/s", 3, out, "cells", `the curl, of ${words}`);
  }

  divergence(): Made {
    return this.ofStrain("divergence of the velocity", "1/s", "the sum of the three slopes along their own axes", (g) => g[0] + g[4] + g[8]);
  }

  q(): Made {
    return this.ofStrain("Q", "1/s^2", "half of the squared turning less the squared straining", (g) => {
      let [turning, straining] = [0, 0];
      for (let i = 0; i < 3; i++)
        for (let j = 0; j < 3; j++) {
          turning += ((g[3 * i + j] - g[3 * j + i]) / 2) ** 2;
          straining += ((g[3 * i + j] + g[3 * j + i]) / 2) ** 2;
        }
      return (turning - straining) / 2;
    });
  }

  lambda2(): Made {
    return this.ofStrain("lambda-2", "1/s^2", "the middle eigenvalue of squared straining and squared turning together", (g) => {
      const s = (i: number, j: number) => (g[3 * i + j] + g[3 * j + i]) / 2;
      const w = (i: number, j: number) => (g[3 * i + j] - g[3 * j + i]) / 2;
      const m = (i: number, j: number) => [0, 1, 2].reduce((sum, k) => sum + s(i, k) * s(k, j) + w(i, k) * w(k, j), 0);
      if (!Number.isFinite(g[0])) return Number.NaN;
      return eigenvaluesSymmetric3(m(0, 0), m(0, 1), m(0, 2), m(1, 1), m(1, 2), m(2, 2))[1];
    });
  }

  private gas(): { readonly gamma: number; readonly gasConstant: number } {
    const { gas } = this.said;
    if (!gas) throw new FieldMistake("Fields", "say the ratio of specific heats and the gas constant of the gas.");
    return gas;
  }

  private density(): number {
    const { densityKgM3 } = this.said;
    if (!(densityKgM3 !== undefined && densityKgM3 > 0)) throw new FieldMistake("Fields", "say the density of the fluid.");
    return densityKgM3;
  }

  private far(): NonNullable<SpaceSaid["far"]> {
    const { far } = this.said;
    if (!far || !(far.speedMS > 0)) throw new FieldMistake("Fields", "say the pressure and the speed far away.");
    return far;
  }

  /** Mach number from the fields of `machFields`. */
  private machAt(at: (field: number, component?: number) => number): number {
    const { gamma, gasConstant } = this.gas();
    const squared = this.has("temperature") ? gamma * gasConstant * at(1) : (gamma * at(1)) / at(2);
    return Math.hypot(at(0, 0), at(0, 1), at(0, 2)) / Math.sqrt(squared);
  }

  private machFields(): Known[] {
    const velocity = this.known("velocity", 3);
    return this.has("temperature") ? [velocity, this.known("temperature", 1)] : [velocity, this.known("pressure", 1), this.known("density", 1)];
  }

  mach(): Made {
    this.gas();
    const words = this.has("temperature") ? "speed over that of sound at the temperature" : "speed over that of sound by pressure and density";
    return this.each("Mach number", "1", this.machFields(), (at) => this.machAt(at), words);
  }

  totalTemperature(): Made {
    const { gamma } = this.gas();
    if (!this.has("temperature")) throw new FieldMistake("Fields", "say which array is the temperature.");
    return this.each(
      "total temperature",
      "K",
      this.machFields(),
      (at) => at(1) * (1 + ((gamma - 1) / 2) * this.machAt(at) ** 2),
      "temperature and Mach number",
    );
  }

  totalPressure(): Made {
    const pressure = this.known("pressure", 1);
    const { gas } = this.said;
    if (gas) {
      const fields = this.machFields();
      return this.each(
        "total pressure",
        "Pa",
        [...fields, pressure],
        (at) => at(fields.length) * (1 + ((gas.gamma - 1) / 2) * this.machAt(at) ** 2) ** (gas.gamma / (gas.gamma - 1)),
        "pressure and Mach number, brought to rest without loss; the pressure is taken as absolute",
      );
    }
    const density = this.has("density") ? [this.known("density", 1)] : [];
    const densityKgM3 = density.length ? 0 : this.density();
    return this.each(
      "total pressure",
      "Pa",
      [this.known("velocity", 3), pressure, ...density],
      (at) => at(1) + 0.5 * (density.length ? at(2) : densityKgM3) * (at(0, 0) ** 2 + at(0, 1) ** 2 + at(0, 2) ** 2),
      `pressure and half the density (${density.length ? density[0].array.name : `${densityKgM3} kg/m^3 of the case`}) times the speed squared`,
    );
  }

  pressureCoefficient(): Made {
    const { pressurePa, speedMS } = this.far();
    const densityKgM3 = this.density();
    return this.each(
      "pressure coefficient",
      "1",
      [this.known("pressure", 1)],
      (at) => (at(0) - pressurePa) / (0.5 * densityKgM3 * speedMS ** 2),
      `pressure over ${pressurePa} Pa, by half of ${densityKgM3} kg/m^3 times ${speedMS} m/s squared`,
    );
  }

  entropy(): Made {
    const { gamma, gasConstant } = this.gas();
    const { pressurePa, temperatureK } = this.far();
    if (!(temperatureK && temperatureK > 0 && pressurePa > 0)) throw new FieldMistake("Fields", "say the pressure and the temperature far away.");
    return this.each(
      "entropy",
      "J/(kg K)",
      [this.known("temperature", 1), this.known("pressure", 1)],
      (at) => ((gamma * gasConstant) / (gamma - 1)) * Math.log(at(0) / temperatureK) - gasConstant * Math.log(at(1) / pressurePa),
      `over a gas at ${temperatureK} K and ${pressurePa} Pa`,
    );
  }

  formula(text: string, name: string): Made {
    try {
      const { values, unit, on = "cells" } = fieldFormula(text, this.named());
      return this.made(name, unit.replaceAll("*", " "), 1, values, on, text);
    } catch (error) {
      if (error instanceof DerivedError) throw new FieldMistake(name, error.message);
      throw error;
    }
  }

  /** Fields as formulas name them, in SI where their unit is said. */
  named(): NamedField[] {
    const single = this.said.arrays.flatMap((said) => {
      const { name, on, role, unit } = said;
      const array = this.find(name, on);
      const target = role === "ignore" || role === "other" ? undefined : ROLE_UNITS[role];
      const own = role === "ignore" || role === "other" ? array : this.roleInSi(array, said, role);
      return Array.from({ length: array.components }, (_, d) => ({
        name: array.components === 1 ? name : `${name.replace(/[,([].*$/, "").trim()}_${"xyz"[d] ?? d}`,
        on,
        unit: target ?? (unit || "1"),
        values: array.components === 1 ? own.values : own.values.filter((_v, k) => k % array.components === d),
      }));
    });
    const symbols = symbolsOf(single.map((f) => f.name));
    return single.map((f, k) => ({ symbol: symbols[k], unit: f.unit, values: f.values, on: f.on }));
  }
}

/** Names under which formulas find the fields of a grid. */
export const formulaNames = (work: SlopeWork, said: SpaceSaid): string[] => new Maker(work, said).named().map((f) => f.symbol);

const wayOf = (on: "cells" | "points"): string =>
  on === "points" ? "what the faces of each cell carry of the values on points of" : "least squares over the cells round each of the cell values of";

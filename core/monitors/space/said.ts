import type { GridArray } from "../../dataset/grid.ts";
import { METRICS } from "../../dataset/metrics.ts";
import type { FieldRole } from "../../intake/gridFields.ts";

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
  readonly viscosityPaS?: number | undefined;
  /** boundaries of the file that are walls, where it names any */
  readonly walls?: readonly string[];
  /** ratio of specific heats and gas constant, J/(kg K), of a gas */
  readonly gas?: { readonly gamma: number; readonly gasConstant: number };
  /** state far away */
  readonly far?: { readonly pressurePa: number; readonly speedMS: number; readonly temperatureK?: number };
}

/** Of the cells themselves, whatever is known on them. */
export const MESH_FIELDS = {
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
export type MeshField = keyof typeof MESH_FIELDS;

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
  wallShear: "wall shear stress",
  yPlus: "y+, distance of the first cell in wall units",
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

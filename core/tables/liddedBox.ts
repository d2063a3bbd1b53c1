/** Published tables of the flow in a square box under a sliding lid, velocities over lid speed, lengths over the side; lid moves along +x at y = 1. */
export interface LiddedBoxTable {
  readonly id: string;
  readonly name: string;
  readonly source: string;
  readonly reynolds: number;
  /** standard uncertainty of velocities as published, undefined when none is stated */
  readonly velocityUncertainty?: number;
  readonly uncertaintyNote: string;
  readonly extrema: Readonly<Record<string, number>>;
  readonly u: readonly (readonly [y: number, u: number])[];
  readonly v: readonly (readonly [x: number, v: number])[];
  readonly misprintV?: readonly { readonly x: number; readonly reason: string }[];
}

const CLASSICAL = "Ghia, Ghia & Shin, J. Comput. Phys. 48 (1982) 387-411, tables I, II and V";
const SPECTRAL = "Botella & Peyret, Computers & Fluids 27 (1998) 421-433, tables 5, 9 and 10; mirrored so that the lid moves along +x";
const CLASSICAL_NOTE = "none stated by the source; taken from this table's largest difference from the spectral one at Re 1000";
const SPECTRAL_NOTE = "half a unit of the last of the six digits the source calls converged";

const Y = [1, 0.9766, 0.9688, 0.9609, 0.9531, 0.8516, 0.7344, 0.6172, 0.5, 0.4531, 0.2813, 0.1719, 0.1016, 0.0703, 0.0625, 0.0547, 0];
const X = [1, 0.9688, 0.9609, 0.9531, 0.9453, 0.9063, 0.8594, 0.8047, 0.5, 0.2344, 0.2266, 0.1563, 0.0938, 0.0781, 0.0703, 0.0625, 0];
const pairs = (at: readonly number[], values: readonly number[]) => at.map((x, i) => [x, values[i]] as const);

const spectral1000: LiddedBoxTable = {
  id: "spectral-1000",
  name: "Spectral table, Re 1000",
  source: SPECTRAL,
  reynolds: 1000,
  velocityUncertainty: 5e-7,
  uncertaintyNote: SPECTRAL_NOTE,
  extrema: { uMin: -0.3885698, vMax: 0.3769447, vMin: -0.5270771, vortexX: 0.5308, vortexY: 0.5652, psiMin: -0.1189366 },
  u: pairs(
    Y,
    [
      1, 0.6644227, 0.5808359, 0.5169277, 0.4723329, 0.3372212, 0.1886747, 0.0570178, -0.0620561, -0.1081999, -0.2803696, -0.3885691, -0.3004561,
      -0.2228955, -0.20233, -0.1812881, 0,
    ],
  ),
  v: pairs(
    [1, 0.9609, 0.9531, 0.9453, 0.9063, 0.8594, 0.8047, 0.5, 0.2344, 0.2266, 0.1563, 0.0938, 0.0781, 0.0703, 0.0625, 0],
    [
      0, -0.2936869, -0.3553213, -0.4103754, -0.5264392, -0.4264545, -0.3202137, 0.0257995, 0.3253592, 0.3339924, 0.3769189, 0.3330442, 0.3099097,
      0.2962703, 0.2807056, 0,
    ],
  ),
};

const classical = (
  reynolds: number,
  extrema: Record<string, number>,
  u: number[],
  v: number[],
  misprintV?: LiddedBoxTable["misprintV"],
): LiddedBoxTable => ({
  id: `classical-${reynolds}`,
  name: `Classical table, Re ${reynolds}`,
  source: CLASSICAL,
  reynolds,
  uncertaintyNote: CLASSICAL_NOTE,
  extrema,
  u: pairs(Y, u),
  v: pairs(X, v),
  misprintV,
});

export const LIDDED_BOX_TABLES: readonly LiddedBoxTable[] = [
  spectral1000,
  {
    id: "spectral-100",
    name: "Spectral extrema, Re 100",
    source: "Botella & Peyret, Computers & Fluids 27 (1998) 421-433, table 3; mirrored so that the lid moves along +x",
    reynolds: 100,
    velocityUncertainty: 5e-7,
    uncertaintyNote: SPECTRAL_NOTE,
    extrema: { uMin: -0.2140424, vMax: 0.1795728, vMin: -0.253803 },
    u: [],
    v: [],
  },
  classical(
    100,
    { uMin: -0.2109, vMax: 0.17527, vMin: -0.24533, vortexX: 0.6172, vortexY: 0.7344, psiMin: -0.103423 },
    [
      1, 0.84123, 0.78871, 0.73722, 0.68717, 0.23151, 0.00332, -0.13641, -0.20581, -0.2109, -0.15662, -0.1015, -0.06434, -0.04775, -0.04192, -0.03717,
      0,
    ],
    [
      0, -0.05906, -0.07391, -0.08864, -0.10313, -0.16914, -0.22445, -0.24533, 0.05454, 0.17527, 0.17507, 0.16077, 0.12317, 0.1089, 0.10091, 0.09233,
      0,
    ],
  ),
  classical(
    400,
    { uMin: -0.32726, vMax: 0.30203, vMin: -0.44993, vortexX: 0.5547, vortexY: 0.6055, psiMin: -0.113909 },
    [
      1, 0.75837, 0.68439, 0.61756, 0.55892, 0.29093, 0.16256, 0.02135, -0.11477, -0.17119, -0.32726, -0.24299, -0.14612, -0.10338, -0.09266,
      -0.08186, 0,
    ],
    [
      0, -0.12146, -0.15663, -0.19254, -0.22847, -0.23827, -0.44993, -0.38598, 0.05186, 0.30174, 0.30203, 0.28124, 0.22965, 0.2092, 0.19713, 0.1836,
      0,
    ],
    [{ x: 0.9063, reason: "breaks the curve of its neighbours; widely taken for a misprint in the source" }],
  ),
  classical(
    1000,
    { uMin: -0.38289, vMax: 0.37095, vMin: -0.5155, vortexX: 0.5313, vortexY: 0.5625, psiMin: -0.117929 },
    [
      1, 0.65928, 0.57492, 0.51117, 0.46604, 0.33304, 0.18719, 0.05702, -0.0608, -0.10648, -0.27805, -0.38289, -0.2973, -0.2222, -0.20196, -0.18109,
      0,
    ],
    [
      0, -0.21388, -0.27669, -0.33714, -0.39188, -0.5155, -0.42665, -0.31966, 0.02526, 0.32235, 0.33075, 0.37095, 0.32627, 0.30353, 0.29012, 0.27485,
      0,
    ],
  ),
];

/**
 * Standard uncertainty given to a classical value: the relative difference between the classical and the spectral table in the
 * same quantity at Re 1000, read as a 95 % interval.
 */
export function classicalUncertainty(key: string, value: number): number | undefined {
  const coarse = LIDDED_BOX_TABLES.find((t) => t.id === "classical-1000")?.extrema[key];
  const sharp = spectral1000.extrema[key];
  if (coarse === undefined || sharp === undefined) return undefined;
  return (Math.abs((coarse - sharp) / sharp) * Math.abs(value)) / 2;
}

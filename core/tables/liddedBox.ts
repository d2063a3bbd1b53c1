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
  readonly misprintU?: readonly { readonly x: number; readonly reason: string }[];
  readonly misprintV?: readonly { readonly x: number; readonly reason: string }[];
  /** the same of a table whose source states none, by what it lies from another method */
  readonly largest?: Largest;
}

/** Largest difference of a table's figures from others: velocities over lid speed, places of the vortex over the side, its stream function. */
interface Largest {
  readonly u: number;
  readonly v: number;
  readonly place: number;
  readonly psi: number;
}

const CLASSICAL = "Ghia, Ghia & Shin, J. Comput. Phys. 48 (1982) 387-411, tables I, II and V";
const SPECTRAL = "Botella & Peyret, Computers & Fluids 27 (1998) 421-433, tables 5, 9 and 10; mirrored so that the lid moves along +x";
const CLASSICAL_NOTE =
  "none stated by the source; read as 95 %, this table's largest difference from a flow computed by another method, with the doubt of that flow (docs/tables.md)";
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

/**
 * How far each classical table lies from steady flows by stream function and Newton's method, with what those are doubtful by; places by half a spacing
 * of the source at least. Measured by `npm run bench tables`, rounded up.
 */
const CLASSICAL_LARGEST: Readonly<Record<number, Largest>> = {
  100: { u: 0.0051, v: 0.0093, place: 0.0039, psi: 0.0001 },
  400: { u: 0.0029, v: 0.0063, place: 0.0039, psi: 0.0001 },
  1000: { u: 0.0064, v: 0.0186, place: 0.0039, psi: 0.0011 },
  3200: { u: 0.0329, v: 0.0494, place: 0.0067, psi: 0.0016 },
  5000: { u: 0.0189, v: 0.0239, place: 0.0035, psi: 0.0035 },
  7500: { u: 0.0218, v: 0.0338, place: 0.002, psi: 0.0027 },
  10000: { u: 0.051, v: 0.048, place: 0.0034, psi: 0.011 },
};

const classical = (
  reynolds: number,
  extrema: Record<string, number>,
  u: number[],
  v: number[],
  misprints: Pick<LiddedBoxTable, "misprintU" | "misprintV"> = {},
): LiddedBoxTable => ({
  id: `classical-${reynolds}`,
  name: `Classical table, Re ${reynolds}`,
  source: CLASSICAL,
  reynolds,
  uncertaintyNote: CLASSICAL_NOTE,
  largest: CLASSICAL_LARGEST[reynolds],
  extrema,
  u: pairs(Y, u),
  v: pairs(X, v),
  ...misprints,
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
    { misprintU: [{ x: 0.0703, reason: "0.001 off the curve of its neighbours, which lie on it to 0.0001; probably a misprint in the source" }] },
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
    { misprintV: [{ x: 0.9063, reason: "breaks the curve of its neighbours; widely taken for a misprint in the source" }] },
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
  classical(
    3200,
    { uMin: -0.41933, vMax: 0.42768, vMin: -0.54053, vortexX: 0.5165, vortexY: 0.5469, psiMin: -0.120377 },
    [
      1, 0.53236, 0.48296, 0.46547, 0.46101, 0.34682, 0.19791, 0.07156, -0.04272, -0.86636, -0.24427, -0.34323, -0.41933, -0.37827, -0.35344,
      -0.32407, 0,
    ],
    [
      0, -0.39017, -0.47425, -0.52357, -0.54053, -0.44307, -0.37401, -0.31184, 0.00999, 0.28188, 0.2903, 0.37119, 0.42768, 0.41906, 0.40917, 0.3956,
      0,
    ],
    { misprintU: [{ x: 0.4531, reason: "ten times what its neighbours have; a point moved by a place in the source" }] },
  ),
  classical(
    5000,
    { uMin: -0.43643, vMax: 0.43648, vMin: -0.55408, vortexX: 0.5117, vortexY: 0.5352, psiMin: -0.118966 },
    [
      1, 0.48223, 0.4612, 0.45992, 0.46036, 0.33556, 0.20087, 0.08183, -0.03039, -0.07404, -0.22855, -0.3305, -0.40435, -0.43643, -0.42901, -0.41165,
      0,
    ],
    [
      0, -0.49774, -0.55069, -0.55408, -0.52876, -0.41442, -0.36214, -0.30018, 0.00945, 0.2728, 0.28066, 0.35368, 0.42951, 0.43648, 0.43329, 0.42447,
      0,
    ],
  ),
  classical(
    7500,
    { uMin: -0.4359, vMax: 0.4403, vMin: -0.55216, vortexX: 0.5117, vortexY: 0.5322, psiMin: -0.119976 },
    [
      1, 0.47244, 0.47048, 0.47323, 0.47167, 0.34228, 0.20591, 0.08342, -0.038, -0.07503, -0.23176, -0.32393, -0.38324, -0.43025, -0.4359, -0.43154,
      0,
    ],
    [0, -0.53858, -0.55216, -0.52347, -0.4859, -0.4105, -0.36213, -0.30448, 0.00824, 0.27348, 0.28117, 0.3506, 0.41824, 0.43564, 0.4403, 0.43979, 0],
    { misprintU: [{ x: 0.5, reason: "does not go with the same place at Re 5000 and 10,000; probably a misprint in the source" }] },
  ),
  classical(
    10_000,
    { uMin: -0.42735, vMax: 0.43983, vMin: -0.54302, vortexX: 0.5117, vortexY: 0.5333, psiMin: -0.119731 },
    [1, 0.47221, 0.47783, 0.4807, 0.47804, 0.34635, 0.20673, 0.08344, 0.03111, -0.0754, -0.23186, -0.32709, -0.38, -0.41657, -0.42537, -0.42735, 0],
    [
      0, -0.54302, -0.52987, -0.49099, -0.45863, -0.41496, -0.36737, -0.30719, 0.00831, 0.27224, 0.28003, 0.3507, 0.41487, 0.43124, 0.43733, 0.43983,
      0,
    ],
    { misprintU: [{ x: 0.5, reason: "its sign is the other one of its neighbours'; a misprint in the source" }] },
  ),
];

const SORT: Readonly<Record<string, keyof Largest>> = { uMin: "u", vMax: "v", vMin: "v", vortexX: "place", vortexY: "place", psiMin: "psi" };

/** Standard uncertainty of a figure whose source states none: its table's largest difference read as a 95 % interval. Undefined for what was not held against anything. */
export function foundUncertainty(key: string, { largest }: Pick<LiddedBoxTable, "largest">): number | undefined {
  const sort = SORT[key];
  return largest && sort && largest[sort] / 2;
}

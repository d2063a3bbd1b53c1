import { writeCsv } from "../core/formats/csv.ts";
import { normalsOf, randomFrom } from "../core/numeric/random.ts";

/** Made-up records of the house code Lintel on the air curtain of the loading door, half its width, with the truth known. */
export const CURTAIN_TRUTH = {
  areaM2: 7.2,
  /** mean at zero spacing, coefficient and order of its mesh error */
  sealing: { limit: 0.628, coefficient: 9, order: 2 },
  forceN: { limit: 3.42, coefficient: -30, order: 2 },
  /** the jet sways about the door at this frequency, Hz */
  swayHz: 1.37,
  swayShare: 0.045,
  /** the jet reaches the floor and fills the door with this time constant, s */
  startUpS: 0.9,
  /** correlated scatter: share of the value and correlation time, s */
  scatterShare: 0.02,
  scatterS: 0.04,
} as const;

const MESHES = [
  { label: "D1 coarse", cells: 9_000, stepS: 0.008, uneven: false },
  { label: "D2 medium", cells: 30_000, stepS: 0.006, uneven: false },
  { label: "D3 fine", cells: 100_000, stepS: 0.005, uneven: true },
];
const LENGTH_S = 24;

export interface CurtainRun {
  readonly label: string;
  readonly cells: number;
  readonly history: string;
  /** means the files scatter about */
  readonly truth: { readonly sealing: number; readonly forceN: number };
}

/** The three records, always the same for one seed; the finest was made with steps of varying length. */
export function curtainRuns(seed = 21): CurtainRun[] {
  return MESHES.map((m, k) => {
    const random = randomFrom(seed + k);
    const normal = normalsOf(random);
    const h = Math.sqrt(CURTAIN_TRUTH.areaM2 / m.cells);
    const mean = (t: { limit: number; coefficient: number; order: number }) => t.limit + t.coefficient * h ** t.order;
    const truth = { sealing: mean(CURTAIN_TRUTH.sealing), forceN: mean(CURTAIN_TRUTH.forceN) };
    const rows: number[][] = [];
    let [time, scatter, other] = [0, 0, 0];
    for (let step = 1; time < LENGTH_S; step++) {
      const dt = m.stepS * (m.uneven ? 0.6 + 0.8 * random() : 1);
      time += dt;
      const keep = Math.exp(-dt / CURTAIN_TRUTH.scatterS);
      const push = Math.sqrt(1 - keep * keep);
      scatter = keep * scatter + push * normal();
      other = keep * other + push * normal();
      const sway = CURTAIN_TRUTH.swayShare * Math.sin(2 * Math.PI * CURTAIN_TRUTH.swayHz * time);
      const filling = Math.exp(-time / CURTAIN_TRUTH.startUpS);
      rows.push(
        [
          step,
          time,
          3e-5 * (1 + 0.3 * random()),
          truth.sealing * (1 + sway + CURTAIN_TRUTH.scatterShare * scatter - 0.9 * filling),
          truth.forceN * (1 + 0.6 * sway + CURTAIN_TRUTH.scatterShare * other + 0.5 * filling),
        ].map((v) => Number(v.toPrecision(8))),
      );
    }
    return {
      label: m.label,
      cells: m.cells,
      history: writeCsv(["step", "time (s)", "mass residual", "sealing efficiency", "force of the jet (N)"], rows),
      truth,
    };
  });
}

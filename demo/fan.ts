import { writeCsv } from "../core/formats/csv.ts";
import { normalsOf, randomFrom } from "../core/numeric/random.ts";

/** Made-up steady runs of the house code Lintel on an evaporator fan at five flow rates; they wander and never quite come to rest. */
export const FAN_TRUTH = {
  volumeM3: 0.086,
  flowsM3S: [0.6, 0.8, 1, 1.2, 1.4],
  /** pressure rise at zero spacing, Pa */
  risePa: [96.4, 92.1, 83.7, 70.2, 51.8],
  /** mesh error: coefficient times spacing squared, a share of the rise */
  meshShare: 260,
  wanderShare: 0.012,
  wanderIterations: 30,
} as const;

const MESHES = [
  { label: "F1 coarse", cells: 120_000, iterations: 1600 },
  { label: "F2 medium", cells: 400_000, iterations: 2000 },
  { label: "F3 fine", cells: 1_350_000, iterations: 2600 },
];

export interface FanRun {
  readonly label: string;
  readonly cells: number;
  readonly history: string;
  /** means the records wander about, by flow rate */
  readonly truthPa: readonly number[];
}

export const fanQuantity = (flowM3S: number) => `pressure rise at ${flowM3S.toFixed(1)} m3/s`;

/** The three runs, always the same for one seed. */
export function fanRuns(seed = 31): FanRun[] {
  return MESHES.map((m, k) => {
    const random = randomFrom(seed + k);
    const normal = normalsOf(random);
    const h = (FAN_TRUTH.volumeM3 / m.cells) ** (1 / 3);
    const truthPa = FAN_TRUTH.risePa.map((p) => p * (1 - FAN_TRUTH.meshShare * h * h));
    const keep = Math.exp(-1 / FAN_TRUTH.wanderIterations);
    const wander = truthPa.map(() => 0);
    const rows = Array.from({ length: m.iterations }, (_, i) => {
      const residual = (start: number) => start * Math.max(10 ** (-i / 90), 2e-4) * (1 + 0.15 * random());
      const rises = truthPa.map((p, j) => {
        wander[j] = keep * wander[j] + Math.sqrt(1 - keep * keep) * normal();
        return p * (1 + FAN_TRUTH.wanderShare * wander[j] - 0.8 * Math.exp(-i / 70));
      });
      return [i + 1, residual(1), residual(0.7), ...rises].map((v) => Number(v.toPrecision(7)));
    });
    const header = ["iteration", "mass residual", "energy residual", ...FAN_TRUTH.flowsM3S.map((q) => `${fanQuantity(q)} (Pa)`)];
    return { label: m.label, cells: m.cells, history: writeCsv(header, rows), truthPa };
  });
}

/** Truth of the rig: pressure rise as above, efficiency a hump; shaft power follows from both. */
const efficiency = (flow: number) => 0.57 - 0.75 * (flow - 0.98) ** 2;

/** Pressure rise, shaft power and efficiency over flow rate, as the rig measured them, with their uncertainties at 95 %. */
export function rigFile(seed = 5): string {
  const next = randomFrom(seed);
  const normal = normalsOf(next);
  const rows = FAN_TRUTH.flowsM3S.map((q, j) => {
    const rise = FAN_TRUTH.risePa[j] * (1 + 0.006 * normal());
    const eta = efficiency(q) * (1 + 0.008 * normal());
    return [q, rise, 0.012 * rise, (q * rise) / eta, 0.015 * ((q * rise) / eta), eta, 0.016 * eta].map((v) => Number(v.toPrecision(5)));
  });
  return writeCsv(
    ["flow rate (m^3/s)", "pressure rise (Pa)", "u rise (Pa)", "shaft power (W)", "u power (W)", "efficiency (1)", "u efficiency (1)"],
    rows,
  );
}

/** The same three over flow rate as a code computes them: its best point lies a little off, the more on coarser meshes. */
export function operatingFile(code: "Lintel" | "Purlin", spacingM: number): string {
  const [shift, loss] = code === "Lintel" ? [0.02, 0.01] : [0.05, 0.03];
  const coarse = 1 - FAN_TRUTH.meshShare * spacingM * spacingM;
  const rows = FAN_TRUTH.flowsM3S.map((q, j) => {
    const rise = FAN_TRUTH.risePa[j] * coarse * (1 - loss);
    const eta = efficiency(q - shift) * coarse;
    return [q, rise, (q * rise) / eta, eta].map((v) => Number(v.toPrecision(6)));
  });
  return writeCsv(["flow rate (m^3/s)", "pressure rise (Pa)", "shaft power (W)", "efficiency (1)"], rows);
}

import { writeCsv } from "../core/formats/csv.ts";

/** Made-up results of the house code Lintel on the louvre step, with the truth known. */
export interface LintelRun {
  readonly label: string;
  readonly cells: number;
  readonly history: string;
  readonly quantities: string;
}

/** Truth behind the files: value at zero spacing, order and coefficient of the mesh error, by quantity. */
export const LINTEL_TRUTH = {
  volumeM3: 1.08,
  reattachmentM: { limit: 0.4186, order: 1.7, coefficient: 38 },
  pressureDropPa: { limit: 11.42, order: 1.9, coefficient: 2600 },
  /** the finest run stops falling after this many orders */
  stallOrders: 2.6,
  /** share of the throughput the finest run loses at its outlet */
  massDefect: 0.009,
} as const;

const MESHES = [
  { label: "L1 coarse", cells: 96_000, iterations: 600, stalls: false, defect: 0.00002 },
  { label: "L2 medium", cells: 310_000, iterations: 900, stalls: false, defect: 0.00004 },
  { label: "L3 fine", cells: 1_020_000, iterations: 1400, stalls: true, defect: LINTEL_TRUTH.massDefect },
];

function noiseFrom(seed: number): () => number {
  let s = seed;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 2147483648 - 1;
  };
}

/** The three runs, always the same for one seed. */
export function lintelRuns(seed = 11): LintelRun[] {
  return MESHES.map((m, k) => {
    const noise = noiseFrom(seed + k);
    const h = (LINTEL_TRUTH.volumeM3 / m.cells) ** (1 / 3);
    const value = (t: { limit: number; order: number; coefficient: number }) => t.limit + t.coefficient * h ** t.order * (t.limit < 1 ? -0.1 : 0.1);
    const x = value(LINTEL_TRUTH.reattachmentM);
    const dp = value(LINTEL_TRUTH.pressureDropPa);
    const rate = 7 / m.iterations;
    const level = (i: number, start: number) => {
      const fallen = rate * i;
      const floor = m.stalls ? LINTEL_TRUTH.stallOrders : 99;
      return start * 10 ** -Math.min(fallen, floor) * (1 + 0.12 * noise());
    };
    const rows = Array.from({ length: m.iterations }, (_, i) => {
      const left = m.stalls ? Math.max(Math.exp((-i * 7) / m.iterations), 0) + 0.004 * noise() : Math.exp((-i * 14) / m.iterations);
      return [i + 1, level(i, 1), level(i, 0.6), level(i, 0.4), x * (1 - 0.2 * left), dp * (1 + 0.3 * left)].map((v) => Number(v.toPrecision(8)));
    });
    const inflow = 0.9174;
    return {
      label: m.label,
      cells: m.cells,
      history: writeCsv(
        ["iteration", "mass residual", "x momentum residual", "turbulence residual", "reattachment length (m)", "pressure drop (Pa)"],
        rows,
      ),
      quantities: writeCsv(
        ["name", "value", "unit"],
        [
          ["reattachment length", Number((rows[rows.length - 1][4] * 1000).toFixed(3)), "mm"],
          ["pressure drop", Number(rows[rows.length - 1][5].toFixed(5)), "Pa"],
          ["mass flow inlet", -inflow, "kg/s"],
          ["mass flow outlet", Number((inflow * (1 - m.defect)).toFixed(6)), "kg/s"],
        ],
      ),
    };
  });
}

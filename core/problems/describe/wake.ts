import { CELL_SHAPES } from "../../mesh/shapes.ts";
import { exact, FLUID, STEADY_PLANE, UNIFORM } from "./common.ts";
import type { Parameters, ProblemDescription } from "./problem.ts";

const reynoldsOf = (p: Parameters) => (p.densityKgM3 * p.velocityMS * p.spacingM) / p.viscosityPaS;

/** the field begins half a spacing behind the bars */
const BEGIN = -0.5;

/** Exact flow behind a row of bars: velocity and pressure at a point. */
export function wakeField(p: Parameters) {
  const re = reynoldsOf(p);
  const decay = re / 2 - Math.sqrt((re * re) / 4 + 4 * Math.PI ** 2);
  const k = 2 * Math.PI;
  const at = (x: number, y: number) => [x / p.spacingM + BEGIN, y / p.spacingM - 0.5] as const;
  return {
    u: (x: number, y: number) => {
      const [X, Y] = at(x, y);
      return p.velocityMS * (1 - Math.exp(decay * X) * Math.cos(k * Y));
    },
    v: (x: number, y: number) => {
      const [X, Y] = at(x, y);
      return ((p.velocityMS * decay) / k) * Math.exp(decay * X) * Math.sin(k * Y);
    },
    p: (x: number, y: number) => {
      const [X] = at(x, y);
      return 0.5 * p.densityKgM3 * p.velocityMS ** 2 * (1 - Math.exp(2 * decay * X));
    },
    decay,
  };
}

export const point = (p: Parameters) => [0.61 * p.spacingM, 0.29 * p.spacingM] as const;

/** Laminar flow behind a two-dimensional grid of bars: the Navier-Stokes equations hold exactly. */
export const wake: ProblemDescription = {
  id: "wake",
  title: "Grid wake",
  kind: "exact",
  tests: "Convection and diffusion with every term at work, on any cell shape: the test of order for the incompressible solver.",
  order: "Velocity at order 2 on every cell shape; pressure at nearly 2 on rows and smoothly bent rows, lower on random and many-cornered cells.",
  formalOrder: 2,
  physicsWords: STEADY_PLANE,
  parameters: [
    {
      key: "spacingM",
      label: "Spacing of the bars",
      unit: "m",
      preset: 0.01,
      min: 1e-6,
      max: 10,
      help: "Centre to centre; the field is as high as one spacing.",
    },
    {
      key: "velocityMS",
      label: "Mean velocity",
      unit: "m/s",
      preset: (40 * 1.74e-5) / (1.274 * 0.01),
      min: 1e-9,
      max: 1000,
      help: "Far behind the bars.",
    },
    ...FLUID,
  ],
  quantities: [
    { key: "uPoint", name: "velocity at a fixed point", symbol: "u_P", unit: "m/s", limit: 0.005 },
    { key: "vPoint", name: "cross velocity at a fixed point", symbol: "v_P", unit: "m/s", limit: 0.01 },
  ],
  family: { baseNx: 24, baseNy: 16, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM, shape: "rows" },
  shapes: CELL_SHAPES,
  graded: false,
  numerics: {},
  similarity: [
    {
      key: "reynolds",
      label: "Reynolds number",
      preset: 40,
      sets: "velocityMS",
      solve: (re, p) => (re * p.viscosityPaS) / (p.densityKgM3 * p.spacingM),
      note: "By spacing and mean velocity; 40 is customary.",
    },
  ],
  reference: (p) => ({ velocityMS: p.velocityMS, lengthM: p.spacingM, velocityName: "mean velocity", lengthName: "spacing" }),
  yardsticks: (p) => {
    const field = wakeField(p);
    const x = 0.6 * p.spacingM;
    const at = Array.from({ length: 41 }, (_, k) => (p.spacingM * k) / 40);
    return [
      {
        key: "wake-exact",
        name: "Exact wake behind a grid",
        kind: "exact",
        source: "Kovasznay, Proc. Cambridge Phil. Soc. 44 (1948) 58",
        validity: { sentence: "An exact solution of the steady Navier-Stokes equations at any Reynolds number.", inside: true },
        values: [exact("uPoint", field.u(...point(p))), exact("vPoint", field.v(...point(p)))],
        profiles: [{ profileKey: "across", abscissa: at, value: at.map((y) => field.u(x, y)), standardUncertainty: 0, uncertaintyNote: "exact" }],
      },
    ];
  },
};

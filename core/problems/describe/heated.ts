import { AIR, FLUID } from "./common.ts";
import type { Parameters, ProblemDescription } from "./problem.ts";

export const PLANE = 0;

export const HELD = 0;

export const nuOf = (p: Parameters) => p.viscosityPaS / p.densityKgM3;

/** hydraulic diameter: twice the width of a duct, the diameter of a pipe */
export const hydraulicOf = (p: Parameters) => (p.section === PLANE ? 2 * p.widthM : p.widthM);

const pecletOf = (p: Parameters) => (p.meanVelocityMS * hydraulicOf(p) * p.prandtl) / nuOf(p);

/** stretch the developed profile is read over, shares of the length: further on what the outlet asks for reaches back */
export const READ_FROM = 0.7;

/** Developed Nusselt numbers. @source Shah & London, Laminar Flow Forced Convection in Ducts (1978), tables 2 and 42 */
const NUSSELT = { duct: { held: 7.5407, heated: 8.2353 }, pipe: { held: 3.6568, heated: 4.3636 } } as const;

/** Developed flow heated at its walls, in a duct between plates or in a pipe. */
export const heated: ProblemDescription = {
  id: "heated",
  title: "Heated duct or pipe",
  kind: "exact",
  tests: "Transport of heat by a known flow and its passage through a wall, held at a temperature or heated evenly.",
  order: "Order 2 in the developed Nusselt number.",
  formalOrder: 2,
  physicsWords: { time: "steady", model: "laminar", space: "plane", compressible: false },
  parameters: [
    {
      key: "widthM",
      label: "Width or diameter",
      unit: "m",
      preset: 0.01,
      min: 1e-5,
      max: 10,
      help: "Between the plates, or across the pipe; half of it is computed.",
    },
    { key: "lengthM", label: "Length", unit: "m", preset: 0.2, min: 1e-5, max: 1000, help: "Long enough for the temperature profile to develop." },
    { key: "meanVelocityMS", label: "Mean velocity", unit: "m/s", preset: 0.15, min: 1e-9, max: 100, help: "Of the developed flow that enters." },
    { key: "prandtl", label: "Prandtl number", unit: "", preset: AIR.prandtl, min: 0.001, max: 1e4, help: "Of the fluid." },
    {
      key: "section",
      label: "Section",
      unit: "",
      preset: 0,
      min: 0,
      max: 1,
      help: "Plane or revolved.",
      choices: [
        { value: 0, name: "duct between plates" },
        { value: 1, name: "pipe" },
      ],
    },
    {
      key: "wall",
      label: "Wall",
      unit: "",
      preset: 0,
      min: 0,
      max: 1,
      help: "What is known at the wall.",
      choices: [
        { value: 0, name: "held at a temperature" },
        { value: 1, name: "heated evenly" },
      ],
    },
    ...FLUID,
  ],
  quantities: [{ key: "nusselt", name: "developed Nusselt number", symbol: "Nu", unit: "1", limit: 0.005, derivative: true }],
  family: { baseNx: 48, baseNy: 8, ratio: 2, count: 3, gradingX: { kind: "low-end", strength: 1.2 }, gradingY: { kind: "uniform" } },
  graded: true,
  numerics: {},
  similarity: [
    {
      key: "peclet",
      label: "Peclet number",
      preset: 150,
      sets: "meanVelocityMS",
      solve: (pe, p) => (pe * nuOf(p)) / (p.prandtl * hydraulicOf(p)),
      note: "By hydraulic diameter.",
    },
  ],
  reference: (p) => ({ velocityMS: p.meanVelocityMS, lengthM: hydraulicOf(p), velocityName: "mean velocity", lengthName: "hydraulic diameter" }),
  yardsticks: (p) => {
    const value = NUSSELT[p.section === PLANE ? "duct" : "pipe"][p.wall === HELD ? "held" : "heated"];
    const graetz = (READ_FROM * p.lengthM) / (hydraulicOf(p) * pecletOf(p));
    return [
      {
        key: "heated-developed",
        name: "Developed Nusselt number",
        kind: "exact",
        source: "Shah & London, Laminar Flow Forced Convection in Ducts (1978)",
        validity: {
          sentence: `Holds where the profile has developed, distance to the reading over diameter and Peclet number above about 0.05 (here ${graetz.toPrecision(2)}), at Peclet numbers above about 50 (here ${pecletOf(p).toPrecision(3)}).`,
          inside: graetz > 0.04 && pecletOf(p) >= 50,
        },
        values: [{ quantityKey: "nusselt", value, standardUncertainty: 5e-5, uncertaintyNote: "exact series, digits as printed" }],
        profiles: [],
      },
    ];
  },
};

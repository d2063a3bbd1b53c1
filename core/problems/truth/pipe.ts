import { pipeEntryDiameters } from "../../method/setup/setup.ts";
import { exact } from "../describe/common.ts";
import type { PipeParameters } from "../describe/pipe.ts";
import type { ProblemTruth } from "../describe/problem.ts";

/** Velocity of the developed flow at a radius, m/s. */
export const profile = (p: PipeParameters, r: number) => 2 * p.meanVelocityMS * (1 - (r / p.radiusM) ** 2);

const reynoldsOf = (p: PipeParameters) => (2 * p.densityKgM3 * p.meanVelocityMS * p.radiusM) / p.viscosityPaS;

export const pipe: ProblemTruth<PipeParameters> = {
  yardsticks: (p) => {
    const radii = Array.from({ length: 41 }, (_, k) => (p.radiusM * k) / 40);
    const re = reynoldsOf(p);
    return [
      {
        key: "pipe-exact",
        name: "Exact profile in a pipe",
        kind: "exact",
        source: "Exact solution of the Navier-Stokes equations; White, Viscous Fluid Flow, section 3-3",
        validity: {
          sentence: `Holds for laminar, developed flow: Reynolds number by diameter below about 2300; here ${re.toPrecision(3)}.`,
          inside: re < 2300,
        },
        values: [
          exact("axisVelocity", 2 * p.meanVelocityMS),
          exact("flowRate", Math.PI * p.radiusM ** 2 * p.meanVelocityMS),
          exact("wallShear", (4 * p.viscosityPaS * p.meanVelocityMS) / p.radiusM),
        ],
        profiles: [
          { profileKey: "across", abscissa: radii, value: radii.map((r) => profile(p, r)), standardUncertainty: 0, uncertaintyNote: "exact" },
        ],
      },
    ];
  },
};

/** share of the length at which the developed velocity is read: further on what the outlet asks for reaches back */
export const READ_AT = 0.8;

export const pipeEntry: ProblemTruth<PipeParameters> = {
  yardsticks: (p) => {
    const re = reynoldsOf(p);
    const length = pipeEntryDiameters(re);
    const long = (READ_AT * p.lengthM) / (2 * p.radiusM) > 1.1 * length;
    return [
      {
        key: "pipe-entry",
        name: "Developed velocity, and entry length by correlation",
        kind: "table",
        source: "Durst, Ray, Unsal & Bayoumi, J. Fluids Eng. 127 (2005) 1154: L/D = (0.619^1.6 + (0.0567 Re)^1.6)^(1/1.6)",
        validity: {
          sentence: `Laminar, and read behind the entry: ${length.toPrecision(3)} diameters of the ${((READ_AT * p.lengthM) / (2 * p.radiusM)).toPrecision(3)} to the reading.`,
          inside: re < 2300 && long,
        },
        values: [
          {
            quantityKey: "endVelocity",
            value: 2 * p.meanVelocityMS,
            standardUncertainty: 0.002 * p.meanVelocityMS,
            uncertaintyNote: "what is left of the entry at the end",
          },
          {
            quantityKey: "entryLength",
            value: length,
            standardUncertainty: (0.03 * length) / Math.sqrt(3),
            uncertaintyNote: "3 % taken for the fit",
          },
        ],
        profiles: [],
      },
    ];
  },
};

import type { Reference } from "../../records/reference.ts";
import type { CylinderParameters, SheddingParameters } from "../describe/cylinder.ts";
import type { ProblemTruth } from "../describe/problem.ts";

const reynoldsOf = (p: CylinderParameters) => (p.densityKgM3 * p.meanVelocityMS * p.diameterM) / p.viscosityPaS;

const SOURCE = "Schaefer & Turek, Notes Numer. Fluid Mech. 52 (1996) 547";

function table(p: CylinderParameters, reynolds: number, values: Reference["values"], source: string): Reference[] {
  const re = reynoldsOf(p);
  if (Math.abs(re / reynolds - 1) > 0.2) return [];
  return [
    {
      key: `post-${reynolds}`,
      name: `Post in a channel, Re ${reynolds}`,
      kind: "table",
      source,
      validity: {
        sentence: `Holds at Re ${reynolds} by diameter and mean velocity; here ${re.toPrecision(4)}.`,
        inside: Math.abs(re / reynolds - 1) < 0.002,
      },
      values,
      profiles: [],
    },
  ];
}

export const cylinder: ProblemTruth<CylinderParameters> = {
  yardsticks: (p) => {
    const digits = (quantityKey: string, value: number) => ({
      quantityKey,
      value,
      standardUncertainty: 1e-6 * Math.abs(value),
      uncertaintyNote: "spectral, digits as printed",
    });
    return table(
      p,
      20,
      [digits("drag", 5.57953523384), digits("lift", 0.010618948146), digits("pressureDifference", 0.11752016697 / 0.04)],
      `${SOURCE}; digits from Nabh, PhD thesis, Heidelberg (1998)`,
    );
  },
};

export const cylinderShedding: ProblemTruth<SheddingParameters> = {
  yardsticks: (p) => {
    const between = (quantityKey: string, low: number, high: number) => ({
      quantityKey,
      value: (low + high) / 2,
      standardUncertainty: (high - low) / 2 / Math.sqrt(3),
      uncertaintyNote: `published interval ${low} to ${high}`,
    });
    return table(p, 100, [between("dragPeak", 3.22, 3.24), between("liftPeak", 0.99, 1.01), between("strouhal", 0.295, 0.305)], SOURCE);
  },
};

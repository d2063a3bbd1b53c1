import type { StepParameters } from "../describe/backwardFacingStep.ts";
import type { ProblemTruth } from "../describe/problem.ts";

/** by mean velocity and twice the height of the inlet channel, which is its hydraulic diameter */
const reynoldsOf = (p: StepParameters) => (2 * p.stepM * p.meanVelocityMS * p.densityKgM3) / p.viscosityPaS;

/** Reattachment over step height, expansion 2, developed flow at the step. @source Erturk, Comput. Fluids 37 (2008) 633, table 1 */
const REATTACHMENT: readonly (readonly [reynolds: number, length: number])[] = [
  [100, 2.922],
  [200, 4.982],
  [300, 6.751],
  [400, 8.237],
  [500, 9.42],
  [600, 10.349],
  [700, 11.129],
  [800, 11.834],
];

/** Inlet at the step itself, Re 800. @source Gartling, Int. J. Numer. Methods Fluids 11 (1990) 953: 6.10 channel heights */
const WITHOUT_CHANNEL = 12.2;

export const backwardFacingStep: ProblemTruth<StepParameters> = {
  yardsticks: (p) => {
    const re = reynoldsOf(p);
    const long = (value: number) => p.lengthSteps > 1.5 * value;
    const make = (key: string, name: string, source: string, at: number, value: number, channel: boolean) => ({
      key,
      name,
      kind: "table" as const,
      source,
      validity: {
        sentence: `Holds at Re ${at}${channel ? " with a channel before the step" : " with the developed profile at the step"}, and a length well beyond ${value} steps; here Re ${re.toPrecision(4)}, ${p.inletSteps} and ${p.lengthSteps} steps.`,
        inside: Math.abs(re / at - 1) < 0.005 && long(value) && channel === p.inletSteps >= 3,
      },
      values: [
        { quantityKey: "reattachment", value, standardUncertainty: 0.002 * value, uncertaintyNote: "0.2 % from the spread of published figures" },
      ],
      profiles: [],
    });
    const out = REATTACHMENT.filter(([r]) => Math.abs(re / r - 1) < 0.05).map(([r, value]) =>
      make(`step-${r}`, `Published reattachment, Re ${r}`, "Erturk, Comput. Fluids 37 (2008) 633", r, value, true),
    );
    if (Math.abs(re / 800 - 1) < 0.05) {
      out.push(
        make("step-bare", "Published reattachment, no channel", "Gartling, Int. J. Numer. Methods Fluids 11 (1990) 953", 800, WITHOUT_CHANNEL, false),
      );
    }
    return out.filter((y) => y.values[0].value > 0);
  },
};

import { type FlowFormulas, writtenFlow } from "../../manufactured/flow.ts";
import { writtenGas } from "../../manufactured/gas.ts";
import { exercised, type TermShare, type WrittenSolution } from "../../manufactured/written.ts";
import { remembered } from "../../numeric/remembered.ts";
import type { CylindersParameters } from "../describe/cylinders.ts";
import type { ManufacturedCarriedParameters, ManufacturedFlowParameters, ManufacturedGasParameters } from "../describe/manufactured.ts";
import type { PipeParameters } from "../describe/pipe.ts";
import type { PlatesParameters } from "../describe/plates.ts";
import type { Formulas } from "../describe/problem.ts";
import type { TaylorGreenParameters } from "../describe/taylorGreenVortex.ts";
import type { WakeParameters } from "../describe/wake.ts";
import { constants } from "./cylinders.ts";
import { carriedProperties, gasOf } from "./manufactured.ts";
import { wakeField } from "./wake.ts";

/** A number as it stands in a formula. */
const n = (value: number): string => `(${value})`;

/** Flow of one length, which is the unit of the formulas: what is over a length in the equations is divided by it. */
const flowOver = (lengthM: number, p: { readonly viscosityPaS: number; readonly densityKgM3: number }, formulas: FlowFormulas, revolved = false) =>
  writtenFlow(formulas, { viscosity: p.viscosityPaS / p.densityKgM3 / lengthM, ...(revolved ? { revolved } : {}) });

function plates(p: PlatesParameters): WrittenSolution {
  const bend = -(p.pressureGradientPaM * p.gapM ** 2) / (2 * p.viscosityPaS);
  return flowOver(p.gapM, p, {
    streamFunction: `${n(p.wallSpeedMS / 2)} * y^2 + ${n(bend)} * (y^2 / 2 - y^3 / 3)`,
    pressure: `${n((p.pressureGradientPaM * p.gapM) / p.densityKgM3)} * x`,
  });
}

function pipe(p: PipeParameters): WrittenSolution {
  const viscosity = p.viscosityPaS / p.densityKgM3 / p.radiusM;
  return flowOver(
    p.radiusM,
    p,
    { streamFunction: `${n(2 * p.meanVelocityMS)} * (y^2 / 2 - y^4 / 4)`, pressure: `${n(-8 * viscosity * p.meanVelocityMS)} * x` },
    true,
  );
}

/** by the inner radius; the unit box lies from there outward */
function cylinders(p: CylindersParameters): WrittenSolution {
  const { a, b } = constants(p);
  const [A, B] = [a * p.innerM, b / p.innerM];
  const square = "(x^2 + (y + 1)^2)";
  return flowOver(p.innerM, p, {
    streamFunction: `${n(-A / 2)} * ${square} + ${n(-B / 2)} * log(${square})`,
    pressure: `${n(A ** 2 / 2)} * ${square} + ${n(A * B)} * log(${square}) + ${n(-(B ** 2) / 2)} / ${square}`,
  });
}

function wake(p: WakeParameters): WrittenSolution {
  const k = 2 * Math.PI;
  const { decay } = wakeField(p);
  return flowOver(p.spacingM, p, {
    streamFunction: `${n(p.velocityMS)} * (y - exp(${n(decay)} * x) * sin(${n(k)} * y) / ${n(k)})`,
    pressure: `${n(-(p.velocityMS ** 2) / 2)} * exp(${n(2 * decay)} * x)`,
  });
}

function eddies(p: TaylorGreenParameters): WrittenSolution {
  const k = 2 * Math.PI;
  const viscosity = p.viscosityPaS / p.densityKgM3 / p.sideM;
  const fade = (times: number) => `exp(${n(-2 * times * viscosity * k * k)} * t)`;
  const [X, Y] = [`(${n(k)} * (x - ${n(p.driftMS)} * t))`, `(${n(k)} * (y - ${n(p.driftMS / 2)} * t))`];
  return flowOver(p.sideM, p, {
    streamFunction: `${n(p.driftMS)} * y - ${n(p.driftMS / 2)} * x + ${n(p.velocityMS / k)} * ${fade(1)} * sin${X} * sin${Y}`,
    pressure: `${n(p.velocityMS ** 2 / 4)} * ${fade(2)} * (cos(2 * ${X}) + cos(2 * ${Y}))`,
  });
}

const KINDS: Readonly<Record<string, (p: never, f: Formulas) => WrittenSolution>> = {
  plates,
  pipe,
  cylinders,
  wake,
  eddies,
  "manufactured-flow": (p: ManufacturedFlowParameters, f) =>
    writtenFlow({ streamFunction: f.streamFunction, pressure: f.pressure }, { viscosity: p.viscosityM2S }),
  "manufactured-carried": (p: ManufacturedCarriedParameters, f) =>
    writtenFlow({ streamFunction: f.streamFunction, pressure: f.pressure, carried: f.carried }, carriedProperties(p)),
  "manufactured-gas": (p: ManufacturedGasParameters, f) => writtenGas({ density: f.density, u: f.u, v: f.v, pressure: f.pressure }, gasOf(p)),
};

/** A smooth exact solution of the bench: its problem, where it is, and the formulas a person typed. */
export interface ExactCase {
  readonly problemId: string;
  readonly parameters: Readonly<Record<string, number>>;
  readonly formulas: Formulas;
}

/** sets whose derivatives are kept: a case is asked for again and again */
const KEPT = 4;

/** The exact solution of a problem with every term of its equations; undefined where it has jumps, is not known everywhere, or is too long to be written out. */
export const exactWritten = remembered((json: string): WrittenSolution | undefined => {
  const { problemId, parameters, formulas } = JSON.parse(json) as ExactCase;
  return KINDS[problemId]?.(parameters as never, formulas);
}, KEPT);

/** Which terms of the equations an exact solution exercises; undefined where they cannot be told. */
export function exercisedBy(of: ExactCase): TermShare[] | undefined {
  const w = exactWritten(JSON.stringify(of));
  return w && exercised(w);
}

/** The same in words: what is exercised, equation by equation with its share, and what a code may have wrong and nobody would see. */
export function exercisedWords(terms: readonly TermShare[]): string {
  const equations = [...new Set(terms.map((t) => t.equation))];
  const named = (list: readonly TermShare[], share: boolean) =>
    list.map((t) => (share ? `${t.term} ${Math.max(1, Math.round(100 * t.share))} %` : t.term)).join(", ");
  const said = equations.map((equation) => {
    const own = terms.filter((t) => t.equation === equation);
    const tried = own.filter((t) => !t.untested).sort((a, b) => b.share - a.share);
    const left = own.filter((t) => t.untested);
    if (!tried.length) return `${equation}: nothing`;
    return `${equation}: ${named(tried, true)}${left.length ? `; not ${named(left, false)}` : ""}`;
  });
  return `${said.join(". ")}.`;
}

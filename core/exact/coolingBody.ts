import { besselJ, zeroOfJ0, zeroOfJ1 } from "../numeric/bessel.ts";
import { bisect } from "../numeric/bisect.ts";
import { shapeOf } from "./parameters.ts";
import { pointwise, solution, within } from "./solution.ts";

const MEMBERS = 30;

interface Body {
  readonly round: number;
  readonly biot: number;
}

interface Member {
  readonly lambda: number;
  readonly size: number;
}

const known = new Map<string, readonly Member[]>();

/** Eigenvalues of lambda tan lambda = Bi (slab), lambda J1 = Bi J0 (cylinder), with the sizes of their members. */
function membersOf({ round, biot }: Body): readonly Member[] {
  const key = `${round} ${biot}`;
  const found = known.get(key) ?? Array.from({ length: MEMBERS }, (_, n): Member => (round ? cylinderMember(n, biot) : slabMember(n, biot)));
  // The last few bodies are enough: a slider asks for one after the other.
  if (known.size > 20) known.clear();
  known.set(key, found);
  return found;
}

function slabMember(n: number, biot: number): Member {
  const lambda = bisect((x) => x * Math.sin(x) * (n % 2 ? -1 : 1) - biot * Math.cos(x) * (n % 2 ? -1 : 1), n * Math.PI, (n + 0.5) * Math.PI);
  return { lambda, size: (4 * Math.sin(lambda)) / (2 * lambda + Math.sin(2 * lambda)) };
}

function cylinderMember(n: number, biot: number): Member {
  const sign = n % 2 ? -1 : 1;
  const lambda = bisect((x) => sign * (x * besselJ(1, x) - biot * besselJ(0, x)), n ? zeroOfJ1(n) : 0, zeroOfJ0(n + 1));
  const [j0, j1] = [besselJ(0, lambda), besselJ(1, lambda)];
  return { lambda, size: (2 * j1) / (lambda * (j0 * j0 + j1 * j1)) };
}

/** Temperature left, as a share of the first difference, at a place (0 in the middle, 1 at the surface) and Fourier number. */
export function coolingTemperature(body: Body, fourier: number, place: number): number {
  let sum = 0;
  for (const { lambda, size } of membersOf(body))
    sum += size * Math.exp(-lambda * lambda * fourier) * (body.round ? besselJ(0, lambda * place) : Math.cos(lambda * place));
  return sum;
}

/** Heat left in the body, as a share of what it had. */
export function coolingHeat(body: Body, fourier: number): number {
  let sum = 0;
  for (const { lambda, size } of membersOf(body))
    sum += size * Math.exp(-lambda * lambda * fourier) * (body.round ? (2 * besselJ(1, lambda)) / lambda : Math.sin(lambda) / lambda);
  return sum;
}

/** A slab or a long cylinder that takes the temperature of its surroundings. */
export const coolingBody = solution({
  id: "cooling-body",
  name: "Cooling slab or cylinder",
  subject: "Conduction",
  words: "transient conduction biot fourier heisler series bessel plate rod warm cold",
  nature: "series",
  uncertainty: 0,
  formulas: [
    "\\theta = \\sum_n\\frac{4\\sin\\lambda_n}{2\\lambda_n+\\sin 2\\lambda_n}e^{-\\lambda_n^2\\mathit{Fo}}\\cos\\frac{\\lambda_n x}{L}, \\quad \\lambda\\tan\\lambda = \\mathit{Bi} \\quad\\text{slab}",
    "\\theta = \\sum_n\\frac{2J_1(\\lambda_n)\\,e^{-\\lambda_n^2\\mathit{Fo}}}{\\lambda_n[J_0^2(\\lambda_n)+J_1^2(\\lambda_n)]}J_0\\left(\\frac{\\lambda_n r}{R}\\right), \\quad \\lambda J_1 = \\mathit{Bi}J_0 \\quad\\text{cylinder}",
  ],
  source: "Carslaw & Jaeger, Conduction of Heat in Solids, sections 3.11 and 7.7; half thickness L, radius R",
  physics: { heat: true, transient: true },
  parameters: [
    shapeOf("slab", "cylinder"),
    { key: "biot", label: "Biot number of half thickness or radius", symbol: "\\mathit{Bi}", unit: "", preset: 1, low: 1e-4, high: 1e6, log: true },
    { key: "fourier", label: "Time: Fourier number", symbol: "\\mathit{Fo}", unit: "", preset: 0.2, low: 1e-4, high: 1e4, log: true },
  ],
  range: (p) => [within("The Fourier number", p.fourier, { low: 5e-3 })],
  values: (p) => [
    { key: "middle", name: "temperature in the middle, share of the first difference", unit: "", value: coolingTemperature(p, p.fourier, 0) },
    { key: "surface", name: "temperature at the surface, share of the first difference", unit: "", value: coolingTemperature(p, p.fourier, 1) },
    { key: "heat", name: "heat left, share of the first", unit: "", value: coolingHeat(p, p.fourier) },
  ],
  curves: (p) => [
    {
      key: "profile",
      name: "temperature from the middle to the surface",
      x: { name: "place over half thickness or radius", unit: "" },
      y: { name: "share of the first difference", unit: "" },
      from: 0,
      to: 1,
      sample: pointwise((x) => coolingTemperature(p, p.fourier, x)),
    },
    {
      key: "history",
      name: "temperature in the middle over time",
      x: { name: "Fourier number", unit: "" },
      y: { name: "share of the first difference", unit: "" },
      from: 5e-3,
      to: Math.max(0.01, p.fourier),
      sample: pointwise((fo) => coolingTemperature(p, fo, 0)),
    },
  ],
});

import { slopeOf } from "../numeric/differences.ts";
import { combine, type FieldFunction, Formula } from "./formula.ts";
import { asItStands, type Differences, number, sumOf, type Term, type WrittenSolution } from "./written.ts";

/** A flow that carries something, in formulas. */
export interface CarriedFormulas {
  /** plane: u = d/dy, v = -d/dx; round the x axis both over the radius y. 0 leaves conduction alone */
  readonly streamFunction: string;
  /** over density */
  readonly pressure: string;
  readonly carried: string;
}

export interface CarriedProperties {
  /** kinematic, m^2/s */
  readonly viscosity: number;
  /** of what is carried, m^2/s */
  readonly diffusivity: number;
  /** y is the radius of a body of revolution about y = 0 */
  readonly revolved: boolean;
}

interface Fields {
  readonly u: Formula;
  readonly v: Formula;
  readonly p: Formula;
  readonly q: Formula;
}

const RADIUS = Formula.of("y");

function fieldsOf({ streamFunction, pressure, carried }: CarriedFormulas, revolved: boolean): Fields {
  const psi = Formula.of(streamFunction);
  const [px, py] = [psi.by("x"), psi.by("y")];
  const [u, v] = revolved ? [combine("a / r", { a: py, r: RADIUS }), combine("-a / r", { a: px, r: RADIUS })] : [py, combine("-a", { a: px })];
  return { u, v, p: Formula.of(pressure), q: Formula.of(carried) };
}

/** Every term of the two momentum equations and of what is carried, each a formula of its own. */
function termsOf({ u, v, p, q }: Fields, { viscosity, diffusivity, revolved }: CarriedProperties): Term[] {
  const equations = [
    { equation: "momentum along x", of: u, spread: viscosity, by: "viscosity", slope: "x", hoop: false },
    { equation: revolved ? "momentum along the radius" : "momentum along y", of: v, spread: viscosity, by: "viscosity", slope: "y", hoop: revolved },
    { equation: "what is carried", of: q, spread: diffusivity, by: "diffusion", slope: undefined, hoop: false },
  ] as const;
  return equations.flatMap(({ equation, of, spread, by, slope, hoop }): Term[] => {
    const [qx, qy] = [of.by("x"), of.by("y")];
    const parts = { q: of, u, v, qx, qy, qxx: qx.by("x"), qyy: qy.by("y"), k: number(spread), r: RADIUS };
    return [
      { equation, term: "change in time", formula: of.by("t") },
      { equation, term: "convection along x", formula: combine("u * qx", parts) },
      { equation, term: revolved ? "convection along the radius" : "convection along y", formula: combine("v * qy", parts) },
      ...(slope ? [{ equation, term: "pressure gradient", formula: p.by(slope) }] : []),
      { equation, term: by, formula: combine("-k * (qxx + qyy)", parts) },
      ...(revolved ? [{ equation, term: `${by}, of the widening ring`, formula: combine("-k * qy / r", parts) }] : []),
      ...(hoop ? [{ equation, term: `${by}, round the axis`, formula: combine("k * q / r ^ 2", parts) }] : []),
    ];
  });
}

export interface ManufacturedCarried extends Fields {
  readonly usesTime: boolean;
  /** acceleration that keeps the flow up, m/s^2 */
  readonly source: (x: number, y: number, t: number) => readonly [number, number];
  /** what has to be added of what is carried, its unit a second */
  readonly supply: FieldFunction;
}

/** A flow of one's own choosing that carries and conducts something, with the sources that keep both up. @throws {FormulaError} A formula that cannot be used. */
export function manufacturedCarried(formulas: CarriedFormulas, properties: CarriedProperties): ManufacturedCarried {
  const fields = fieldsOf(formulas, properties.revolved);
  const terms = termsOf(fields, properties);
  const names = [...new Set(terms.map((t) => t.equation))];
  const sides = names.map((name) => terms.filter((t) => t.equation === name).map((t) => t.formula.at));
  const sum =
    (k: number): FieldFunction =>
    (x, y, t) =>
      sides[k].reduce((s, f) => s + f(x, y, t), 0);
  const [along, across, supply] = [0, 1, 2].map(sum);
  return {
    ...fields,
    usesTime: [fields.u, fields.v, fields.p, fields.q].some((f) => f.usesTime),
    source: (x, y, t) => [along(x, y, t), across(x, y, t)],
    supply,
  };
}

/** The same written out, with the terms it exercises. @throws {FormulaError} A formula that cannot be used. */
export function writtenCarried(formulas: CarriedFormulas, properties: CarriedProperties): WrittenSolution {
  const fields = fieldsOf(formulas, properties.revolved);
  const terms = termsOf(fields, properties);
  const names = [...new Set(terms.map((t) => t.equation))];
  const source = (k: number) => sumOf(terms.filter((t) => t.equation === names[k]).map((t) => t.formula));
  const across = properties.revolved ? "the radius" : "y";
  return asItStands({
    kind: "carried",
    differences: byDifferences(properties),
    ...(properties.revolved ? { lowest: 1 } : {}),
    fields: [
      { key: "velocity_x", name: "velocity along x", unit: "m/s", formula: fields.u },
      { key: "velocity_y", name: `velocity along ${across}`, unit: "m/s", formula: fields.v },
      { key: "pressure_over_density", name: "pressure over density", unit: "m^2/s^2", formula: fields.p },
      { key: "carried", name: "what is carried", unit: "K", formula: fields.q },
    ],
    sources: [
      { key: "source_x", name: "acceleration along x", unit: "m/s^2", formula: source(0) },
      { key: "source_y", name: `acceleration along ${across}`, unit: "m/s^2", formula: source(1) },
      { key: "source_carried", name: "supply of what is carried", unit: "K/s", formula: source(2) },
    ],
    terms,
  });
}

/** step of the differences, m and s */
const H = 2e-3;

/** The equations in the form of balances over thin rings or boxes, by differences of the fields alone: not the form they were derived in. */
const byDifferences =
  ({ viscosity, diffusivity, revolved }: CarriedProperties): Differences =>
  ([u, v, p, q], at) => {
    const r = (y: number) => (revolved ? y : 1);
    const slope =
      (f: FieldFunction, k: 0 | 1 | 2): FieldFunction =>
      (x, y, t) =>
        slopeOf((s) => f(k === 0 ? x + s : x, k === 1 ? y + s : y, k === 2 ? t + s : t), 0, H);
    const balance = (f: FieldFunction, spread: number): FieldFunction => {
      const along: FieldFunction = (...a) => r(a[1]) * (u(...a) * f(...a) - spread * slope(f, 0)(...a));
      const across: FieldFunction = (...a) => r(a[1]) * (v(...a) * f(...a) - spread * slope(f, 1)(...a));
      return (...a) => slope(f, 2)(...a) + (slope(along, 0)(...a) + slope(across, 1)(...a)) / r(a[1]);
    };
    const hoop = revolved ? (viscosity * v(...at)) / at[1] ** 2 : 0;
    return [
      balance(u, viscosity)(...at) + slope(p, 0)(...at),
      balance(v, viscosity)(...at) + slope(p, 1)(...at) + hoop,
      balance(q, diffusivity)(...at),
    ];
  };

import { combine, type FieldFunction, Formula } from "./formula.ts";
import { addedUp, type Differences, number, once, RADIUS, slopeAlong, sourcesOf, type Term, type WrittenSolution, writtenOut } from "./written.ts";

/** An incompressible flow in formulas, with what it carries if it does. */
export interface FlowFormulas {
  /** plane: u = d/dy, v = -d/dx; round the x axis both over the radius y. 0 leaves conduction alone */
  readonly streamFunction: string;
  /** over density */
  readonly pressure: string;
  readonly carried?: string;
}

export interface FlowProperties {
  /** kinematic, m^2/s */
  readonly viscosity: number;
  /** of what is carried, m^2/s */
  readonly diffusivity?: number;
  /** y is the radius of a body of revolution about y = 0 */
  readonly revolved?: boolean;
}

interface Fields {
  readonly u: Formula;
  readonly v: Formula;
  readonly p: Formula;
  readonly q: Formula | undefined;
}

function fieldsOf({ streamFunction, pressure, carried }: FlowFormulas, revolved = false): Fields {
  const psi = Formula.of(streamFunction);
  const [px, py] = [psi.by("x"), psi.by("y")];
  const [u, v] = revolved ? [combine("a / r", { a: py, r: RADIUS }), combine("-a / r", { a: px, r: RADIUS })] : [py, combine("-a", { a: px })];
  return { u, v, p: Formula.of(pressure), q: carried === undefined ? undefined : Formula.of(carried) };
}

/** Every term of the two momentum equations and of what is carried, each a formula of its own. */
function termsOf({ u, v, p, q }: Fields, { viscosity, diffusivity = 0, revolved = false }: FlowProperties): Term[] {
  const across = revolved ? "the radius" : "y";
  const equations = [
    { equation: "momentum along x", of: u, spread: viscosity, by: "viscosity", slope: "x", hoop: false },
    { equation: `momentum along ${across}`, of: v, spread: viscosity, by: "viscosity", slope: "y", hoop: revolved },
    ...(q ? [{ equation: "what is carried", of: q, spread: diffusivity, by: "diffusion", slope: undefined, hoop: false } as const] : []),
  ] as const;
  return equations.flatMap(({ equation, of, spread, by, slope, hoop }): Term[] => {
    const [qx, qy] = [of.by("x"), of.by("y")];
    const parts = { q: of, u, v, qx, qy, qxx: qx.by("x"), qyy: qy.by("y"), k: number(spread), r: RADIUS };
    return [
      { equation, term: "change in time", formula: of.by("t") },
      { equation, term: "convection along x", formula: combine("u * qx", parts) },
      { equation, term: `convection along ${across}`, formula: combine("v * qy", parts) },
      ...(slope ? [{ equation, term: "pressure gradient", formula: p.by(slope) }] : []),
      { equation, term: by, formula: combine("-k * (qxx + qyy)", parts) },
      ...(revolved ? [{ equation, term: `${by}, of the widening ring`, formula: combine("-k * qy / r", parts) }] : []),
      ...(hoop ? [{ equation, term: `${by}, round the axis`, formula: combine("k * q / r ^ 2", parts) }] : []),
    ];
  });
}

export interface ManufacturedFlow extends Fields {
  readonly usesTime: boolean;
  /** acceleration that keeps the flow up, m/s^2 */
  readonly source: (x: number, y: number, t: number) => readonly [number, number];
}

export interface ManufacturedCarried extends ManufacturedFlow {
  readonly q: Formula;
  /** what has to be added of what is carried, its unit a second */
  readonly supply: FieldFunction;
}

/**
 * Incompressible flow from a stream function, which makes it free of sources, and a pressure over density; with the acceleration that keeps it up,
 * and the supply of what it carries.
 * @throws {FormulaError} A formula that cannot be used.
 * @source Roache, J. Fluids Eng. 124 (2002) 4
 */
export function manufacturedFlow(formulas: FlowFormulas & { readonly carried: string }, properties: FlowProperties): ManufacturedCarried;
export function manufacturedFlow(formulas: FlowFormulas, properties: FlowProperties): ManufacturedFlow;
export function manufacturedFlow(formulas: FlowFormulas, properties: FlowProperties): ManufacturedFlow {
  const fields = fieldsOf(formulas, properties.revolved);
  const sums = once(() => addedUp(termsOf(fields, properties)));
  return {
    ...fields,
    usesTime: [fields.u, fields.v, fields.p, fields.q].some((f) => f?.usesTime),
    source: (x, y, t) => {
      const [along, across] = sums();
      return [along(x, y, t), across(x, y, t)];
    },
    ...(fields.q ? { supply: (x: number, y: number, t: number) => sums()[2](x, y, t) } : {}),
  };
}

/** The same written out, with the terms it exercises. @throws {FormulaError} A formula that cannot be used. */
export function writtenFlow(formulas: FlowFormulas, properties: FlowProperties): WrittenSolution {
  const fields = fieldsOf(formulas, properties.revolved);
  const terms = termsOf(fields, properties);
  const source = sourcesOf(terms);
  const across = properties.revolved ? "the radius" : "y";
  return writtenOut({
    kind: fields.q ? "carried" : "flow",
    differences: byDifferences(properties),
    ...(properties.revolved ? { lowest: 1 } : {}),
    fields: [
      { key: "velocity_x", name: "velocity along x", unit: "m/s", formula: fields.u },
      { key: "velocity_y", name: `velocity along ${across}`, unit: "m/s", formula: fields.v },
      { key: "pressure_over_density", name: "pressure over density", unit: "m^2/s^2", formula: fields.p },
      ...(fields.q ? [{ key: "carried", name: "what is carried", unit: "K", formula: fields.q }] : []),
    ],
    sources: [
      { key: "source_x", name: "acceleration along x", unit: "m/s^2", formula: source[0] },
      { key: "source_y", name: `acceleration along ${across}`, unit: "m/s^2", formula: source[1] },
      ...(fields.q ? [{ key: "source_carried", name: "supply of what is carried", unit: "K/s", formula: source[2] }] : []),
    ],
    terms,
  });
}

/** The equations in the form of balances over thin rings or boxes, by differences of the fields alone: not the form they were derived in. */
const byDifferences =
  ({ viscosity, diffusivity = 0, revolved = false }: FlowProperties): Differences =>
  ([u, v, p, q], at) => {
    const r = (y: number) => (revolved ? y : 1);
    const balance = (f: FieldFunction, spread: number): FieldFunction => {
      const along: FieldFunction = (...a) => r(a[1]) * (u(...a) * f(...a) - spread * slopeAlong(f, 0)(...a));
      const across: FieldFunction = (...a) => r(a[1]) * (v(...a) * f(...a) - spread * slopeAlong(f, 1)(...a));
      return (...a) => slopeAlong(f, 2)(...a) + (slopeAlong(along, 0)(...a) + slopeAlong(across, 1)(...a)) / r(a[1]);
    };
    const hoop = revolved ? (viscosity * v(...at)) / at[1] ** 2 : 0;
    return [
      balance(u, viscosity)(...at) + slopeAlong(p, 0)(...at),
      balance(v, viscosity)(...at) + slopeAlong(p, 1)(...at) + hoop,
      ...(q ? [balance(q, diffusivity)(...at)] : []),
    ];
  };

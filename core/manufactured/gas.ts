import { combine, type FieldFunction, Formula } from "./formula.ts";
import {
  addedUp,
  asItStands,
  type Differences,
  number,
  once,
  RADIUS,
  slopeAlong,
  sourcesOf,
  type Term,
  type WrittenSolution,
  writtenOut,
} from "./written.ts";

export interface GasFormulas {
  readonly density: string;
  readonly u: string;
  readonly v: string;
  readonly pressure: string;
}

export interface GasProperties {
  readonly gamma: number;
  readonly gasConstant: number;
  readonly viscosityPaS: number;
  readonly prandtl: number;
  /** y is the radius of a body of revolution about y = 0 */
  readonly revolved?: boolean;
}

type Fields = readonly [r: Formula, u: Formula, v: Formula, p: Formula];

const fieldsOf = (f: GasFormulas): Fields => [Formula.of(f.density), Formula.of(f.u), Formula.of(f.v), Formula.of(f.pressure)];

/** pressure over density times this is the conductivity times the temperature */
const conducts = ({ viscosityPaS, gamma, prandtl }: GasProperties) => (viscosityPaS * gamma) / ((gamma - 1) * prandtl);

/** What is stored, and what flows along x and y: mass, momentum and energy. */
const INVISCID = [
  ["r", "r * u", "r * v"],
  ["r * u", "r * u ^ 2 + p", "r * u * v"],
  ["r * v", "r * u * v", "r * v ^ 2 + p"],
  ["E", "(E + p) * u", "(E + p) * v"],
] as const;

/** Every term of the equations of mass, momentum and energy, each a formula of its own. */
function termsOf([r, u, v, p]: Fields, gas: GasProperties): Term[] {
  const { revolved = false, viscosityPaS } = gas;
  const across = revolved ? "the radius" : "y";
  const parts = { r, u, v, p, g: number(1 / (gas.gamma - 1)), y: RADIUS };
  const all = { ...parts, E: combine("p * g + r * (u ^ 2 + v ^ 2) / 2", parts) };
  const shear = viscosityPaS > 0 ? shearAndHeat(u, v, combine("p / r", parts), gas) : undefined;
  return INVISCID.flatMap(([store, fx, fy], i): Term[] => {
    const equation = ["mass", "momentum along x", `momentum along ${across}`, "energy"][i];
    const stress = shear?.[i];
    const called = i === 3 ? "work of shear and heat flow" : "shear";
    // The pressure on the sides of a ring's piece takes back what its widening adds.
    const widens = i === 2 ? "r * v ^ 2" : fy;
    return [
      { equation, term: "change in time", formula: combine(store, all).by("t") },
      { equation, term: "what flows along x", formula: combine(fx, all).by("x") },
      { equation, term: `what flows along ${across}`, formula: combine(fy, all).by("y") },
      ...(revolved ? [{ equation, term: "what flows, of the widening ring", formula: combine(`(${widens}) / y`, all) }] : []),
      ...(stress ? [{ equation, term: called, formula: combine("-(a + b)", { a: stress.x.by("x"), b: stress.y.by("y") }) }] : []),
      ...(stress && revolved
        ? [{ equation, term: `${called}, of the widening ring`, formula: combine("-(a - b) / y", { a: stress.y, b: stress.hoop, y: RADIUS }) }]
        : []),
    ];
  });
}

/** Shear stress along x and y, and round the axis, with its work and the heat flow; `warmth` is pressure over density. */
function shearAndHeat(u: Formula, v: Formula, warmth: Formula, gas: GasProperties) {
  const base = {
    ...{ u, v, ux: u.by("x"), uy: u.by("y"), vx: v.by("x"), vy: v.by("y") },
    ...{ mu: number(gas.viscosityPaS), k: number(conducts(gas)), wx: warmth.by("x"), wy: warmth.by("y") },
    // How fast a ring widens; nothing does in the plane.
    round: gas.revolved ? combine("v / y", { v, y: RADIUS }) : number(0),
  };
  const xx = combine("mu * (4 * ux - 2 * vy - 2 * round) / 3", base);
  const yy = combine("mu * (4 * vy - 2 * ux - 2 * round) / 3", base);
  const xy = combine("mu * (uy + vx)", base);
  const none = number(0);
  const all = { ...base, xx, xy, yy };
  return [
    undefined,
    { x: xx, y: xy, hoop: none },
    { x: xy, y: yy, hoop: combine("mu * (4 * round - 2 * ux - 2 * vy) / 3", base) },
    { x: combine("u * xx + v * xy + k * wx", all), y: combine("u * xy + v * yy + k * wy", all), hoop: none },
  ] as const;
}

export interface ManufacturedGas {
  readonly state: (x: number, y: number, t: number) => readonly [number, number, number, number];
  readonly usesTime: boolean;
  readonly source: (x: number, y: number, t: number) => readonly [number, number, number, number];
}

/**
 * Gas flow from density, velocity and pressure, with the sources of mass, momentum and energy that keep it up, in the plane or round the x axis.
 * @param gas viscosity in Pa s; the conductivity follows from the Prandtl number
 * @throws {FormulaError} A formula that cannot be used.
 */
export function manufacturedGas(formulas: GasFormulas, gas: GasProperties): ManufacturedGas {
  const fields = fieldsOf(formulas);
  const [r, u, v, p] = fields;
  const sums = once(() => addedUp(asItStands(termsOf(fields, gas))));
  return {
    usesTime: fields.some((f) => f.usesTime),
    state: (x, y, t) => [r.at(x, y, t), u.at(x, y, t), v.at(x, y, t), p.at(x, y, t)],
    source: (x, y, t) => {
      const [mass, along, across, energy] = sums();
      return [mass(x, y, t), along(x, y, t), across(x, y, t), energy(x, y, t)];
    },
  };
}

/** The same written out. @throws {FormulaError} A formula that cannot be used. */
export function writtenGas(formulas: GasFormulas, gas: GasProperties): WrittenSolution {
  const fields = fieldsOf(formulas);
  const terms = termsOf(fields, gas);
  const source = sourcesOf(terms);
  const across = gas.revolved ? "the radius" : "y";
  const units = ["kg/(m^3 s)", "N/m^3", "N/m^3", "W/m^3"];
  return writtenOut({
    kind: "gas",
    differences: byDifferences(gas),
    ...(gas.revolved ? { lowest: 1 } : {}),
    fields: [
      { key: "density", name: "density", unit: "kg/m^3", formula: fields[0] },
      { key: "velocity_x", name: "velocity along x", unit: "m/s", formula: fields[1] },
      { key: "velocity_y", name: `velocity along ${across}`, unit: "m/s", formula: fields[2] },
      { key: "pressure", name: "pressure", unit: "Pa", formula: fields[3] },
    ],
    sources: ["mass", "momentum along x", `momentum along ${across}`, "energy"].map((equation, i) => ({
      key: `source_${["mass", "x", "y", "energy"][i]}`,
      name: `source of ${equation}`,
      unit: units[i],
      formula: source[i],
    })),
    terms,
  });
}

/** The equations as balances over thin rings or boxes, by differences of the fields alone. */
const byDifferences =
  (gas: GasProperties): Differences =>
  ([r, u, v, p], at) => {
    const { gamma, viscosityPaS: mu, revolved } = gas;
    const ring = (y: number) => (revolved ? y : 1);
    const [ux, uy, vx, vy] = [slopeAlong(u, 0), slopeAlong(u, 1), slopeAlong(v, 0), slopeAlong(v, 1)];
    const widening: FieldFunction = (...a) => (revolved ? v(...a) / a[1] : 0);
    const pull =
      (rate: FieldFunction): FieldFunction =>
      (...a) =>
        mu * (2 * rate(...a) - (2 / 3) * (ux(...a) + vy(...a) + widening(...a)));
    const [xx, yy, round] = [pull(ux), pull(vy), pull(widening)];
    const xy: FieldFunction = (...a) => mu * (uy(...a) + vx(...a));
    const energy: FieldFunction = (...a) => p(...a) / (gamma - 1) + (r(...a) * (u(...a) ** 2 + v(...a) ** 2)) / 2;
    const warmth: FieldFunction = (...a) => p(...a) / r(...a);
    const heat = (k: 0 | 1): FieldFunction => {
      const slope = slopeAlong(warmth, k);
      return (...a) => conducts(gas) * slope(...a);
    };
    const [heatX, heatY] = [heat(0), heat(1)];
    const rows: readonly (readonly [store: FieldFunction, along: FieldFunction, across: FieldFunction, held?: FieldFunction])[] = [
      [r, (...a) => r(...a) * u(...a), (...a) => r(...a) * v(...a)],
      [(...a) => r(...a) * u(...a), (...a) => r(...a) * u(...a) ** 2 + p(...a) - xx(...a), (...a) => r(...a) * u(...a) * v(...a) - xy(...a)],
      [
        (...a) => r(...a) * v(...a),
        (...a) => r(...a) * u(...a) * v(...a) - xy(...a),
        (...a) => r(...a) * v(...a) ** 2 + p(...a) - yy(...a),
        (...a) => (revolved ? p(...a) - round(...a) : 0),
      ],
      [
        energy,
        (...a) => (energy(...a) + p(...a)) * u(...a) - u(...a) * xx(...a) - v(...a) * xy(...a) - heatX(...a),
        (...a) => (energy(...a) + p(...a)) * v(...a) - u(...a) * xy(...a) - v(...a) * yy(...a) - heatY(...a),
      ],
    ];
    const through =
      (f: FieldFunction): FieldFunction =>
      (...a) =>
        ring(a[1]) * f(...a);
    return rows.map(
      ([store, along, across, held]) =>
        slopeAlong(store, 2)(...at) +
        (slopeAlong(through(along), 0)(...at) + slopeAlong(through(across), 1)(...at) - (held ? held(...at) : 0)) / ring(at[1]),
    );
  };

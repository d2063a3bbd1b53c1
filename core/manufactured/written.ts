import { slopeOf } from "../numeric/differences.ts";
import { randomFrom } from "../numeric/random.ts";
import { combine, type FieldFunction, Formula } from "./formula.ts";
import { INVISCID, viscousTerms } from "./sources.ts";

/** A formula with what it stands for. */
export interface Named {
  /** a name programs can use */
  readonly key: string;
  readonly name: string;
  readonly unit: string;
  readonly formula: Formula;
}

/** A term of an equation, with its own formula. */
export interface Term {
  readonly equation: string;
  readonly term: string;
  readonly formula: Formula;
}

/** A manufactured solution written out: fields, the sources that keep them up, and every term of every equation. */
export interface WrittenSolution {
  readonly kind: "flow" | "gas" | "carried";
  /** what differences of the fields make of the equations, where the kind alone does not say it */
  readonly differences?: Differences;
  /** least y of the room it is meant for, 0 unless given */
  readonly lowest?: number;
  readonly fields: readonly Named[];
  readonly sources: readonly Named[];
  readonly terms: readonly Term[];
}

/** Every equation at a place, worked out from the fields by differences. */
export type Differences = (fields: readonly FieldFunction[], at: readonly [number, number, number]) => number[];

export const number = (value: number) => Formula.of(String(value));
export const sumOf = (list: readonly Formula[]) => list.reduce((a, b) => combine("a + b", { a, b }));

/**
 * Incompressible flow from a stream function and a pressure over density, written out.
 * @param viscosity kinematic, m^2/s
 * @throws {FormulaError} A formula that cannot be used.
 */
export function writtenFlow(streamFunction: string, pressure: string, viscosity: number): WrittenSolution {
  const psi = Formula.of(streamFunction);
  const p = Formula.of(pressure);
  const [u, v] = [psi.by("y"), combine("-a", { a: psi.by("x") })];
  const terms = (
    [
      ["momentum along x", u, "x"],
      ["momentum along y", v, "y"],
    ] as const
  ).flatMap(([equation, q, along]): Term[] => {
    const parts = { q, u, v, qx: q.by("x"), qy: q.by("y"), qxx: q.by("x").by("x"), qyy: q.by("y").by("y"), nu: number(viscosity) };
    return [
      { equation, term: "change in time", formula: q.by("t") },
      { equation, term: "convection along x", formula: combine("u * qx", parts) },
      { equation, term: "convection along y", formula: combine("v * qy", parts) },
      { equation, term: "pressure gradient", formula: p.by(along) },
      { equation, term: "viscosity", formula: combine("-nu * (qxx + qyy)", parts) },
    ];
  });
  const source = (equation: string) => sumOf(terms.filter((t) => t.equation === equation).map((t) => t.formula));
  return asItStands({
    kind: "flow",
    fields: [
      { key: "velocity_x", name: "velocity along x", unit: "m/s", formula: u },
      { key: "velocity_y", name: "velocity along y", unit: "m/s", formula: v },
      { key: "pressure_over_density", name: "pressure over density", unit: "m^2/s^2", formula: p },
    ],
    sources: [
      { key: "source_x", name: "acceleration along x", unit: "m/s^2", formula: source("momentum along x") },
      { key: "source_y", name: "acceleration along y", unit: "m/s^2", formula: source("momentum along y") },
    ],
    terms,
  });
}

/** Formulas of a whole equation are long: they are carried out as they stand. */
export function asItStands(w: WrittenSolution): WrittenSolution {
  const plain = <T extends { readonly formula: Formula }>(list: readonly T[]) =>
    list.map((f) => ({ ...f, formula: new Formula(f.formula.node, false) }));
  return { ...w, fields: plain(w.fields), sources: plain(w.sources), terms: plain(w.terms) };
}

const GAS_EQUATIONS = ["mass", "momentum along x", "momentum along y", "energy"] as const;
const GAS_UNITS = ["kg/(m^3 s)", "N/m^3", "N/m^3", "W/m^3"] as const;

interface GasProperties {
  readonly gamma: number;
  readonly gasConstant: number;
  readonly viscosityPaS: number;
  readonly prandtl: number;
}

/** Gas flow from density, velocity and pressure, written out. @throws {FormulaError} A formula that cannot be used. */
export function writtenGas(
  f: { readonly density: string; readonly u: string; readonly v: string; readonly pressure: string },
  gas: GasProperties,
): WrittenSolution {
  const [r, u, v, p] = [f.density, f.u, f.v, f.pressure].map(Formula.of);
  const parts = { r, u, v, p, g: number(1 / (gas.gamma - 1)) };
  const all = { ...parts, E: combine("p * g + r * (u ^ 2 + v ^ 2) / 2", parts) };
  const mu = gas.viscosityPaS;
  const k = (mu * gas.gamma) / ((gas.gamma - 1) * gas.prandtl);
  const viscous = mu > 0 ? viscousTerms(u, v, combine("p / r", parts), mu, k) : undefined;
  const terms = INVISCID.flatMap(([store, fx, fy], i): Term[] => {
    const equation = GAS_EQUATIONS[i];
    const shear = i > 0 ? viscous?.[i - 1] : undefined;
    return [
      { equation, term: "change in time", formula: combine(store, all).by("t") },
      { equation, term: "what flows along x", formula: combine(fx, all).by("x") },
      { equation, term: "what flows along y", formula: combine(fy, all).by("y") },
      ...(shear
        ? [{ equation, term: i === 3 ? "work of shear and heat flow" : "shear", formula: combine("-(a + b)", { a: shear[0], b: shear[1] }) }]
        : []),
    ];
  });
  return asItStands({
    kind: "gas",
    fields: [
      { key: "density", name: "density", unit: "kg/m^3", formula: r },
      { key: "velocity_x", name: "velocity along x", unit: "m/s", formula: u },
      { key: "velocity_y", name: "velocity along y", unit: "m/s", formula: v },
      { key: "pressure", name: "pressure", unit: "Pa", formula: p },
    ],
    sources: GAS_EQUATIONS.map((equation, i) => ({
      key: `source_${["mass", "x", "y", "energy"][i]}`,
      name: `source of ${equation}`,
      unit: GAS_UNITS[i],
      formula: sumOf(terms.filter((t) => t.equation === equation).map((t) => t.formula)),
    })),
    terms,
  });
}

/** How much of an equation a term is. */
export interface TermShare {
  readonly equation: string;
  readonly term: string;
  /** root mean square over the unit box and the unit of time, in the equation's unit */
  readonly size: number;
  /** of the sizes of all terms of its equation */
  readonly share: number;
  /** it vanishes everywhere: a code may have it wrong and nobody would see */
  readonly untested: boolean;
}

const PLACES = 200;

/** Which terms of the equations a chosen solution exercises, over random places. */
export function exercised(w: WrittenSolution, seed = 1): TermShare[] {
  const next = randomFrom(seed);
  const places = Array.from({ length: PLACES }, () => [next(), (w.lowest ?? 0) + next(), next()] as const);
  const sizes = w.terms.map((t) => Math.sqrt(places.reduce((s, at) => s + t.formula.at(...at) ** 2, 0) / PLACES));
  return w.terms.map((t, i) => {
    const whole = w.terms.reduce((s, x, k) => (x.equation === t.equation ? s + sizes[k] : s), 0);
    const share = whole > 0 ? sizes[i] / whole : 0;
    return { equation: t.equation, term: t.term, size: sizes[i], share, untested: !(share > 1e-12) };
  });
}

/** step of the differences, m and s */
const H = 2e-3;

/**
 * The largest distance of the sources from what differences of the fields alone make of the equations, over their largest size: what was derived
 * symbolically is held against something that was not.
 * @returns a fraction; differences leave some 1e-8
 */
export function distanceFromDifferences(w: WrittenSolution, viscosity: number, gas?: GasProperties, seed = 2): number {
  const next = randomFrom(seed);
  const [first, second, third, fourth] = w.fields.map((f) => f.formula.at);
  const by = (f: FieldFunction, k: 0 | 1 | 2, [x, y, t]: readonly [number, number, number]) =>
    slopeOf((s) => f(k === 0 ? x + s : x, k === 1 ? y + s : y, k === 2 ? t + s : t), 0, H);
  const twice =
    (f: FieldFunction, k: 0 | 1): FieldFunction =>
    (x, y, t) =>
      by((a, b, c) => by(f, k, [a, b, c]), k, [x, y, t]);
  const all = w.fields.map((f) => f.formula.at);
  const told = w.differences;
  const direct = told ? (at: readonly [number, number, number]) => told(all, at) : w.kind === "flow" ? flowByDifferences : gasByDifferences;
  function flowByDifferences(at: readonly [number, number, number]): number[] {
    const here = [first, second].map((q) => q(...at));
    return [first, second].map(
      (q, i) =>
        by(q, 2, at) +
        here[0] * by(q, 0, at) +
        here[1] * by(q, 1, at) +
        by(third, i as 0 | 1, at) -
        viscosity * (twice(q, 0)(...at) + twice(q, 1)(...at)),
    );
  }
  function gasByDifferences(at: readonly [number, number, number]): number[] {
    const [r, u, v, p] = [first, second, third, fourth];
    const { gamma = 1.4, viscosityPaS: mu = 0, prandtl = 1 } = gas ?? {};
    const energy: FieldFunction = (...a) => p(...a) / (gamma - 1) + (r(...a) * (u(...a) ** 2 + v(...a) ** 2)) / 2;
    const k = (mu * gamma) / ((gamma - 1) * prandtl);
    const warmth: FieldFunction = (...a) => p(...a) / r(...a);
    const xx: FieldFunction = (...a) => (mu * (4 * by(u, 0, a) - 2 * by(v, 1, a))) / 3;
    const yy: FieldFunction = (...a) => (mu * (4 * by(v, 1, a) - 2 * by(u, 0, a))) / 3;
    const xy: FieldFunction = (...a) => mu * (by(u, 1, a) + by(v, 0, a));
    const rows: readonly (readonly [FieldFunction, FieldFunction, FieldFunction])[] = [
      [r, (...a) => r(...a) * u(...a), (...a) => r(...a) * v(...a)],
      [(...a) => r(...a) * u(...a), (...a) => r(...a) * u(...a) ** 2 + p(...a) - xx(...a), (...a) => r(...a) * u(...a) * v(...a) - xy(...a)],
      [(...a) => r(...a) * v(...a), (...a) => r(...a) * u(...a) * v(...a) - xy(...a), (...a) => r(...a) * v(...a) ** 2 + p(...a) - yy(...a)],
      [
        energy,
        (...a) => (energy(...a) + p(...a)) * u(...a) - u(...a) * xx(...a) - v(...a) * xy(...a) - k * by(warmth, 0, a),
        (...a) => (energy(...a) + p(...a)) * v(...a) - u(...a) * xy(...a) - v(...a) * yy(...a) - k * by(warmth, 1, a),
      ],
    ];
    return rows.map(([store, fx, fy]) => by(store, 2, at) + by(fx, 0, at) + by(fy, 1, at));
  }
  const rows = Array.from({ length: 20 }, () => {
    const at = [0.1 + 0.8 * next(), (w.lowest ?? 0) + 0.1 + 0.8 * next(), 0.1 + 0.8 * next()] as const;
    const expected = direct(at);
    return w.sources.map((s, i) => [s.formula.at(...at), expected[i]] as const);
  });
  const size = w.sources.map((_, i) => Math.max(1e-300, ...rows.map((r) => Math.abs(r[i][1])), ...rows.map((r) => Math.abs(r[i][0]))));
  return Math.max(...rows.flatMap((r) => r.map(([a, b], i) => Math.abs(a - b) / size[i])));
}

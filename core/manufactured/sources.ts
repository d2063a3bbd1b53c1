import { combine, type FieldFunction, Formula } from "./formula.ts";

/** What is dear to work out and not always asked for: worked out when it is, and kept. */
function once<T>(make: () => T): () => T {
  let made: { readonly value: T } | undefined;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
}

export interface ManufacturedFlow {
  readonly u: Formula;
  readonly v: Formula;
  /** pressure over density */
  readonly p: Formula;
  readonly usesTime: boolean;
  readonly source: (x: number, y: number, t: number) => readonly [number, number];
}

/**
 * Incompressible flow from a stream function, which makes it free of sources, and a pressure over density; with the acceleration that keeps it up.
 * @param viscosity kinematic, m^2/s
 * @source Roache, J. Fluids Eng. 124 (2002) 4
 */
export function manufacturedFlow(streamFunction: string, pressure: string, viscosity: number): ManufacturedFlow {
  const psi = Formula.of(streamFunction);
  const p = Formula.of(pressure);
  const u = psi.by("y");
  const v = combine("-a", { a: psi.by("x") });
  const keep = (q: Formula, slope: Formula): FieldFunction => {
    const [qt, qx, qy, qxx, qyy, gp] = [q.by("t"), q.by("x"), q.by("y"), q.by("x").by("x"), q.by("y").by("y"), slope];
    return (x, y, t) =>
      qt.at(x, y, t) +
      u.at(x, y, t) * qx.at(x, y, t) +
      v.at(x, y, t) * qy.at(x, y, t) +
      gp.at(x, y, t) -
      viscosity * (qxx.at(x, y, t) + qyy.at(x, y, t));
  };
  const terms = once(() => [keep(u, p.by("x")), keep(v, p.by("y"))]);
  const source: ManufacturedFlow["source"] = (x, y, t) => {
    const [fx, fy] = terms();
    return [fx(x, y, t), fy(x, y, t)];
  };
  return { u, v, p, usesTime: psi.usesTime || p.usesTime, source };
}

export interface ManufacturedGas {
  readonly state: (x: number, y: number, t: number) => readonly [number, number, number, number];
  readonly usesTime: boolean;
  readonly source: (x: number, y: number, t: number) => readonly [number, number, number, number];
}

/** What is stored, and what flows along x and y: mass, momentum and energy. */
export const INVISCID = [
  ["r", "r * u", "r * v"],
  ["r * u", "r * u ^ 2 + p", "r * u * v"],
  ["r * v", "r * u * v", "r * v ^ 2 + p"],
  ["E", "(E + p) * u", "(E + p) * v"],
] as const;

/**
 * Gas flow from density, velocity and pressure, with the sources of mass, momentum and energy that keep it up.
 * @param gas viscosity in Pa s; the conductivity follows from the Prandtl number
 */
export function manufacturedGas(
  fields: { readonly density: string; readonly u: string; readonly v: string; readonly pressure: string },
  gas: { readonly gamma: number; readonly gasConstant: number; readonly viscosityPaS: number; readonly prandtl: number },
): ManufacturedGas {
  const [r, u, v, p] = [fields.density, fields.u, fields.v, fields.pressure].map(Formula.of);
  const g1 = new Formula(Formula.of(String(1 / (gas.gamma - 1))).node);
  const parts = { r, u, v, p, g: g1 };
  const energy = combine("p * g + r * (u ^ 2 + v ^ 2) / 2", parts);
  const of = (text: string) => combine(text, { ...parts, E: energy });
  const mu = gas.viscosityPaS;
  const conductivity = (mu * gas.gamma * gas.gasConstant) / ((gas.gamma - 1) * gas.prandtl);
  const terms = once(() => ({
    inviscid: INVISCID.map(([store, fx, fy]) => [of(store).by("t"), of(fx).by("x"), of(fy).by("y")]),
    viscous: mu > 0 ? viscousTerms(u, v, combine("p / r", parts), mu, conductivity / gas.gasConstant) : undefined,
  }));
  return {
    usesTime: [r, u, v, p].some((f) => f.usesTime),
    state: (x, y, t) => [r.at(x, y, t), u.at(x, y, t), v.at(x, y, t), p.at(x, y, t)],
    source: (x, y, t) => {
      const { inviscid, viscous } = terms();
      const s = inviscid.map((row) => row.reduce((sum, f) => sum + f.at(x, y, t), 0));
      if (viscous) {
        const [sx, sy, se] = viscous.map((row) => row.reduce((sum, f) => sum + f.at(x, y, t), 0));
        s[1] -= sx;
        s[2] -= sy;
        s[3] -= se;
      }
      return s as unknown as readonly [number, number, number, number];
    },
  };
}

/** Divergence of shear stress, and of its work and the heat flow; `warmth` is pressure over density, whose slope times k is the heat flow. */
export function viscousTerms(u: Formula, v: Formula, warmth: Formula, mu: number, k: number): Formula[][] {
  const num = (value: number) => Formula.of(String(value));
  const base = { u, v, ux: u.by("x"), uy: u.by("y"), vx: v.by("x"), vy: v.by("y"), mu: num(mu), k: num(k) };
  const xx = combine("mu * (4 * ux - 2 * vy) / 3", base);
  const xy = combine("mu * (uy + vx)", base);
  const yy = combine("mu * (4 * vy - 2 * ux) / 3", base);
  const heatX = combine("k * w", { k: base.k, w: warmth.by("x") });
  const heatY = combine("k * w", { k: base.k, w: warmth.by("y") });
  const all = { u, v, xx, xy, yy, hx: heatX, hy: heatY };
  return [
    [xx.by("x"), xy.by("y")],
    [xy.by("x"), yy.by("y")],
    [combine("u * xx + v * xy + hx", all).by("x"), combine("u * xy + v * yy + hy", all).by("y")],
  ];
}

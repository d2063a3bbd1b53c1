import { riemannSolution } from "../exact/gasDynamics.ts";
import type { FaceMesh } from "../mesh/faceMesh.ts";
import { shapedRectangle } from "../mesh/shaped.ts";
import { TransientGas } from "../solver/gas/gasFlow.ts";
import type { GasPhysics } from "../solver/gas/gasSpace.ts";
import { exact, GAS, inviscidGas, UNIFORM } from "./common.ts";
import { fieldError } from "./errorNorms.ts";
import { type Parameters, problem } from "./problem.ts";

const STRIPS = 8;

export function tubeSolution(p: Parameters) {
  return riemannSolution(
    { density: p.leftDensity, velocity: 0, pressure: p.leftPressurePa },
    { density: p.rightDensity, velocity: 0, pressure: p.rightPressurePa },
    p.gamma,
  );
}

export function tubePhysics(p: Parameters): GasPhysics {
  const middle = p.lengthM / 2;
  return {
    gas: inviscidGas(p),
    boundaries: { left: { kind: "free-outlet" }, right: { kind: "free-outlet" }, bottom: { kind: "slip" }, top: { kind: "slip" } },
    initial: (x) => (x < middle ? [p.leftDensity, 0, 0, p.leftPressurePa] : [p.rightDensity, 0, 0, p.rightPressurePa]),
  };
}

export const tubeMesh = (p: Parameters, nx: number, ny: number) =>
  shapedRectangle({ lengthM: p.lengthM, heightM: (p.lengthM * ny) / nx, nx, ny, gradingX: UNIFORM, gradingY: UNIFORM, periodicX: false }, "rows");

/** Values along the middle row. */
function row(sim: TransientGas, mesh: FaceMesh, k: number) {
  const [rows] = mesh.structure ?? [];
  const first = rows.nx * Math.floor(rows.ny / 2);
  const cells = Array.from({ length: rows.nx }, (_, i) => first + i);
  return { x: cells.map((c) => mesh.centroidM[2 * c]), values: cells.map((c) => sim.space.w[4 * c + k]) };
}

/** A diaphragm between two chambers bursts: shock, contact and expansion run through the tube. */
export const shockTube = problem<FaceMesh, TransientGas>({
  id: "shock-tube",
  title: "Shock tube",
  kind: "exact",
  tests: "Jumps that must run at the right speed and stay sharp, without overshoots: the flux and the limiter.",
  order: "Order 1 in the mean (L1), as at any shock; a little less where the contact smears.",
  formalOrder: 1,
  physicsWords: { time: "transient", model: "inviscid", space: "plane", compressible: true },
  parameters: [
    { key: "lengthM", label: "Length of the tube", unit: "m", preset: 2, min: 1e-5, max: 1000, help: "The diaphragm is in the middle." },
    { key: "leftPressurePa", label: "Pressure on the left", unit: "Pa", preset: 101325, min: 1e-3, max: 1e9, help: "Before the burst." },
    { key: "leftDensity", label: "Density on the left", unit: "kg/m^3", preset: 1.274, min: 1e-6, max: 1e4, help: "Before the burst." },
    { key: "rightPressurePa", label: "Pressure on the right", unit: "Pa", preset: 10132.5, min: 1e-3, max: 1e9, help: "Before the burst." },
    { key: "rightDensity", label: "Density on the right", unit: "kg/m^3", preset: 0.15925, min: 1e-6, max: 1e4, help: "Before the burst." },
    { key: "endTimeS", label: "End", unit: "s", preset: 0.0014, min: 1e-12, max: 1e3, help: "Before a wave reaches an end of the tube." },
    ...GAS,
  ],
  quantities: [
    { key: "plateauPressure", name: "pressure between the waves", symbol: "p*", unit: "Pa", limit: 0.005 },
    { key: "shockPosition", name: "position of the shock", symbol: "x_s", unit: "m", limit: 0.005 },
    { key: "contactVelocity", name: "velocity between the waves", symbol: "u*", unit: "m/s", limit: 0.005 },
  ],
  family: { baseNx: 100, baseNy: 4, ratio: 2, count: 3, gradingX: UNIFORM, gradingY: UNIFORM },
  counts: { nx: "cells along the tube", ny: "cells across" },
  graded: false,
  numerics: { riemannFlux: "contact", limiter: "bounds", courant: 0.4, maxIterations: 100_000, dropOrders: 1 },
  reference: (p) => ({
    velocityMS: Math.sqrt((p.gamma * p.leftPressurePa) / p.leftDensity),
    lengthM: p.lengthM,
    velocityName: "speed of sound",
    lengthName: "tube length",
  }),
  mesh: (p, spec) => tubeMesh(p, spec.nx, spec.ny),
  simulate: (p, mesh, n) =>
    new TransientGas(mesh, tubePhysics(p), {
      riemannFlux: n.riemannFlux ?? "contact",
      limiter: n.limiter ?? "bounds",
      maxIterations: n.maxIterations,
      dropOrders: n.dropOrders,
      endTimeS: p.endTimeS,
      courant: n.courant ?? 0.4,
    }),
  evaluate: (sim, p, mesh) => {
    const { waves } = tubeSolution(p);
    const pressure = row(sim, mesh, 3);
    const velocity = row(sim, mesh, 1);
    const t = Math.max(sim.timeS, 1e-300);
    const middle = p.lengthM / 2;
    // Halfway between contact and shock, where the plateau is widest.
    const at = middle + 0.5 * (waves.contact + waves.right) * t;
    const k = Math.max(
      0,
      pressure.x.findIndex((x) => x > at),
    );
    const half = 0.5 * (pressure.values[k] + p.rightPressurePa);
    let shock = Number.NaN;
    for (let i = pressure.x.length - 2; i >= 0; i--) {
      if (!(pressure.values[i] >= half && pressure.values[i + 1] < half)) continue;
      const share = (pressure.values[i] - half) / (pressure.values[i] - pressure.values[i + 1]);
      shock = pressure.x[i] + share * (pressure.x[i + 1] - pressure.x[i]);
      break;
    }
    return { plateauPressure: pressure.values[k], shockPosition: shock, contactVelocity: velocity.values[k] };
  },
  profiles: (sim, _p, mesh) =>
    [
      ["density", "density along the tube", "rho", "kg/m^3", 0],
      ["pressure", "pressure along the tube", "p", "Pa", 3],
    ].map(([key, name, symbol, unit, k]) => {
      const { x, values } = row(sim, mesh, Number(k));
      return {
        key: String(key),
        name: String(name),
        abscissa: { name: "x", unit: "m", values: x },
        value: { name: String(symbol), unit: String(unit), values },
      };
    }),
  errorNorms: (sim, p, mesh) => {
    const { at } = tubeSolution(p);
    const t = sim.timeS;
    const h = p.lengthM / (mesh.structure?.[0].nx ?? 1);
    // Cell averages: a centre value says little about a cell with a jump in it.
    const average = (pick: "density" | "pressure") => (x: number) => {
      let sum = 0;
      for (let q = 0; q < STRIPS; q++) sum += at((x - 0.5 * h + ((q + 0.5) * h) / STRIPS - p.lengthM / 2) / t)[pick];
      return sum / STRIPS;
    };
    const take = (k: number) => Float64Array.from({ length: mesh.cellCount }, (_, c) => sim.space.w[4 * c + k]);
    return [fieldError(mesh, "density", "kg/m^3", take(0), average("density")), fieldError(mesh, "p", "Pa", take(3), average("pressure"))];
  },
  yardsticks: (p) => {
    const s = tubeSolution(p);
    const reach = Math.max(Math.abs(s.waves.left), Math.abs(s.waves.right)) * p.endTimeS;
    const x = Array.from({ length: 201 }, (_, k) => (p.lengthM * k) / 200);
    const at = (q: number) => s.at((q - p.lengthM / 2) / p.endTimeS);
    return [
      {
        key: "tube-exact",
        name: "Exact solution of the Riemann problem",
        kind: "exact",
        source: "Toro, Riemann Solvers and Numerical Methods for Fluid Dynamics, 3rd ed., ch. 4",
        validity: {
          sentence: `Holds until a wave reaches an end: the fastest has run ${reach.toPrecision(3)} m of ${(p.lengthM / 2).toPrecision(3)} m.`,
          inside: reach < p.lengthM / 2,
        },
        values: [
          exact("plateauPressure", s.star.pressure),
          exact("shockPosition", p.lengthM / 2 + s.waves.right * p.endTimeS),
          exact("contactVelocity", s.star.velocity),
        ],
        profiles: [
          { profileKey: "density", abscissa: x, value: x.map((q) => at(q).density), standardUncertainty: 0, uncertaintyNote: "exact" },
          { profileKey: "pressure", abscissa: x, value: x.map((q) => at(q).pressure), standardUncertainty: 0, uncertaintyNote: "exact" },
        ],
      },
    ];
  },
});

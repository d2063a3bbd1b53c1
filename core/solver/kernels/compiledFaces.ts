import type { FaceArrays } from "./arrays.ts";
import { addressesIn, instantiate, type KernelMemory } from "./engine.ts";
import { FACES_WASM } from "./faces.wasm.ts";
import * as plain from "./plainFaces.ts";
import type { ConvectionScheme } from "./schemes.ts";

export type FaceKernels = typeof plain;

type Loop = (...numbers: number[]) => void;

const SCHEME_CODE: Readonly<Record<ConvectionScheme, number>> = { upwind: 0, central: 1, "linear-upwind": 2, limited: 3 };

/** Loops over joining faces on the arrays of one memory; given an array from elsewhere, the plain twin runs instead. */
export function compiledFaces(memory: KernelMemory, arena: { int32(length: number): Int32Array }): FaceKernels {
  const loop = instantiate<Record<keyof FaceKernels, Loop>>(FACES_WASM, memory);
  const { buffer } = memory;
  const known = new WeakMap<FaceArrays, number | null>();
  /** address of the table of a geometry's arrays, null where one lies elsewhere */
  const tableOf = (g: FaceArrays): number | null => {
    const kept = known.get(g);
    if (kept !== undefined) return kept;
    const made = tableOfArrays(g, buffer, arena);
    known.set(g, made);
    return made;
  };
  return {
    carryOne: (g, scheme, flux, diffusivity, a, carried) => {
      const table = tableOf(g);
      const { q, slope, residual } = carried;
      const at = table && addressesIn(buffer, [flux, a, q, slope[0], slope[1], residual]);
      if (!table || !at) return plain.carryOne(g, scheme, flux, diffusivity, a, carried);
      loop.carryOne(g.joins, SCHEME_CODE[scheme], table, at[0], diffusivity, at[1], at[2], at[3], at[4], at[5]);
    },
    carryPair: (g, scheme, flux, diffusivity, a, carried) => {
      const table = tableOf(g);
      const [u, v] = carried;
      const at = table && addressesIn(buffer, [flux, a]);
      const cells = table && addressesIn(buffer, [u.q, v.q, u.slope[0], u.slope[1], v.slope[0], v.slope[1], u.residual, v.residual]);
      if (!table || !at || !cells) return plain.carryPair(g, scheme, flux, diffusivity, a, carried);
      loop.carryPair(g.joins, SCHEME_CODE[scheme], table, at[0], diffusivity, at[1], ...cells);
    },
    gradientPair: (g, factors, velocity, gu, gv) => {
      const table = tableOf(g);
      const at = table && addressesIn(buffer, [factors, ...velocity, ...gu, ...gv]);
      if (!table || !at) return plain.gradientPair(g, factors, velocity, gu, gv);
      loop.gradientPair(g.joins, table, ...at);
    },
    pressureFaces: (g, p, slope, sum) => {
      const table = tableOf(g);
      const at = table && addressesIn(buffer, [p, ...slope, ...sum]);
      if (!table || !at) return plain.pressureFaces(g, p, slope, sum);
      loop.pressureFaces(g.joins, table, ...at);
    },
    velocityFaces: (g, velocity, gu, gv, out) => {
      const table = tableOf(g);
      const at = table && addressesIn(buffer, [...velocity, ...gu, ...gv, out]);
      if (!table || !at) return plain.velocityFaces(g, velocity, gu, gv, out);
      loop.velocityFaces(g.joins, table, ...at);
    },
    momentumFluxes: (g, velocity, gu, gv, p, slope, diagonal, flux) => {
      const table = tableOf(g);
      const at = table && addressesIn(buffer, [...velocity, ...gu, ...gv, p, ...slope, diagonal, flux]);
      if (!table || !at) return plain.momentumFluxes(g, velocity, gu, gv, p, slope, diagonal, flux);
      loop.momentumFluxes(g.joins, table, ...at);
    },
    pressureMatrix: (g, mobility, out, a) => {
      const table = tableOf(g);
      const at = table && addressesIn(buffer, [mobility, out, a]);
      if (!table || !at) return plain.pressureMatrix(g, mobility, out, a);
      loop.pressureMatrix(g.joins, table, ...at);
    },
    obliqueFluxes: (g, mobility, slope, flux, left) => {
      const table = tableOf(g);
      const at = table && addressesIn(buffer, [mobility, ...slope, flux, left]);
      if (!table || !at) return plain.obliqueFluxes(g, mobility, slope, flux, left);
      loop.obliqueFluxes(g.joins, table, ...at);
    },
  };
}

/** Writes the addresses of a geometry's arrays where the loops read them, in the order of the places in faces.as.ts. */
function tableOfArrays(g: FaceArrays, buffer: ArrayBuffer, arena: { int32(length: number): Int32Array }): number | null {
  const { pattern, oblique } = g;
  const always = [g.owner, g.neighbour, g.weight, g.conductance, g.sx, g.sy, g.volume, pattern.diagonal, pattern.ownerEntry, pattern.neighbourEntry];
  const { dx, dy, tx, ty, kx, ky, ox, oy, nx, ny } = oblique ?? {};
  const addresses = addressesIn(buffer, [...always, dx, dy, tx, ty, kx, ky, ox, oy, nx, ny]);
  if (!addresses) return null;
  const table = arena.int32(addresses.length);
  table.set(addresses);
  // The arena may have been full: then the addresses lie elsewhere.
  return table.buffer === buffer ? table.byteOffset : null;
}

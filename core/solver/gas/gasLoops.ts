import type { FaceGeometry } from "../discrete/flowGeometry.ts";
import { kernelArena, plainArena } from "../kernels/arena.ts";
import { compiledTwins } from "../kernels/compiledCells.ts";
import { instantiate } from "../kernels/engine.ts";
import { GAS_WASM } from "../kernels/gas.wasm.ts";
import { GAS_VECTORS_WASM } from "../kernels/gasVectors.wasm.ts";
import type { Limiter, RiemannFlux } from "./gas.ts";
import { addGasFluxes, type GasFaces, gasGradients, limitSlopes } from "./gasKernels.ts";
import * as gasVectors from "./gasVectors.ts";
import type { Neighbourhood } from "./neighbourhood.ts";

/** numbers a cell that an implicit step may take: its directions, prepared ones, and the rows of its sweeps; what is not used costs nothing */
const WORK_PER_CELL = 300;

/** What the hot loops read and write, in the layout of `gasKernels.ts`. */
export interface GasArrays {
  readonly factors: Float64Array;
  readonly faces: GasFaces;
  readonly w: Float64Array;
  readonly conserved: Float64Array;
  readonly slope: Float64Array;
  readonly low: Float64Array;
  readonly high: Float64Array;
  readonly floor: Float64Array;
  readonly share: Float64Array;
  readonly residual: Float64Array;
  readonly waves: Float64Array;
}

export type GasVectors = typeof gasVectors;

/** The loops of an implicit step, and where the vectors they run over are taken from. */
export interface GasWork {
  readonly vectors: GasVectors;
  readonly float64: (length: number) => Float64Array;
  readonly int32: (length: number) => Int32Array;
}

/** The three loops an evaluation spends its time in. */
export interface GasLoops {
  readonly kind: "compiled" | "plain";
  gradients(): void;
  limit(limiter: Limiter): void;
  fluxes(flux: RiemannFlux, gamma: number): void;
}

interface Compiled {
  gradients(...at: number[]): void;
  limit(...at: number[]): void;
  contactFluxes(...at: number[]): void;
}

/**
 * Arrays of a gas flow and the loops over them: compiled ones on a memory of their own, or the plain twins where there is no engine for them.
 * Both give the same bits.
 */
export function gasLoops(
  g: FaceGeometry,
  near: Neighbourhood,
  factors: Float64Array,
  faces: GasFaces,
  plain = false,
): { arrays: GasArrays; loops: GasLoops; work: GasWork } {
  const sizes = { w: 4, conserved: 4, slope: 8, low: 4, high: 4, floor: 4, share: 4, residual: 4, waves: 1 } as const;
  const names = Object.keys(sizes) as (keyof typeof sizes)[];
  const given = [factors, faces.normal, faces.arm];
  const numbers = names.reduce((s, n) => s + sizes[n], 0) * g.cells + given.reduce((s, a) => s + a.length, 0) + g.joins + near.joins;
  const arena = plain ? plainArena() : kernelArena(8 * (numbers + WORK_PER_CELL * g.cells + g.faces) + 65_536);
  const copy = (from: Float64Array) => {
    const to = arena.float64(from.length);
    to.set(from);
    return to;
  };
  const pairsOf = (n: Neighbourhood) => {
    const pairs = arena.int32(2 * n.joins);
    for (let f = 0; f < n.joins; f++) {
      pairs[2 * f] = n.owner[f];
      pairs[2 * f + 1] = n.neighbour[f];
    }
    return pairs;
  };
  const pairs = pairsOf(g);
  const nearPairs = near === g ? pairs : pairsOf(near);
  const made = Object.fromEntries(names.map((n) => [n, arena.float64(sizes[n] * g.cells)])) as unknown as Omit<GasArrays, "factors" | "faces">;
  const arrays: GasArrays = { factors: copy(factors), faces: { normal: copy(faces.normal), arm: copy(faces.arm) }, ...made };
  const { memory } = arena;
  const inside =
    memory &&
    [pairs, nearPairs, arrays.factors, arrays.faces.normal, arrays.faces.arm, ...Object.values(made)].every((a) => a.buffer === memory.buffer);
  const loops = inside
    ? compiledLoops(g, near, arrays, pairs.byteOffset, nearPairs.byteOffset, instantiate<Compiled>(GAS_WASM, memory))
    : plainLoops(g, near, arrays);
  const vectors = memory ? compiledTwins(GAS_VECTORS_WASM, memory, gasVectors) : gasVectors;
  return { arrays, loops, work: { vectors, float64: (n) => arena.float64(n), int32: (n) => arena.int32(n) } };
}

function plainLoops(g: FaceGeometry, near: Neighbourhood, a: GasArrays): GasLoops {
  return {
    kind: "plain",
    gradients: () => gasGradients(near, a.factors, a.w, a.slope, a.low, a.high),
    limit: (limiter) => limitSlopes(g, a.faces, limiter, a.w, a.slope, a.low, a.high, a.floor, a.share),
    fluxes: (flux, gamma) => addGasFluxes(g, a.faces, flux, gamma, a.w, a.slope, a.share, a.residual, a.waves),
  };
}

function compiledLoops(g: FaceGeometry, near: Neighbourhood, a: GasArrays, pairs: number, nearPairs: number, compiled: Compiled): GasLoops {
  const twin = plainLoops(g, near, a);
  const at = (x: Float64Array) => x.byteOffset;
  const { normal, arm } = a.faces;
  return {
    kind: "compiled",
    gradients: () => compiled.gradients(near.joins, g.cells, nearPairs, at(a.factors), at(a.w), at(a.slope), at(a.low), at(a.high)),
    limit: (limiter) =>
      compiled.limit(g.joins, g.cells, LIMITER_CODE[limiter], pairs, at(arm), at(a.w), at(a.slope), at(a.low), at(a.high), at(a.floor), at(a.share)),
    fluxes: (flux, gamma) => {
      if (flux !== "contact") return twin.fluxes(flux, gamma);
      compiled.contactFluxes(g.joins, gamma, pairs, at(normal), at(arm), at(a.w), at(a.slope), at(a.share), at(a.residual), at(a.waves));
    },
  };
}

const LIMITER_CODE: Readonly<Record<Limiter, number>> = { none: 0, bounds: 1, smooth: 2, "first-order": 3 };

import type { FlowGeometry } from "../flowGeometry.ts";
import { GAS_WASM } from "./assembly/gas.wasm.ts";
import type { Limiter, RiemannFlux } from "./gas.ts";
import { addGasFluxes, type GasFaces, gasGradients, limitSlopes } from "./gasKernels.ts";

/** What the hot loops read and write, in the layout of `gasKernels.ts`. */
export interface GasArrays {
  readonly factors: Float64Array;
  readonly faces: GasFaces;
  readonly w: Float64Array;
  readonly slope: Float64Array;
  readonly low: Float64Array;
  readonly high: Float64Array;
  readonly floor: Float64Array;
  readonly share: Float64Array;
  readonly residual: Float64Array;
  readonly waves: Float64Array;
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

/** The little of the engine's interface that is used here; the core is written without a browser's or a server's types. */
interface Engine {
  Memory: new (size: { initial: number }) => { buffer: ArrayBuffer };
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: unknown };
}

const PAGE = 65_536;
/** the compiler keeps constants below this address */
const FIRST = 4096;

let module: object | undefined;

function engine(): Engine | undefined {
  return (globalThis as unknown as { WebAssembly?: Engine }).WebAssembly;
}

function compile(wasm: Engine): object {
  const raw = atob(GAS_WASM);
  module ??= new wasm.Module(Uint8Array.from(raw, (c) => c.charCodeAt(0)));
  return module;
}

/**
 * Arrays of a gas flow and the loops over them: compiled ones on a memory of their own, or the plain twins where there is no engine for them.
 * Both give the same bits.
 */
export function gasLoops(g: FlowGeometry, factors: Float64Array, faces: GasFaces, plain = false): { arrays: GasArrays; loops: GasLoops } {
  const wasm = plain ? undefined : engine();
  const sizes = { w: 4, slope: 8, low: 4, high: 4, floor: 4, share: 4, residual: 4, waves: 1 } as const;
  const names = Object.keys(sizes) as (keyof typeof sizes)[];
  if (!wasm) {
    const made = Object.fromEntries(names.map((n) => [n, new Float64Array(sizes[n] * g.cells)])) as unknown as Omit<GasArrays, "factors" | "faces">;
    const arrays = { factors, faces, ...made };
    return { arrays, loops: plainLoops(g, arrays) };
  }
  const cellBytes = 8 * names.reduce((s, n) => s + sizes[n], 0) * g.cells;
  const bytes = FIRST + cellBytes + 8 * (factors.length + faces.normal.length + faces.arm.length) + 8 * g.joins + 64 * 16;
  const memory = new wasm.Memory({ initial: Math.ceil(bytes / PAGE) });
  const exports = new wasm.Instance(compile(wasm), { env: { memory, abort: () => undefined } }).exports as Compiled;
  let top = FIRST;
  const place = (length: number) => {
    const array = new Float64Array(memory.buffer, top, length);
    top = (top + 8 * length + 63) & ~63;
    return array;
  };
  const copy = (from: Float64Array) => {
    const to = place(from.length);
    to.set(from);
    return to;
  };
  const pairs = new Int32Array(memory.buffer, top, 2 * g.joins);
  top = (top + 8 * g.joins + 63) & ~63;
  for (let f = 0; f < g.joins; f++) {
    pairs[2 * f] = g.owner[f];
    pairs[2 * f + 1] = g.neighbour[f];
  }
  const made = Object.fromEntries(names.map((n) => [n, place(sizes[n] * g.cells)])) as unknown as Omit<GasArrays, "factors" | "faces">;
  const arrays: GasArrays = { factors: copy(factors), faces: { normal: copy(faces.normal), arm: copy(faces.arm) }, ...made };
  return { arrays, loops: compiledLoops(g, arrays, pairs.byteOffset, exports) };
}

function plainLoops(g: FlowGeometry, a: GasArrays): GasLoops {
  return {
    kind: "plain",
    gradients: () => gasGradients(g, a.factors, a.w, a.slope, a.low, a.high),
    limit: (limiter) => limitSlopes(g, a.faces, limiter, a.w, a.slope, a.low, a.high, a.floor, a.share),
    fluxes: (flux, gamma) => addGasFluxes(g, a.faces, flux, gamma, a.w, a.slope, a.share, a.residual, a.waves),
  };
}

function compiledLoops(g: FlowGeometry, a: GasArrays, pairs: number, compiled: Compiled): GasLoops {
  const twin = plainLoops(g, a);
  const at = (x: Float64Array) => x.byteOffset;
  const { normal, arm } = a.faces;
  return {
    kind: "compiled",
    gradients: () => compiled.gradients(g.joins, g.cells, pairs, at(a.factors), at(a.w), at(a.slope), at(a.low), at(a.high)),
    limit: (limiter) =>
      compiled.limit(g.joins, g.cells, LIMITER_CODE[limiter], pairs, at(arm), at(a.w), at(a.slope), at(a.low), at(a.high), at(a.floor), at(a.share)),
    fluxes: (flux, gamma) => {
      if (flux !== "contact") return twin.fluxes(flux, gamma);
      compiled.contactFluxes(g.joins, gamma, pairs, at(normal), at(arm), at(a.w), at(a.slope), at(a.share), at(a.residual), at(a.waves));
    },
  };
}

const LIMITER_CODE: Readonly<Record<Limiter, number>> = { none: 0, bounds: 1, smooth: 2, "first-order": 3 };

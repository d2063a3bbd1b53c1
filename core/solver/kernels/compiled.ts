import type { SparsePattern } from "./arrays.ts";
import { type CellKernels, compiledCells } from "./compiledCells.ts";
import { compiledFaces, type FaceKernels } from "./compiledFaces.ts";
import { compiledHierarchy, type HierarchyKernels } from "./compiledHierarchy.ts";
import { compiledRows, type RowKernels } from "./compiledRows.ts";
import { instantiate, type KernelMemory } from "./engine.ts";
import { FLOW_WASM } from "./flow.wasm.ts";
import type { FlowKernels } from "./kernels.ts";
import * as plain from "./plain.ts";

type Loop = (...numbers: number[]) => number;
type Name =
  | Exclude<keyof FlowKernels, "gradientOverJoins" | keyof CellKernels | keyof FaceKernels | keyof RowKernels | keyof HierarchyKernels>
  | "gradient";

type Numbers = Float64Array | Int32Array;
const at = (x: Numbers) => x.byteOffset;

/** A memory that loops run on, and how to tell whether what they are given lies in it. */
interface Home {
  readonly loop: Record<Name, Loop>;
  readonly here: (a: Numbers, b?: Numbers, c?: Numbers, d?: Numbers) => boolean;
  readonly rows: (p: Pick<SparsePattern, "rowStart" | "column">) => boolean;
}

/** Loops on the arrays of one memory; given an array from elsewhere, the plain twin runs instead. */
export function compiledKernels(memory: KernelMemory, arena: { int32(length: number): Int32Array }): FlowKernels {
  const loop = instantiate<Record<Name, Loop>>(FLOW_WASM, memory);
  const buffer = memory.buffer;
  const here: Home["here"] = (a, b = a, c = a, d = a) => a.buffer === buffer && b.buffer === buffer && c.buffer === buffer && d.buffer === buffer;
  const home: Home = { loop, here, rows: (p) => here(p.rowStart, p.column) };
  return {
    ...matrixLoops(home),
    ...vectorLoops(home),
    ...faceLoops(home),
    ...compiledFaces(memory, arena),
    ...compiledRows(memory),
    ...compiledCells(memory),
    ...compiledHierarchy(memory, arena),
  };
}

/** Products with a sparse matrix. */
const matrixLoops = ({ loop, here, rows }: Home): Pick<FlowKernels, "multiplyDot" | "subtractProduct"> => ({
  multiplyDot: (p, a, x, y) =>
    rows(p) && here(a, x, y) ? loop.multiplyDot(p.size, at(p.rowStart), at(p.column), at(a), at(x), at(y)) : plain.multiplyDot(p, a, x, y),
  subtractProduct: (p, a, x, r) =>
    rows(p) && here(a, x, r)
      ? void loop.subtractProduct(p.size, at(p.rowStart), at(p.column), at(a), at(x), at(r))
      : plain.subtractProduct(p, a, x, r),
});

/** Sums over vectors. */
const vectorLoops = ({ loop, here }: Home): Pick<FlowKernels, "dot" | "addScaled" | "descend"> => ({
  dot: (x, y) => (here(x, y) ? loop.dot(x.length, at(x), at(y)) : plain.dot(x, y)),
  addScaled: (a, x, y) => (here(x, y) ? void loop.addScaled(x.length, a, at(x), at(y)) : plain.addScaled(a, x, y)),
  descend: (step, p, ap, x, r, before) =>
    here(p, ap, x, r) && here(before)
      ? loop.descend(p.length, step, at(p), at(ap), at(x), at(r), at(before))
      : plain.descend(step, p, ap, x, r, before),
});

/** Slopes, and what leaves through faces. */
const faceLoops = ({ loop, here }: Home): Pick<FlowKernels, "gradientOverJoins" | "subtractOutflow" | "correctFluxes"> => ({
  gradientOverJoins: (g, factors, q, out) =>
    here(g.owner, g.neighbour) && here(factors, q, ...out)
      ? void loop.gradient(g.joins, at(g.owner), at(g.neighbour), at(factors), at(q), at(out[0]), at(out[1]))
      : plain.gradientOverJoins(g, factors, q, out),
  subtractOutflow: (g, flux, r) =>
    here(g.owner, g.neighbour, flux, r)
      ? void loop.subtractOutflow(g.joins, at(g.owner), at(g.neighbour), at(flux), at(r))
      : plain.subtractOutflow(g, flux, r),
  correctFluxes: (g, faceMobility, correction, flux) =>
    here(g.owner, g.neighbour) && here(faceMobility, correction, flux)
      ? void loop.correctFluxes(g.joins, at(g.owner), at(g.neighbour), at(faceMobility), at(correction), at(flux))
      : plain.correctFluxes(g, faceMobility, correction, flux),
});

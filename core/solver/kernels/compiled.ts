import type { FaceArrays, SparsePattern } from "./arrays.ts";
import { type CellKernels, compiledCells } from "./compiledCells.ts";
import { instantiate, type KernelMemory } from "./engine.ts";
import { FLOW_WASM } from "./flow.wasm.ts";
import type { FlowKernels } from "./kernels.ts";
import * as plain from "./plain.ts";
import type { ConvectionScheme } from "./schemes.ts";

type Loop = (...numbers: number[]) => number;
type Name = Exclude<keyof FlowKernels, "gradientOverJoins" | keyof CellKernels> | "gradient";

const SCHEME_CODE: Readonly<Record<ConvectionScheme, number>> = { upwind: 0, central: 1, "linear-upwind": 2, limited: 3 };

/** Addresses of face arrays, in the order the loops of flow.as.ts expect. */
interface Tables {
  readonly deferred: number;
  readonly faces: number;
  readonly momentum: number;
}

type Numbers = Float64Array | Int32Array;
const at = (x: Numbers) => x.byteOffset;

/** A memory that loops run on, and how to tell whether what they are given lies in it. */
interface Home {
  readonly loop: Record<Name, Loop>;
  readonly here: (a: Numbers, b?: Numbers, c?: Numbers, d?: Numbers) => boolean;
  readonly rows: (p: Pick<SparsePattern, "rowStart" | "column">) => boolean;
  /** null where some array of the geometry lies elsewhere */
  readonly tables: (g: FaceArrays) => Tables | null;
}

/** Loops on the arrays of one memory; given an array from elsewhere, the plain twin runs instead. */
export function compiledKernels(memory: KernelMemory, arena: { int32(length: number): Int32Array }): FlowKernels {
  const loop = instantiate<Record<Name, Loop>>(FLOW_WASM, memory);
  const buffer = memory.buffer;
  const here: Home["here"] = (a, b = a, c = a, d = a) => a.buffer === buffer && b.buffer === buffer && c.buffer === buffer && d.buffer === buffer;
  const known = new WeakMap<FaceArrays, Tables | null>();
  const tables = (g: FaceArrays): Tables | null => {
    const kept = known.get(g);
    if (kept !== undefined) return kept;
    const made = tablesOf(g, here, arena);
    known.set(g, made);
    return made;
  };
  const home: Home = {
    loop,
    here,
    rows: (p) => here(p.rowStart, p.column),
    tables,
  };
  return {
    ...matrixLoops(home),
    ...groupLoops(home),
    ...vectorLoops(home),
    ...assembly(home),
    ...convection(home),
    ...pressureCoupling(home),
    ...compiledCells(memory),
  };
}

/** Writes the addresses of a geometry's arrays where the loops read them. */
function tablesOf(g: FaceArrays, here: Home["here"], arena: { int32(length: number): Int32Array }): Tables | null {
  const ends = [g.owner, g.neighbour, g.weight];
  const lists = {
    deferred: [...ends, g.kx, g.ky, g.ox, g.oy, g.nx, g.ny, g.dx, g.dy, g.tx, g.ty],
    faces: [...ends, g.kx, g.ky, g.sx, g.sy],
    momentum: [...ends, g.conductance, g.dx, g.dy, g.volume],
  };
  const { pattern } = g;
  const others = [pattern.rowStart, pattern.column, pattern.diagonal, pattern.ownerEntry, pattern.neighbourEntry];
  if (![...Object.values(lists).flat(), ...others].every((a) => here(a))) return null;
  const made = Object.entries(lists).map(([name, list]) => {
    const addresses = arena.int32(list.length);
    addresses.set(list.map(at));
    return [name, addresses] as const;
  });
  // The arena may have been full: then the addresses lie elsewhere.
  if (!made.every(([, addresses]) => here(addresses))) return null;
  return Object.fromEntries(made.map(([name, addresses]) => [name, at(addresses)])) as unknown as Tables;
}

/** Products with a sparse matrix, and sweeps over its rows. */
const matrixLoops = ({
  loop,
  here,
  rows,
}: Home): Pick<FlowKernels, "multiply" | "subtractProduct" | "subtractProductPair" | "sweepPair" | "sweep"> => ({
  multiply: (p, a, x, y) =>
    rows(p) && here(a, x, y) ? void loop.multiply(p.size, at(p.rowStart), at(p.column), at(a), at(x), at(y)) : plain.multiply(p, a, x, y),
  subtractProduct: (p, a, x, r) =>
    rows(p) && here(a, x, r)
      ? void loop.subtractProduct(p.size, at(p.rowStart), at(p.column), at(a), at(x), at(r))
      : plain.subtractProduct(p, a, x, r),
  subtractProductPair: (p, a, x, r) =>
    rows(p) && here(a) && here(...x, ...r)
      ? void loop.subtractProductPair(p.size, at(p.rowStart), at(p.column), at(a), at(x[0]), at(x[1]), at(r[0]), at(r[1]))
      : plain.subtractProductPair(p, a, x, r),
  sweepPair: (p, a, b, x) =>
    rows(p) && here(p.diagonal, a) && here(...b, ...x)
      ? void loop.sweepPair(p.size, at(p.rowStart), at(p.column), at(p.diagonal), at(a), at(b[0]), at(b[1]), at(x[0]), at(x[1]))
      : plain.sweepPair(p, a, b, x),
  sweep: (p, a, b, x) =>
    rows(p) && here(p.diagonal, a, b, x)
      ? void loop.sweep(p.size, at(p.rowStart), at(p.column), at(p.diagonal), at(a), at(b), at(x))
      : plain.sweep(p, a, b, x),
});

/** Between a mesh and the coarser one made by grouping its cells. */
const groupLoops = ({ loop, here, rows }: Home): Pick<FlowKernels, "smoothDown" | "smoothUp" | "sumEntries"> => ({
  smoothDown: (l, aggregate, coarse) => {
    if (!(rows(l) && here(l.diagonal, l.values, l.inverse, l.x) && here(l.b, aggregate, coarse))) return plain.smoothDown(l, aggregate, coarse);
    const { rowStart, column, diagonal, values, inverse, b, x } = l;
    loop.smoothDown(l.size, at(rowStart), at(column), at(diagonal), at(values), at(inverse), at(aggregate), at(b), at(x), at(coarse));
  },
  smoothUp: (l, aggregate, coarse) => {
    if (!(rows(l) && here(l.values, l.inverse, l.x, l.b) && here(aggregate, coarse))) return plain.smoothUp(l, aggregate, coarse);
    const { rowStart, column, values, inverse, b, x } = l;
    loop.smoothUp(l.size, at(rowStart), at(column), at(values), at(inverse), at(aggregate), at(b), at(x), at(coarse));
  },
  sumEntries: (fine, entry, coarse) =>
    here(fine, entry, coarse) ? void loop.sumEntries(entry.length, at(fine), at(entry), at(coarse)) : plain.sumEntries(fine, entry, coarse),
});

/** Sums over vectors. */
const vectorLoops = ({ loop, here }: Home): Pick<FlowKernels, "dot" | "addScaled" | "scaleAndAdd"> => ({
  dot: (x, y) => (here(x, y) ? loop.dot(x.length, at(x), at(y)) : plain.dot(x, y)),
  addScaled: (a, x, y) => (here(x, y) ? void loop.addScaled(x.length, a, at(x), at(y)) : plain.addScaled(a, x, y)),
  scaleAndAdd: (x, a, y) => (here(x, y) ? void loop.scaleAndAdd(x.length, at(x), a, at(y)) : plain.scaleAndAdd(x, a, y)),
});

/** Matrices from what faces carry. */
const assembly = ({ loop, here, tables }: Home): Pick<FlowKernels, "assembleUpwind" | "assembleSymmetric"> => ({
  assembleUpwind: (g, flux, diffusivity, a) => {
    if (!(tables(g) && here(flux, a))) return plain.assembleUpwind(g, flux, diffusivity, a);
    const { diagonal, ownerEntry, neighbourEntry } = g.pattern;
    const graph = [at(g.owner), at(g.neighbour), at(g.conductance), at(diagonal), at(ownerEntry), at(neighbourEntry)];
    loop.assembleUpwind(g.joins, ...graph, at(flux), diffusivity, at(a));
  },
  assembleSymmetric: (g, coefficient, a) => {
    if (!(tables(g) && here(coefficient, a))) return plain.assembleSymmetric(g, coefficient, a);
    const { diagonal, ownerEntry, neighbourEntry } = g.pattern;
    loop.assembleSymmetric(g.joins, at(g.owner), at(g.neighbour), at(diagonal), at(ownerEntry), at(neighbourEntry), at(coefficient), at(a));
  },
});

/** Slopes, and what is left over of a higher-order scheme once upwind differences are in the matrix. */
const convection = ({ loop, here, tables }: Home): Pick<FlowKernels, "gradientOverJoins" | "subtractDeferred" | "subtractOutflow"> => ({
  gradientOverJoins: (g, factors, q, out) =>
    here(g.owner, g.neighbour) && here(factors, q, ...out)
      ? void loop.gradient(g.joins, at(g.owner), at(g.neighbour), at(factors), at(q), at(out[0]), at(out[1]))
      : plain.gradientOverJoins(g, factors, q, out),
  subtractDeferred: (g, scheme, flux, diffusivity, q, slope, residual) => {
    const t = tables(g);
    if (!(t && here(flux, q, residual) && here(...slope))) return plain.subtractDeferred(g, scheme, flux, diffusivity, q, slope, residual);
    loop.subtractDeferred(g.joins, SCHEME_CODE[scheme], t.deferred, at(flux), diffusivity, at(q), at(slope[0]), at(slope[1]), at(residual));
  },
  subtractOutflow: (g, flux, r) =>
    tables(g) && here(flux, r)
      ? void loop.subtractOutflow(g.joins, at(g.owner), at(g.neighbour), at(flux), at(r))
      : plain.subtractOutflow(g, flux, r),
});

/** Between pressure, velocity and the fluxes through faces. */
const pressureCoupling = ({
  loop,
  here,
  tables,
}: Home): Pick<FlowKernels, "pressureFaces" | "velocityFaces" | "pressureFluxes" | "faceMobilities" | "correctFluxes"> => ({
  pressureFaces: (g, p, slope, sum) => {
    const t = tables(g);
    if (!(t && here(p) && here(...slope, ...sum))) return plain.pressureFaces(g, p, slope, sum);
    loop.pressureFaces(g.joins, t.faces, at(p), at(slope[0]), at(slope[1]), at(sum[0]), at(sum[1]));
  },
  velocityFaces: (g, velocity, gu, gv, out) => {
    const t = tables(g);
    if (!(t && here(...velocity, out) && here(...gu, ...gv))) return plain.velocityFaces(g, velocity, gu, gv, out);
    const slopes = [...gu, ...gv].map(at);
    loop.velocityFaces(g.joins, t.faces, at(velocity[0]), at(velocity[1]), ...slopes, at(out));
  },
  pressureFluxes: (g, p, slope, diagonal, flux) => {
    const t = tables(g);
    if (!(t && here(p, diagonal, flux) && here(...slope))) return plain.pressureFluxes(g, p, slope, diagonal, flux);
    loop.pressureFluxes(g.joins, t.momentum, at(p), at(slope[0]), at(slope[1]), at(diagonal), at(flux));
  },
  faceMobilities: (g, mobility, out) =>
    tables(g) && here(mobility, out)
      ? void loop.faceMobilities(g.joins, at(g.owner), at(g.neighbour), at(g.weight), at(g.conductance), at(mobility), at(out))
      : plain.faceMobilities(g, mobility, out),
  correctFluxes: (g, faceMobility, correction, flux) =>
    tables(g) && here(faceMobility, correction, flux)
      ? void loop.correctFluxes(g.joins, at(g.owner), at(g.neighbour), at(faceMobility), at(correction), at(flux))
      : plain.correctFluxes(g, faceMobility, correction, flux),
});

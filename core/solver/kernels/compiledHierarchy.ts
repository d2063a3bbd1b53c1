import { compiledTwins } from "./compiledCells.ts";
import { instantiate, type KernelMemory } from "./engine.ts";
import * as plain from "./plainHierarchy.ts";
import * as plainSingle from "./plainSingle.ts";
import { SINGLE_WASM } from "./single.wasm.ts";

export type HierarchyKernels = typeof plain & typeof plainSingle;

type Hierarchy = plain.Hierarchy;
type Loop = (...numbers: number[]) => void;
type Numbers = Float64Array | Float32Array | Int32Array;

/** The preconditioner on the arrays of one memory; given an array from elsewhere, the plain twin runs instead. */
export function compiledHierarchy(memory: KernelMemory, arena: { int32(length: number): Int32Array }): HierarchyKernels {
  const loop = instantiate<Record<keyof typeof plain, Loop>>(SINGLE_WASM, memory);
  const { buffer } = memory;
  const known = new WeakMap<Hierarchy, Int32Array | null>();
  /** the list of addresses, null where an array lies elsewhere */
  const listOf = (h: Hierarchy): Int32Array | null => {
    const kept = known.get(h);
    if (kept !== undefined) return kept;
    const { arrays, list } = addressesOf(h);
    const placed = arrays.every((a) => a.buffer === buffer) ? arena.int32(list.length) : null;
    placed?.set(list);
    // The arena may have been full: then the list lies elsewhere.
    const made = placed?.buffer === buffer ? placed : null;
    known.set(h, made);
    return made;
  };
  return {
    ...compiledTwins(SINGLE_WASM, memory, plainSingle),
    precondition: (h) => {
      const list = listOf(h);
      if (list) loop.precondition(list.byteOffset);
      else plain.precondition(h);
    },
    refresh: (h, values) => {
      const list = listOf(h);
      if (list && values.buffer === buffer) loop.refresh(list.byteOffset, values.byteOffset, Number(h.singular));
      else plain.refresh(h, values);
    },
  };
}

/** All arrays, and the list that single.as.ts describes. */
function addressesOf({ levels, factor }: Hierarchy): { arrays: readonly Numbers[]; list: readonly number[] } {
  const parts = levels.map(({ size, rowStart, column, diagonal, values, inverse, x, b, work, aggregate, coarseEntry }) => {
    const always = [rowStart, column, diagonal, values, inverse, x, b];
    const sometimes: readonly (Numbers | undefined)[] = [work[0], work[1], work[2], work[3], aggregate, coarseEntry];
    const addresses = [...always, ...sometimes].map((a) => a?.byteOffset ?? 0);
    return { arrays: [...always, ...sometimes.filter((a) => a !== undefined)], places: [size, ...addresses, values.length] };
  });
  return { arrays: [factor, ...parts.flatMap((p) => p.arrays)], list: [levels.length, factor.byteOffset, ...parts.flatMap((p) => p.places)] };
}

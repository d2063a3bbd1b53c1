import { CELLS_WASM } from "./cells.wasm.ts";
import { instantiate, type KernelMemory } from "./engine.ts";
import * as plain from "./plainCells.ts";

export type CellKernels = typeof plain;

type Numbers = Float64Array | Int32Array;
type Given = number | undefined | Numbers | readonly Numbers[];
type Loop = (...numbers: number[]) => number;

/** Loops over cells on the arrays of one memory. */
export const compiledCells = (memory: KernelMemory): CellKernels => compiledTwins(CELLS_WASM, memory, plain);

/**
 * Compiled loops under the names of their plain twins. What a plain loop is given, the compiled one is given too: arrays by their address, 0 for what
 * is absent, and the length of the first before all of them. Where an array lies elsewhere, the plain loop runs.
 */
export function compiledTwins<Twins extends object>(text: string, memory: KernelMemory, twins: Twins): Twins {
  const loops = instantiate<Record<string, Loop>>(text, memory);
  const { buffer } = memory;
  const through = (loop: Loop, twin: (...given: Given[]) => unknown) => {
    return (...given: Given[]) => {
      const flat = given.flatMap((g) => (Array.isArray(g) ? g : [g])) as (number | undefined | Numbers)[];
      const arrays = flat.filter((g): g is Numbers => typeof g === "object");
      if (arrays.some((a) => a.buffer !== buffer)) return twin(...given);
      return loop(arrays[0].length, ...flat.map((g) => (typeof g === "object" ? g.byteOffset : (g ?? 0))));
    };
  };
  const made = Object.entries(twins).map(([name, twin]) => [name, through(loops[name], twin)]);
  return Object.fromEntries(made) as Twins;
}

import { CELLS_WASM } from "./cells.wasm.ts";
import { instantiate, type KernelMemory } from "./engine.ts";
import * as plain from "./plainCells.ts";

export type CellKernels = typeof plain;

type Numbers = Float64Array | Float32Array | Int32Array;
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
  // Called thousands of times an iteration on small meshes: the numbers are gathered in one pass.
  const through = (loop: Loop, twin: (...given: Given[]) => unknown) => {
    return (...given: Given[]) => {
      const numbers = [0];
      let length: number | undefined;
      let elsewhere = false;
      const take = (g: number | undefined | Numbers) => {
        if (typeof g !== "object") return numbers.push(g ?? 0);
        if (g.buffer !== buffer) elsewhere = true;
        length ??= g.length;
        return numbers.push(g.byteOffset);
      };
      for (const g of given) {
        if (Array.isArray(g)) for (const one of g) take(one);
        else take(g as number | undefined | Numbers);
      }
      numbers[0] = length ?? 0;
      return elsewhere ? twin(...given) : loop(...numbers);
    };
  };
  const made = Object.entries(twins).map(([name, twin]) => [name, through(loops[name], twin)]);
  return Object.fromEntries(made) as Twins;
}

import { addressesIn, instantiate, type KernelMemory } from "./engine.ts";
import * as plain from "./plainRows.ts";
import { ROWS_WASM } from "./rows.wasm.ts";

export type RowKernels = typeof plain;

type Loop = (...numbers: number[]) => void;

/** Loops over the rows of the transport equations on the arrays of one memory; given an array from elsewhere, the plain twin runs instead. */
export function compiledRows(memory: KernelMemory): RowKernels {
  const loop = instantiate<Record<keyof RowKernels, Loop>>(ROWS_WASM, memory);
  const { buffer } = memory;
  return {
    residualPair: (p, values, velocity, residual, meanU, meanV, diagonal, sums) => {
      const at = addressesIn(buffer, [p.rowStart, p.column, p.diagonal, values, ...velocity, ...residual, diagonal, sums]);
      if (!at) return plain.residualPair(p, values, velocity, residual, meanU, meanV, diagonal, sums);
      loop.residualPair(p.size, ...at.slice(0, 8), meanU, meanV, at[8], at[9]);
    },
    residualOne: (p, values, q, r, mean, sums) => {
      const at = addressesIn(buffer, [p.rowStart, p.column, p.diagonal, values, q, r, sums]);
      if (!at) return plain.residualOne(p, values, q, r, mean, sums);
      loop.residualOne(p.size, ...at.slice(0, 6), mean, at[6]);
    },
    relaxMomentum: (p, rows, residual, change, velocity) => {
      const { values, diagonal, around, relaxation, volume, mobility } = rows;
      const first = addressesIn(buffer, [p.rowStart, p.column, p.diagonal, values, diagonal, around]);
      const last = addressesIn(buffer, [volume, mobility, ...residual, ...change, ...velocity]);
      if (!first || !last) return plain.relaxMomentum(p, rows, residual, change, velocity);
      loop.relaxMomentum(p.size, ...first, relaxation, ...last);
    },
    relaxQuantity: (p, values, relaxation, residual, change, q) => {
      const at = addressesIn(buffer, [p.rowStart, p.column, p.diagonal, values, residual, change, q]);
      if (!at) return plain.relaxQuantity(p, values, relaxation, residual, change, q);
      loop.relaxQuantity(p.size, ...at.slice(0, 4), relaxation, ...at.slice(4));
    },
  };
}

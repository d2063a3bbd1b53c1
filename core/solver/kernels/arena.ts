import { compiledKernels } from "./compiled.ts";
import { engine, type KernelMemory, PAGE_BYTES } from "./engine.ts";
import type { FlowKernels } from "./kernels.ts";
import * as plain from "./plain.ts";
import * as plainCells from "./plainCells.ts";
import * as plainFaces from "./plainFaces.ts";
import * as plainHierarchy from "./plainHierarchy.ts";
import * as plainRows from "./plainRows.ts";
import * as plainSingle from "./plainSingle.ts";

/** Where a solver takes its arrays from, and the loops that may run over them. */
export interface Arena {
  readonly kernels: FlowKernels;
  float64(length: number): Float64Array;
  float32(length: number): Float32Array;
  int32(length: number): Int32Array;
  /** bytes handed out */
  readonly usedBytes: number;
  /** where the arrays lie that compiled loops may run over */
  readonly memory?: KernelMemory;
}

/** Ordinary arrays and the plain loops. */
export function plainArena(): Arena & { usedBytes: number } {
  return {
    kernels: { ...plain, ...plainCells, ...plainFaces, ...plainRows, ...plainSingle, ...plainHierarchy },
    usedBytes: 0,
    float64(length) {
      this.usedBytes += 8 * length;
      return new Float64Array(length);
    },
    float32(length) {
      this.usedBytes += 4 * length;
      return new Float32Array(length);
    },
    int32(length) {
      this.usedBytes += 4 * length;
      return new Int32Array(length);
    },
  };
}

/** the compiler keeps constants below this address */
const FIRST = 4096;
const LINE = 64;
/** beyond it the engine gives no memory */
const MOST_BYTES = 3.5 * 2 ** 30;

/**
 * Arrays on one memory of a size given beforehand, and the compiled loops on it; pages never touched cost nothing.
 * What does not fit becomes ordinary arrays, over which the plain loops run; without an engine for compiled code all of it does.
 */
export function kernelArena(bytes: number): Arena {
  const wasm = engine();
  if (!wasm || !(bytes < MOST_BYTES)) return plainArena();
  const pages = Math.ceil((FIRST + bytes) / PAGE_BYTES);
  const memory = new wasm.Memory({ initial: pages });
  let top = FIRST;
  const place = (size: number): number | undefined => {
    const at = top;
    if (at + size > pages * PAGE_BYTES) return undefined;
    top = LINE * Math.ceil((at + size) / LINE);
    return at;
  };
  const beyond = plainArena();
  const arena: Omit<Arena, "kernels"> = {
    memory,
    get usedBytes() {
      return top - FIRST + beyond.usedBytes;
    },
    float64(length: number) {
      const at = place(8 * length);
      return at === undefined ? beyond.float64(length) : new Float64Array(memory.buffer, at, length);
    },
    float32(length: number) {
      const at = place(4 * length);
      return at === undefined ? beyond.float32(length) : new Float32Array(memory.buffer, at, length);
    },
    int32(length: number) {
      const at = place(4 * length);
      return at === undefined ? beyond.int32(length) : new Int32Array(memory.buffer, at, length);
    },
  };
  return Object.assign(arena, { kernels: compiledKernels(memory, arena) });
}

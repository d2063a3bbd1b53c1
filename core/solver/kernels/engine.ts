/** The little of the engine's interface that is used here; the core is written without a browser's or a server's types. */
interface Engine {
  Memory: new (size: { initial: number }) => KernelMemory;
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: unknown };
}

export interface KernelMemory {
  readonly buffer: ArrayBuffer;
}

export const PAGE_BYTES = 65_536;

/** The engine for compiled code, where there is one. */
export function engine(): Engine | undefined {
  return (globalThis as unknown as { WebAssembly?: Engine }).WebAssembly;
}

const modules = new Map<string, object>();

/** Functions of a compiled module, given as base64 text, on a memory. */
export function instantiate<T>(text: string, memory: KernelMemory): T {
  const wasm = engine();
  if (!wasm) throw new Error("No engine for compiled code here.");
  const known = modules.get(text) ?? new wasm.Module(Uint8Array.from(atob(text), (c) => c.charCodeAt(0)));
  modules.set(text, known);
  return new wasm.Instance(known, { env: { memory, abort: () => undefined } }).exports as T;
}

type Numbers = Float64Array | Float32Array | Int32Array;

/** Addresses of arrays in a memory, 0 for what is absent; undefined where one lies elsewhere. */
export function addressesIn(buffer: ArrayBuffer, arrays: readonly (Numbers | undefined)[]): number[] | undefined {
  const made = new Array<number>(arrays.length);
  for (let i = 0; i < arrays.length; i++) {
    const a = arrays[i];
    if (a && a.buffer !== buffer) return undefined;
    made[i] = a ? a.byteOffset : 0;
  }
  return made;
}

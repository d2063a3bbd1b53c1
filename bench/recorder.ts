/** A call of a compiled loop, or of the fills and copies around them, with the numbers it was given. */
export interface Call {
  readonly name: string;
  readonly given: readonly number[];
}

type Exports = Record<string, (...given: number[]) => number>;
interface Engine {
  Memory: new (size: { initial: number }) => { readonly buffer: ArrayBuffer };
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: { env: { memory: { readonly buffer: ArrayBuffer } } }) => { exports: Exports };
}

/** Loops that tell which module an instance is of. */
const MARKS = {
  flow: "multiplyDot",
  faces: "carryPair",
  rows: "relaxMomentum",
  cells: "correctCells",
  single: "precondition",
  gas: "contactFluxes",
  gasVectors: "symmetricSweep",
} as const;
export const MODULES = Object.keys(MARKS) as (keyof typeof MARKS)[];

const engine = globalThis as unknown as { WebAssembly: Engine };

/** What a solver asks of its compiled loops while `during` runs, in order, and how to ask for it again. */
export interface Recording {
  readonly calls: readonly Call[];
  /** the memory before the first call */
  readonly image: Uint8Array;
  readonly memory: Uint8Array;
  readonly loops: Readonly<Record<string, (...given: number[]) => number>>;
}

/**
 * Makes a solver with loops that can be listened to, brings it to where the recording is to begin, and records one piece of its work.
 * @param make a solver on the largest memory it takes
 * @param record what is recorded
 */
export function recorded<S>(make: () => S, record: (solver: S) => void): Recording {
  const own = engine.WebAssembly;
  const calls: Call[] = [];
  const loops: Record<string, (...given: number[]) => number> = {};
  const memories: { readonly buffer: ArrayBuffer }[] = [];
  let on = false;
  const listening = (instance: { exports: Exports }) => {
    const module = MODULES.find((m) => MARKS[m] in instance.exports);
    if (!module) return instance;
    const exports = Object.entries(instance.exports).map(([name, loop]) => {
      const full = `${module}_${name}`;
      loops[full] = loop;
      return [
        name,
        (...given: number[]) => {
          if (on) calls.push({ name: full, given });
          return loop(...given);
        },
      ];
    });
    return { exports: Object.fromEntries(exports) as Exports };
  };
  engine.WebAssembly = {
    ...own,
    Module: own.Module,
    Memory: class extends own.Memory {
      constructor(size: { initial: number }) {
        super(size);
        memories.push(this);
      }
    },
    Instance: class {
      constructor(module: object, imports: { env: { memory: { readonly buffer: ArrayBuffer } } }) {
        // biome-ignore lint/correctness/noConstructorReturn: stands in for an instance.
        return listening(new own.Instance(module, imports)) as never;
      }
    } as unknown as Engine["Instance"],
  };
  const restore = listenToArrays(
    () => (on ? memories[memories.length - 1]?.buffer : undefined),
    (call) => calls.push(call),
  );
  try {
    const solver = make();
    const memory = used(new Uint8Array(memories[memories.length - 1].buffer));
    const image = memory.slice();
    on = true;
    record(solver);
    on = false;
    return { calls, image, memory, loops };
  } finally {
    engine.WebAssembly = own;
    restore();
  }
}

/** A memory up to the last page that anything was written to. */
function used(memory: Uint8Array): Uint8Array {
  const words = new Uint32Array(memory.buffer);
  let last = words.length - 1;
  while (last > 0 && words[last] === 0) last--;
  return memory.subarray(0, Math.min(memory.length, 4096 * Math.ceil((4 * last + 4) / 4096) + 4096));
}

type Numbers = Float64Array | Float32Array | Int32Array;
type Fill = (this: Numbers, value: number, from?: number, to?: number) => Numbers;
type Set_ = (this: Numbers, from: ArrayLike<number>, at?: number) => void;

/** Fills and copies within the one memory are calls too. */
function listenToArrays(listened: () => ArrayBuffer | undefined, tell: (call: Call) => void): () => void {
  const prototype = Object.getPrototypeOf(Float64Array.prototype) as { fill: Fill; set: Set_ };
  const { fill, set } = prototype;
  prototype.fill = function (value, from, to) {
    if (this.buffer === listened()) {
      if (value === 0) tell({ name: "clear", given: [this.byteOffset, this.byteLength] });
      else tell({ name: "fill", given: [this.byteOffset, this.length, value] });
    }
    return fill.call(this, value, from, to);
  };
  prototype.set = function (from, at = 0) {
    const source = from as Numbers;
    if (this.buffer === listened() && source.buffer === this.buffer) {
      tell({ name: "copy", given: [this.byteOffset + at * this.BYTES_PER_ELEMENT, source.byteOffset, source.byteLength] });
    }
    set.call(this, from, at);
  };
  return () => Object.assign(prototype, { fill, set });
}

/** Carries the recorded calls out again on the image of the memory, with the compiled loops themselves. */
export function replayed({ calls, image, memory, loops }: Recording): Map<string, number> {
  const took = new Map<string, number>();
  memory.set(image);
  const words = new Float64Array(memory.buffer, 0, memory.length / 8);
  for (const { name, given } of calls) {
    const start = process.hrtime.bigint();
    if (name === "clear") memory.fill(0, given[0], given[0] + given[1]);
    else if (name === "fill") words.fill(given[2], given[0] / 8, given[0] / 8 + given[1]);
    else if (name === "copy") memory.copyWithin(given[0], given[1], given[1] + given[2]);
    else loops[name](...given);
    took.set(name, (took.get(name) ?? 0) + Number(process.hrtime.bigint() - start) / 1e6);
  }
  return took;
}

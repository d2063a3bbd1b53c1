import type { FaceMesh } from "../mesh/faceMesh.ts";
import type { BalanceRecord } from "../records/balance.ts";
import type { LawReading } from "../records/laws.ts";

export type SimulationState = "climbing" | "running" | "reached-target" | "reached-limit" | "diverged";

/** One entry of the record. */
export interface SimulationReport {
  /** iteration, or time step */
  readonly iteration: number;
  /** s; absent in steady runs */
  readonly timeS?: number;
  /** one a name of `residualNames` */
  readonly residuals: readonly number[];
}

/** A cell field a finished or running simulation hands out. */
export interface CellField {
  readonly name: string;
  readonly unit: string;
  readonly values: Float64Array;
}

/** What a checkpoint holds: numbers, texts and arrays only, so that it can be written to a file and read back to the last bit. */
export type Checkpoint = { readonly [key: string]: CheckpointValue };
export type CheckpointValue =
  | number
  | string
  | boolean
  | null
  | Float64Array
  | Float32Array
  | Int32Array
  | Uint8Array
  | readonly CheckpointValue[]
  | Checkpoint;

/**
 * A solver on its mesh, advanced in slices so that a caller can report, pause, stop and continue between them.
 * The same mesh, physics and options give the same numbers to the last bit, in Node and in a browser, with or without a checkpoint between.
 */
export interface Simulation {
  readonly mesh: FaceMesh;
  readonly state: SimulationState;
  readonly residualNames: readonly string[];
  /** levels a drop is counted from, one a residual; components of a vector share theirs */
  readonly starts: readonly number[];
  readonly iterations: number;
  /** progress through the coarser meshes before the first report */
  readonly climbing: { readonly cells: number; readonly left: number } | undefined;
  /** why it diverged, when it did and the reason is known */
  readonly reason?: string;
  /** One iteration or time step; its entry, unless it was spent on a coarser mesh. */
  advance(): SimulationReport | undefined;
  /** Ends the run here, as a person who stops it would. */
  finish(state?: "reached-target" | "reached-limit"): void;
  /** Stored fields, primary ones first. */
  fields(): CellField[];
  /** Fluxes through every boundary and of the whole, of the present fields. */
  balance(): BalanceRecord;
  /** How far the present fields are from rules that hold for every flow of their kind. */
  laws(): LawReading[];
  save(): Checkpoint;
  /** Continues from a checkpoint of the same set-up. */
  restore(saved: Checkpoint): void;
  /** Starts from the fields of another mesh's result. */
  startFrom(mesh: FaceMesh, fields: readonly CellField[]): void;
  /** bytes held in arrays, estimated from their lengths */
  readonly memoryBytes: number;
}

import type { Input, Output, TaskName } from "./tasks.ts";
import type { Told } from "./told.ts";

/** How a task is asked for. */
export interface Asking {
  /** hears how far it is */
  readonly told?: (told: Told) => void;
  /** gives it up, whether it waits or has begun */
  readonly signal?: AbortSignal;
}

/** Where heavy work is done: reading, assessing, drawing and packing, but never the database. */
export interface Desk {
  /**
   * Carries a task out.
   * @throws {UseCaseError} it took more time or memory than it may, or was given up; else whatever the task throws
   */
  ask<K extends TaskName>(task: K, input: Input<K>, asking?: Asking): Promise<Output<K>>;
  close(): Promise<void>;
}

/** Carries tasks out in the thread that asks: for programs that serve nobody meanwhile. */
export const deskHere: Desk = {
  ask: async <K extends TaskName>(task: K, input: Input<K>, asking?: Asking): Promise<Output<K>> => {
    const { carryOut } = await import("./tasks.ts");
    return carryOut(task, input, asking?.told ?? (() => undefined));
  },
  close: async () => undefined,
};

const held = globalThis as unknown as { tinRulerDesk?: Desk };

/** The desk of this process; until one is set up, tasks are carried out here. */
export const desk = (): Desk => held.tinRulerDesk ?? deskHere;

export function setUpDesk(set: Desk | undefined): void {
  held.tinRulerDesk = set;
}

import { readlinkSync } from "node:fs";
import { getPriority, setPriority } from "node:os";

/**
 * How far each kind of thread stands back where cores are short: who answers the pages comes first, then what a page waits for, then long runs. A little
 * only, so that other programs of the machine do not starve a run.
 */
export const NICENESS = { desk: 4, reader: 5, solver: 5 } as const;

/** the system's last place */
const LAST = 19;

/**
 * Lets this thread, and it alone, stand back behind others of the machine that have something to do. Where the system numbers no threads, or does not
 * let it be done, everything stays as it is.
 * @param niceness how much further back than the process
 * @returns the thread's number where it was done
 */
export function standBack(niceness: number): number | undefined {
  try {
    // Names the calling thread: "<process>/task/<thread>".
    const thread = Number(readlinkSync("/proc/thread-self").split("/").pop());
    if (!Number.isInteger(thread)) return undefined;
    setPriority(thread, Math.min(LAST, getPriority() + niceness));
    return thread;
  } catch {
    return undefined;
  }
}

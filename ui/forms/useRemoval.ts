"use client";

import type { Sending } from "../api/call";
import type { Operations } from "../api/operations";
import { notify } from "../shell/notify";
import type { useSave } from "./useSave";

/** how long a deletion can be taken back with one press */
const UNDO_MS = 12_000;

/** Deletes something and offers to take that back. */
export function useRemoval(save: ReturnType<typeof useSave>["save"]) {
  return async <Remove extends keyof Operations, Restore extends keyof Operations>(
    done: string,
    remove: readonly [Remove, Sending<Remove>],
    restore: readonly [Restore, Sending<Restore>],
  ): Promise<void> => {
    if (!(await save(...remove))) return;
    notify(done, { durationMs: UNDO_MS, action: { label: "Undo", onClick: () => void save(...restore) } });
  };
}

"use client";

import { useSave } from "../../forms/useSave";
import type { RunView } from "../../view";

/** Puts a run back among those of the case's own conditions. */
export function BackToCase({ run }: { run: RunView }) {
  const { save, busy } = useSave();
  const input = { key: "", name: "", unit: "", value: "" };
  return (
    <button
      type="button"
      className="link text-[12px]"
      disabled={busy}
      onClick={() => void save("PUT /runs/{id}/condition", { at: { id: run.id }, input }, `${run.label} is one of the case's own runs again.`)}
    >
      Made at the case's condition
    </button>
  );
}

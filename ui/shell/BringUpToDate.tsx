"use client";

import { useState } from "react";
import { useSave } from "../forms/useSave";
import { notify } from "./notify";

/** Queues what the bench can make again with the present set-up, and lists what a person has to do. */
export function BringUpToDate({ id }: { id: string }) {
  const { save, busy } = useSave();
  const [byHand, setByHand] = useState<readonly string[]>([]);
  const bring = async () => {
    const done = await save("POST /cases/{id}/up-to-date", { at: { id } });
    if (!done) return;
    setByHand(done.byHand);
    notify(
      done.runs.length
        ? `${done.runs.length} ${done.runs.length === 1 ? "run waits" : "runs wait"} on the bench.`
        : "The bench has nothing to make again.",
    );
  };
  return (
    <div className="no-print mt-1">
      <button type="button" className="btn small" disabled={busy} onClick={() => void bring()}>
        Bring up to date
      </button>
      {byHand.length ? (
        <div className="mt-1.5" aria-live="polite">
          For a person to do:
          <ul className="list-disc pl-5 text-ink-2">
            {byHand.map((s) => (
              <li key={s}>{s}</li>
            ))}
          </ul>
        </div>
      ) : null}
    </div>
  );
}

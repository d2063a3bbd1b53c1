"use client";

import { useSave } from "../../forms/useSave";
import type { RunView } from "../../view";

/** Pause, resume, stop, and the order a waiting run is taken in. */
export function RunControls({ run }: { run: Pick<RunView, "id" | "label" | "state" | "priority"> }) {
  const { save, busy } = useSave();
  const act = (what: "stop" | "pause" | "resume") => void save(`POST /runs/{id}/${what}`, { at: { id: run.id } });
  if (run.state === "followed")
    return (
      <button type="button" className="btn quiet small" disabled={busy} onClick={() => act("stop")}>
        End following
      </button>
    );
  return (
    <span className="inline-flex items-center gap-1">
      {run.state === "waiting" ? (
        <select
          className="field h-6! w-auto! min-w-0! py-0! text-[11.5px]"
          aria-label={`Priority of ${run.label}`}
          value={String(run.priority)}
          onChange={(e) => void save("PUT /runs/{id}/priority", { at: { id: run.id }, input: { priority: Number(e.target.value) } })}
        >
          <option value="5">first</option>
          <option value="0">in turn</option>
          <option value="-5">last</option>
          {[5, 0, -5].includes(run.priority) ? null : <option value={String(run.priority)}>priority {run.priority}</option>}
        </select>
      ) : null}
      {run.state === "paused" ? (
        <button type="button" className="btn quiet small" disabled={busy} onClick={() => act("resume")}>
          Resume
        </button>
      ) : (
        <button type="button" className="btn quiet small" disabled={busy} onClick={() => act("pause")}>
          Pause
        </button>
      )}
      <button type="button" className="btn quiet small" disabled={busy} onClick={() => act("stop")}>
        Stop
      </button>
    </span>
  );
}

"use client";

import Link from "next/link";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useRemoval } from "../../forms/useRemoval";
import { useSave } from "../../forms/useSave";
import type { RunView } from "../../view";
import { CopyRun } from "./CopyRun";
import { RunControls } from "./RunControls";

/** states a run can be taken up from again, where it left its state behind */
const LEFT_OFF = ["stopped", "interrupted"];
/** states a run can still go on from */
export const UNDER_WAY: readonly string[] = ["running", "waiting", "paused", "followed"];
const ENDED_EARLY = ["interrupted", "diverged", "failed", "stopped"];

/** Which run is being added to, and what of. */
export interface Adding {
  readonly run: string;
  readonly what: "values" | "curves" | "fields" | "surface" | "condition" | "build";
}

/** what is read, and what it is called for those who hear it */
const LABELS = {
  values: ["values", "Add values"],
  curves: ["curves", "Add curves"],
  fields: ["fields", "Add fields"],
  surface: ["surface", "Add a surface"],
  condition: ["condition", "Condition"],
  build: ["build", "Build"],
} as const;
const TITLES: Partial<Record<Adding["what"], string>> = {
  fields: "Mesh and fields of a plane, from a VTK XML file",
  surface: "The surface the flow acts on, with pressure and shear: forces a second way",
  condition: "It was made at another condition than the case's",
  build: "Version, options, compiler and machine of its code",
};

interface RunActsProps {
  readonly run: RunView;
  readonly adding: Adding | undefined;
  readonly add: (next: Adding | undefined) => void;
}

/** What can be done with a run in the state it is in. */
export function RunActs({ run, adding, add }: RunActsProps) {
  const { save, busy } = useSave();
  const at = { id: run.id };
  const under = UNDER_WAY.includes(run.state);
  return (
    <>
      {run.origin === "bench" && ENDED_EARLY.includes(run.state) ? (
        <button
          type="button"
          className="btn quiet small"
          disabled={busy}
          onClick={() => void save("POST /runs/{id}/again", { at }, "Queued again with the same settings.")}
        >
          Run again
        </button>
      ) : null}
      {run.resumable && LEFT_OFF.includes(run.state) ? (
        <button
          type="button"
          className="btn quiet small ml-1"
          disabled={busy}
          onClick={() => void save("POST /runs/{id}/resume", { at }, `${run.label} goes on where it stood.`)}
        >
          Resume
        </button>
      ) : null}
      {run.origin === "brought-in" && run.finished ? <span className="mr-1.5 text-[12px] text-ink-2">Add</span> : null}
      {run.origin === "brought-in" && run.finished
        ? (["values", "curves", "fields", "surface", "condition", "build"] as const).map((what) => {
            const open = adding?.run === run.id && adding.what === what;
            return (
              <button
                key={what}
                type="button"
                className="link mr-2 text-[12px]"
                aria-expanded={open}
                aria-label={LABELS[what][1]}
                title={TITLES[what]}
                onClick={() => add(open ? undefined : { run: run.id, what })}
              >
                {LABELS[what][0]}
              </button>
            );
          })
        : null}
      {run.space || run.settings.follow ? (
        <Link className="link mr-2 text-[12px]" href={`/look?run=${run.id}`} aria-label={`Look at ${run.label} in space`}>
          Look
        </Link>
      ) : null}
      {run.origin === "bench" && !under ? <CopyRun run={run} /> : null}
      {under ? <RunControls run={run} /> : <DeleteRun run={run} />}
    </>
  );
}

function DeleteRun({ run }: { run: RunView }) {
  const remove = useRemoval(useSave().save);
  const at = { id: run.id };
  return (
    <ConfirmButton
      className="link ml-2 text-[12px] text-ink-3"
      label={`Delete run ${run.label}`}
      question={`Delete the run ${run.label}?`}
      text="What rests on it is assessed anew without it. You can undo this for a few seconds."
      action="Delete run"
      onConfirm={() => void remove(`${run.label} was deleted.`, ["DELETE /runs/{id}", { at }], ["POST /runs/{id}/restore", { at }])}
    >
      Delete
    </ConfirmButton>
  );
}

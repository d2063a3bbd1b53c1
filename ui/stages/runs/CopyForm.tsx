"use client";

import { Dialog } from "radix-ui";
import { FormProvider, useWatch } from "react-hook-form";
import { significant } from "@/core/formatting/number";
import { described } from "@/core/problems/describe/catalogue";
import { LIMITERS, RIEMANN_FLUXES } from "@/core/solver/gas/gas";
import { SCHEMES } from "@/core/solver/kernels/schemes";
import { useAsked } from "../../api/useAsked";
import { useEntries } from "../../forms/entries";
import { asChoices } from "../../forms/Field";
import type { RunView } from "../../view";
import { type CopyEntries, copyEntries, copyInput, CopyEntry as Entry } from "./copyEntries";

const PRIORITIES = [
  ["5", "first"],
  ["0", "in turn"],
  ["-5", "last"],
] as const;

/** The entries of a copy, what the old run had in them. */
export function CopyForm({ run, done }: { run: RunView; done: () => void }) {
  const { form, save, busy } = useEntries<CopyEntries>(copyEntries(run));
  const problemId = run.settings.problemId ?? "";
  const start = async () => {
    const input = copyInput(problemId, form.getValues());
    if (await save("POST /runs/{id}/copy", { at: { id: run.id }, input }, "The copy waits in the queue.")) done();
  };
  return (
    <FormProvider {...form}>
      <div className="grid grid-cols-3 gap-2">
        <MeshAndNumerics problemId={problemId} inTime={run.settings.numerics.courant !== undefined} />
        <Entry name="dropOrders" label="Orders to fall" />
        <Entry name="maxIterations" label="Most iterations or steps" />
        <Entry name="longestS" label="Longest, s of computing" placeholder="no limit" />
        <Entry name="onceSteady" label="Stop once all quantities stand still" choices={asChoices(["no", "yes"])} />
        {run.settings.numerics.courant === undefined ? null : <Moments />}
        <Entry name="priority" label="Priority" choices={PRIORITIES} />
        <Start run={run} />
      </div>
      <div className="mt-4 flex justify-end gap-2">
        <Dialog.Close className="btn quiet">Cancel</Dialog.Close>
        <button type="button" className="btn" disabled={busy} onClick={start}>
          Run the copy
        </button>
      </div>
    </FormProvider>
  );
}

function MeshAndNumerics({ problemId, inTime }: { problemId: string; inTime: boolean }) {
  const problem = described(problemId);
  return (
    <>
      <Entry name="nx" label={problem.counts?.nx ?? "Cells along x"} />
      <Entry name="ny" label={problem.counts?.ny ?? "Cells along y"} />
      {problem.shapes ? <Entry name="shape" label="Cell shape" choices={asChoices(problem.shapes)} /> : null}
      {problem.physicsWords.compressible ? (
        <>
          <Entry name="riemannFlux" label="Riemann flux" choices={asChoices(RIEMANN_FLUXES)} />
          <Entry name="limiter" label="Limiter" choices={asChoices(LIMITERS)} />
        </>
      ) : (
        <Entry name="scheme" label="Convective scheme" choices={asChoices(SCHEMES)} />
      )}
      {inTime ? <Entry name="courant" label="Courant number" /> : null}
    </>
  );
}

/** u, v, p and what is carried, in single precision */
const BYTES_A_CELL = 16;

/** At how many moments the fields are kept, and what that takes on the disk. */
function Moments() {
  const [nx, ny, moments] = useWatch<CopyEntries, ["nx", "ny", "moments"]>({ name: ["nx", "ny", "moments"] });
  const bytes = Number(nx) * Number(ny) * Number(moments) * BYTES_A_CELL;
  const said = bytes > 0 ? `about ${significant(bytes / 1e6, 2)} MB` : "the end alone";
  return <Entry name="moments" label={`Moments whose fields are kept (${said})`} />;
}

/** Where the copy starts from: finished results that fill the same room. */
function Start({ run }: { run: RunView }) {
  const { data: starts = [] } = useAsked("GET /runs/{id}/starts", { at: { id: run.id } });
  const own = run.settings.numerics.courant === undefined ? "coarser meshes of its own" : "its own beginning";
  return (
    <div className="col-span-3">
      <Entry
        name="startFrom"
        label="Starts from"
        choices={[["", own], ...starts.map((s) => [s.id, `${s.label}, ${s.cells} cells`] as const)]}
        help="A finished result on any mesh of the same room, carried over by interpolation: a coarser one, or a steady one for a flow in time."
      />
    </div>
  );
}

"use client";

import { Dialog } from "radix-ui";
import { useState } from "react";
import { described } from "@/core/problems/describe/catalogue";
import type { MeshSpec } from "@/core/problems/describe/runSettings";
import { LIMITERS, RIEMANN_FLUXES } from "@/core/solver/gas/gas";
import { SCHEMES } from "@/core/solver/kernels/schemes";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import type { RunView } from "../../view";

/** Runs something like an old run: other cells, numerics or stop rules; the old one stays as it is. */
export function CopyRun({ run }: { run: RunView }) {
  const { save, busy } = useSave();
  const [open, setOpen] = useState(false);
  const { mesh, numerics, problemId } = run.settings;
  const spec = mesh as MeshSpec;
  const problem = described(problemId ?? "");
  const gas = problem.physicsWords.compressible;
  const [f, setF] = useState({
    nx: String(spec.nx),
    ny: String(spec.ny),
    shape: spec.shape ?? "rows",
    scheme: numerics.scheme,
    riemannFlux: numerics.riemannFlux ?? "contact",
    limiter: numerics.limiter ?? "none",
    courant: numerics.courant === undefined ? "" : String(numerics.courant),
    dropOrders: String(numerics.dropOrders),
    maxIterations: String(numerics.maxIterations),
    longestS: numerics.stop?.longestS === undefined ? "" : String(numerics.stop.longestS),
    onceSteady: numerics.stop?.onceSteady ? "yes" : "no",
    priority: "0",
    startFrom: "",
  });
  const { data: starts = [] } = useAsked("GET /runs/{id}/starts", open ? { at: { id: run.id } } : undefined);
  const put = (key: keyof typeof f) => (v: string) => setF({ ...f, [key]: v });
  const number = (text: string) => (text.trim() === "" ? undefined : Number(text));
  const start = async () => {
    const ok = await save(
      "POST /runs/{id}/copy",
      {
        at: { id: run.id },
        input: {
          nx: Number(f.nx),
          ny: Number(f.ny),
          ...(problem.shapes ? { shape: f.shape } : {}),
          scheme: f.scheme,
          ...(gas ? { riemannFlux: f.riemannFlux, limiter: f.limiter } : {}),
          courant: number(f.courant),
          dropOrders: Number(f.dropOrders),
          maxIterations: Number(f.maxIterations),
          longestS: number(f.longestS),
          onceSteady: f.onceSteady === "yes",
          priority: Number(f.priority),
          ...(f.startFrom ? { startFrom: f.startFrom } : {}),
        },
      },
      "The copy waits in the queue.",
    );
    if (ok) setOpen(false);
  };
  const same = (list: readonly string[]) => list.map((x) => [x, x] as const);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="btn quiet small">Copy and change</Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/25" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[560px] -translate-x-1/2 -translate-y-1/2 border border-line bg-paper p-5 shadow-lg">
          <Dialog.Title className="text-[15px] font-[620]">A run like {run.label}</Dialog.Title>
          <Dialog.Description className="mb-3 text-[12px] text-ink-3">
            Conditions stay; what you change here belongs to the new run alone.
          </Dialog.Description>
          <div className="grid grid-cols-3 gap-2">
            <Field label={problem.counts?.nx ?? "Cells along x"} value={f.nx} onChange={put("nx")} />
            <Field label={problem.counts?.ny ?? "Cells along y"} value={f.ny} onChange={put("ny")} />
            {problem.shapes ? <Field label="Cell shape" value={f.shape} onChange={put("shape")} choices={same(problem.shapes)} /> : null}
            {gas ? (
              <>
                <Field label="Riemann flux" value={f.riemannFlux} onChange={put("riemannFlux")} choices={same(RIEMANN_FLUXES)} />
                <Field label="Limiter" value={f.limiter} onChange={put("limiter")} choices={same(LIMITERS)} />
              </>
            ) : (
              <Field label="Convective scheme" value={f.scheme} onChange={put("scheme")} choices={same(SCHEMES)} />
            )}
            {numerics.courant !== undefined ? <Field label="Courant number" value={f.courant} onChange={put("courant")} /> : null}
            <Field label="Orders to fall" value={f.dropOrders} onChange={put("dropOrders")} />
            <Field label="Most iterations or steps" value={f.maxIterations} onChange={put("maxIterations")} />
            <Field label="Longest, s of computing" value={f.longestS} onChange={put("longestS")} placeholder="no limit" />
            <Field label="Stop once all quantities stand still" value={f.onceSteady} onChange={put("onceSteady")} choices={same(["no", "yes"])} />
            <Field
              label="Priority"
              value={f.priority}
              onChange={put("priority")}
              choices={[
                ["5", "first"],
                ["0", "in turn"],
                ["-5", "last"],
              ]}
            />
            <div className="col-span-3">
              <Field
                label="Starts from"
                value={f.startFrom}
                onChange={put("startFrom")}
                choices={[
                  ["", numerics.courant === undefined ? "coarser meshes of its own" : "its own beginning"],
                  ...starts.map((s) => [s.id, `${s.label}, ${s.cells} cells`] as const),
                ]}
                help="A finished result on any mesh of the same room, carried over by interpolation: a coarser one, or a steady one for a flow in time."
              />
            </div>
          </div>
          <div className="mt-4 flex justify-end gap-2">
            <Dialog.Close className="btn quiet">Cancel</Dialog.Close>
            <button type="button" className="btn" disabled={busy} onClick={start}>
              Run the copy
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

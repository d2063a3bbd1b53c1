"use client";

import { useState } from "react";
import type { RunView } from "../../view";
import { CopyDialog } from "./panels";

/** Runs something like an old run: other cells, numerics or stop rules; the old one stays as it is. */
export function CopyRun({ run }: { run: RunView }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button type="button" className="btn quiet small" onClick={() => setOpen(true)}>
        Copy and change
      </button>
      {open ? <CopyDialog run={run} close={() => setOpen(false)} /> : null}
    </>
  );
}

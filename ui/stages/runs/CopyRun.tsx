"use client";

import { Dialog } from "radix-ui";
import { useState } from "react";
import type { RunView } from "../../view";
import { CopyForm } from "./panels";

/** Runs something like an old run: other cells, numerics or stop rules; the old one stays as it is. */
export function CopyRun({ run }: { run: RunView }) {
  const [open, setOpen] = useState(false);
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
          <CopyForm run={run} done={() => setOpen(false)} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

"use client";

import { Dialog } from "radix-ui";
import type { RunView } from "../../view";
import { CopyForm } from "./CopyForm";

/** What is changed of a run that is copied. */
export function CopyDialog({ run, close }: { run: RunView; close: () => void }) {
  return (
    <Dialog.Root open onOpenChange={(open) => open || close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/25" />
        <Dialog.Content className="fixed top-1/2 left-1/2 w-[560px] -translate-x-1/2 -translate-y-1/2 border border-line bg-paper p-5 shadow-lg">
          <Dialog.Title className="text-[15px] font-[620]">A run like {run.label}</Dialog.Title>
          <Dialog.Description className="mb-3 text-[12px] text-ink-3">
            Conditions stay; what you change here belongs to the new run alone.
          </Dialog.Description>
          <CopyForm run={run} done={close} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

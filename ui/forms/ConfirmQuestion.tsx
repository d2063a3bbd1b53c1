"use client";

import { AlertDialog } from "radix-ui";

/** Asks before something is destroyed. */
export function ConfirmQuestion(p: { question: string; text: string; action: string; onConfirm: () => void; close: () => void }) {
  return (
    <AlertDialog.Root open onOpenChange={(open) => open || p.close()}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-ink/25" />
        <AlertDialog.Content className="fixed top-40 left-1/2 w-[420px] -translate-x-1/2 rounded border border-tin-deep bg-sheet p-5">
          <AlertDialog.Title className="font-[640]">{p.question}</AlertDialog.Title>
          <AlertDialog.Description className="mt-1 text-ink-2">{p.text}</AlertDialog.Description>
          <div className="mt-4 flex justify-end gap-2">
            <AlertDialog.Cancel className="btn quiet">Keep it</AlertDialog.Cancel>
            <AlertDialog.Action className="btn danger" onClick={p.onConfirm}>
              {p.action}
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

"use client";

import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import type { Place } from "./place";

const KEYS: readonly (readonly [string, string])[] = [
  ["/", "jump to any case, stage or page"],
  ["[  ]", "change the quantity"],
  ["g then 1 … 9, 0", "go to a stage, Question to Report"],
  ["g then c", "go to the board of cases"],
  ["?", "this list"],
];

interface SlipProps {
  readonly close: () => void;
  readonly title: string;
  readonly titleClass: string;
  readonly children: ReactNode;
}

/** A dialog over the page. */
function Slip({ close, title, titleClass, children }: SlipProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => open || close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/25" />
        <Dialog.Content
          className="fixed left-1/2 top-24 w-[560px] -translate-x-1/2 rounded border border-tin-deep bg-sheet p-3"
          aria-describedby={undefined}
        >
          <Dialog.Title className={titleClass}>{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

interface JumpToProps {
  readonly close: () => void;
  readonly typed: string;
  readonly setTyped: (typed: string) => void;
  readonly places: readonly Place[];
  readonly go: (href: string) => void;
}

/** Cases, stages and pages by what is typed. */
export function JumpTo({ close, typed, setTyped, places, go }: JumpToProps) {
  return (
    <Slip close={close} title="Jump to" titleClass="mb-2 text-[12px] text-ink-3">
      <Command label="Jump to">
        <Command.Input autoFocus placeholder="A case, a stage, a page" className="field words" value={typed} onValueChange={setTyped} />
        <Command.List className="mt-2 max-h-80 overflow-auto">
          <Command.Empty className="p-2 text-ink-3">Nothing of that name.</Command.Empty>
          {places.map((p) => (
            <Command.Item
              key={p.href}
              value={`${p.title} ${p.hint} ${p.href}`}
              onSelect={() => go(p.href)}
              className="flex cursor-pointer justify-between rounded px-2 py-1 data-[selected=true]:bg-soft"
            >
              <span>{p.title}</span>
              <span className="text-ink-3">{p.hint}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Slip>
  );
}

/** What the keys do. */
export function KeyList({ close }: { close: () => void }) {
  return (
    <Slip close={close} title="Keys" titleClass="mb-2 font-[640]">
      <dl className="grid grid-cols-[150px_1fr] gap-y-1.5">
        {KEYS.map(([k, what]) => (
          <div key={k} className="contents">
            <dt>
              <kbd>{k}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Slip>
  );
}

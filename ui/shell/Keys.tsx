"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";

export interface Place {
  readonly title: string;
  readonly hint: string;
  readonly href: string;
}

const KEYS: readonly (readonly [string, string])[] = [
  ["/", "jump to any case, stage or page"],
  ["[  ]", "change the quantity"],
  ["g then 1 … 9, 0", "go to a stage, Question to Report"],
  ["g then c", "go to the board of cases"],
  ["?", "this list"],
];

/** The jump dialog, the list of keys and the keys themselves. */
export function Keys({
  places,
  stages,
  quantities,
}: {
  places: readonly Place[];
  stages?: readonly string[];
  quantities?: { readonly current: string; readonly all: readonly string[] };
}) {
  const router = useRouter();
  const [jump, setJump] = useState(false);
  const [help, setHelp] = useState(false);
  useHotkeys("/", () => setJump(true), { preventDefault: true, useKey: true });
  useHotkeys("?", () => setHelp(true), { preventDefault: true, useKey: true, ignoreModifiers: true });
  useHotkeys("g>c", () => router.push("/"), { sequenceTimeoutMs: 1500 });
  useHotkeys(
    ["g>1", "g>2", "g>3", "g>4", "g>5", "g>6", "g>7", "g>8", "g>9", "g>0"],
    (e) => {
      const n = Number(e.key);
      const target = stages?.[(n + 9) % 10];
      if (target) router.push(target);
    },
    { sequenceTimeoutMs: 1500 },
    [stages],
  );
  const turn = (by: number) => {
    if (!quantities?.all.length) return;
    const at = quantities.all.indexOf(quantities.current);
    const next = quantities.all[(at + by + quantities.all.length) % quantities.all.length];
    const url = new URL(window.location.href);
    url.searchParams.set("q", next);
    router.replace(`${url.pathname}${url.search}`, { scroll: false });
  };
  useHotkeys("[", () => turn(-1), { useKey: true }, [quantities]);
  useHotkeys("]", () => turn(1), { useKey: true }, [quantities]);
  const overlay = "fixed inset-0 bg-ink/25";
  const panel = "fixed left-1/2 top-24 w-[560px] -translate-x-1/2 rounded border border-tin-deep bg-sheet p-3";
  return (
    <>
      <button type="button" className="flex items-center gap-1.5 text-[12px] text-head" onClick={() => setJump(true)}>
        Jump to anything <kbd>/</kbd>
      </button>
      {quantities && quantities.all.length > 1 ? (
        <span className="flex items-center gap-1 text-[12px] text-head">
          Quantity
          <button type="button" className="inline-flex h-6 w-6 items-center justify-center" aria-label="Quantity before" onClick={() => turn(-1)}>
            <kbd>[</kbd>
          </button>
          <button type="button" className="inline-flex h-6 w-6 items-center justify-center" aria-label="Next quantity" onClick={() => turn(1)}>
            <kbd>]</kbd>
          </button>
        </span>
      ) : null}
      <Dialog.Root open={jump} onOpenChange={setJump}>
        <Dialog.Portal>
          <Dialog.Overlay className={overlay} />
          <Dialog.Content className={panel} aria-describedby={undefined}>
            <Dialog.Title className="mb-2 text-[12px] text-ink-3">Jump to</Dialog.Title>
            <Command label="Jump to">
              <Command.Input autoFocus placeholder="A case, a stage, a page" className="field words" />
              <Command.List className="mt-2 max-h-80 overflow-auto">
                <Command.Empty className="p-2 text-ink-3">Nothing of that name.</Command.Empty>
                {places.map((p) => (
                  <Command.Item
                    key={p.href}
                    value={`${p.title} ${p.hint} ${p.href}`}
                    onSelect={() => {
                      setJump(false);
                      router.push(p.href);
                    }}
                    className="flex cursor-pointer justify-between rounded px-2 py-1 data-[selected=true]:bg-soft"
                  >
                    <span>{p.title}</span>
                    <span className="text-ink-3">{p.hint}</span>
                  </Command.Item>
                ))}
              </Command.List>
            </Command>
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
      <Dialog.Root open={help} onOpenChange={setHelp}>
        <Dialog.Portal>
          <Dialog.Overlay className={overlay} />
          <Dialog.Content className={panel} aria-describedby={undefined}>
            <Dialog.Title className="mb-2 font-[640]">Keys</Dialog.Title>
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
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

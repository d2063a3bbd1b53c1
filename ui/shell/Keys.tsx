"use client";

import { Command } from "cmdk";
import { useRouter } from "next/navigation";
import { Dialog } from "radix-ui";
import { type ReactNode, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useAsked } from "../api/useAsked";

export interface Place {
  readonly title: string;
  readonly hint: string;
  readonly href: string;
}

interface KeysProps {
  readonly places: readonly Place[];
  readonly stages?: readonly string[];
  readonly quantities?: { readonly current: string; readonly all: readonly string[] };
}

const KEYS: readonly (readonly [string, string])[] = [
  ["/", "jump to any case, stage or page"],
  ["[  ]", "change the quantity"],
  ["g then 1 … 9, 0", "go to a stage, Question to Report"],
  ["g then c", "go to the board of cases"],
  ["?", "this list"],
];
const STAGE_KEYS = ["g>1", "g>2", "g>3", "g>4", "g>5", "g>6", "g>7", "g>8", "g>9", "g>0"];
/** time between the two keys of a pair */
const SEQUENCE = { sequenceTimeoutMs: 1500 };

/** Turns to the quantity so many places on, in a circle. */
function useTurn(quantities: KeysProps["quantities"]) {
  const router = useRouter();
  return (by: number) => {
    if (!quantities?.all.length) return;
    const at = quantities.all.indexOf(quantities.current);
    const next = quantities.all[(at + by + quantities.all.length) % quantities.all.length];
    const url = new URL(window.location.href);
    url.searchParams.set("q", next);
    router.replace(`${url.pathname}${url.search}`, { scroll: false });
  };
}

/** The jump dialog, the list of keys and the keys themselves. */
export function Keys({ places, stages, quantities }: KeysProps) {
  const router = useRouter();
  const [jump, setJump] = useState(false);
  const [help, setHelp] = useState(false);
  const turn = useTurn(quantities);
  const { data } = useAsked("GET /cases", jump ? {} : undefined);
  const cases = (data ?? []).map((c) => ({ title: c.title, hint: "case", href: `/cases/${c.id}/question` }));
  useHotkeys("/", () => setJump(true), { preventDefault: true, useKey: true });
  useHotkeys("?", () => setHelp(true), { preventDefault: true, useKey: true, ignoreModifiers: true });
  useHotkeys("g>c", () => router.push("/"), SEQUENCE);
  const toStage = (e: KeyboardEvent) => {
    const target = stages?.[(Number(e.key) + 9) % 10];
    if (target) router.push(target);
  };
  useHotkeys(STAGE_KEYS, toStage, SEQUENCE, [stages]);
  useHotkeys("[", () => turn(-1), { useKey: true }, [quantities]);
  useHotkeys("]", () => turn(1), { useKey: true }, [quantities]);
  return (
    <>
      <button type="button" className="flex items-center gap-1.5 text-[12px] text-head" onClick={() => setJump(true)}>
        Jump to anything <kbd>/</kbd>
      </button>
      {quantities && quantities.all.length > 1 ? <Turn turn={turn} /> : null}
      <Slip open={jump} setOpen={setJump} title="Jump to" titleClass="mb-2 text-[12px] text-ink-3">
        <Places
          places={[...places, ...cases]}
          go={(href) => {
            setJump(false);
            router.push(href);
          }}
        />
      </Slip>
      <Slip open={help} setOpen={setHelp} title="Keys" titleClass="mb-2 font-[640]">
        <KeyList />
      </Slip>
    </>
  );
}

function Turn({ turn }: { turn: (by: number) => void }) {
  const button = "inline-flex h-6 w-6 items-center justify-center";
  return (
    <span className="flex items-center gap-1 text-[12px] text-head">
      Quantity
      <button type="button" className={button} aria-label="Quantity before" onClick={() => turn(-1)}>
        <kbd>[</kbd>
      </button>
      <button type="button" className={button} aria-label="Next quantity" onClick={() => turn(1)}>
        <kbd>]</kbd>
      </button>
    </span>
  );
}

interface SlipProps {
  readonly open: boolean;
  readonly setOpen: (open: boolean) => void;
  readonly title: string;
  readonly titleClass: string;
  readonly children: ReactNode;
}

/** A dialog over the page. */
function Slip({ open, setOpen, title, titleClass, children }: SlipProps) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
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

function Places({ places, go }: { places: readonly Place[]; go: (href: string) => void }) {
  return (
    <Command label="Jump to">
      <Command.Input autoFocus placeholder="A case, a stage, a page" className="field words" />
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
  );
}

function KeyList() {
  return (
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
  );
}

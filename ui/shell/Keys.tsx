"use client";

import { useRouter } from "next/navigation";
import { lazy, Suspense, useState } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { useAsked } from "../api/useAsked";
import type { Place } from "./place";
import { SchemeButton } from "./SchemeButton";

interface KeysProps {
  readonly places: readonly Place[];
  readonly stages?: readonly string[];
  readonly quantities?: { readonly current: string; readonly all: readonly string[] };
}

const STAGE_KEYS = ["g>1", "g>2", "g>3", "g>4", "g>5", "g>6", "g>7", "g>8", "g>9", "g>0"];
// The dialogs are fetched when one is opened for the first time; what is typed meanwhile is kept.
const JumpTo = lazy(() => import("./Slips").then((m) => ({ default: m.JumpTo })));
const KeyList = lazy(() => import("./Slips").then((m) => ({ default: m.KeyList })));
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
  const [typed, setTyped] = useState("");
  const [help, setHelp] = useState(false);
  const turn = useTurn(quantities);
  const { data } = useAsked("GET /cases", jump ? {} : undefined);
  const cases = (data ?? []).map((c) => ({ title: c.title, hint: "case", href: `/cases/${c.id}/question` }));
  const openJump = () => {
    setTyped("");
    setJump(true);
  };
  useHotkeys("/", openJump, { preventDefault: true, useKey: true });
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
      <button type="button" className="flex items-center gap-1.5 text-[12px] text-head" onClick={openJump}>
        Jump to anything <kbd>/</kbd>
      </button>
      {quantities && quantities.all.length > 1 ? <Turn turn={turn} /> : null}
      <SchemeButton />
      {jump ? (
        <Suspense fallback={<Waiting typed={typed} setTyped={setTyped} />}>
          <JumpTo
            close={() => setJump(false)}
            typed={typed}
            setTyped={setTyped}
            places={[...places, ...cases]}
            go={(href) => {
              setJump(false);
              router.push(href);
            }}
          />
        </Suspense>
      ) : null}
      {help ? (
        <Suspense>
          <KeyList close={() => setHelp(false)} />
        </Suspense>
      ) : null}
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

/** Takes what is typed until the dialog is there. */
function Waiting({ typed, setTyped }: { typed: string; setTyped: (typed: string) => void }) {
  return (
    <div className="fixed inset-0 bg-ink/25">
      <div className="fixed left-1/2 top-24 w-[560px] -translate-x-1/2 rounded border border-tin-deep bg-sheet p-3">
        <div className="mb-2 text-[12px] text-ink-3">Jump to</div>
        <input
          // biome-ignore lint/a11y/noAutofocus: a dialog was asked for, and typing goes into it.
          autoFocus
          aria-label="Jump to"
          className="field words w-full"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </div>
    </div>
  );
}

"use client";

import { lazy, type ReactNode, Suspense, useRef, useState } from "react";

// Fetched when something is about to be destroyed for the first time.
const Question = lazy(() => import("./ConfirmQuestion").then((m) => ({ default: m.ConfirmQuestion })));

/** A small button whose act is asked about first. */
export function ConfirmButton(p: {
  question: string;
  text: string;
  action: string;
  label: string;
  onConfirm: () => void;
  children: ReactNode;
  className?: string;
}) {
  const [asked, setAsked] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const close = () => {
    setAsked(false);
    button.current?.focus();
  };
  return (
    <>
      <button ref={button} type="button" className={p.className ?? "rounded p-1 text-ink-3"} aria-label={p.label} onClick={() => setAsked(true)}>
        {p.children}
      </button>
      {asked ? (
        <Suspense>
          <Question question={p.question} text={p.text} action={p.action} onConfirm={p.onConfirm} close={close} />
        </Suspense>
      ) : null}
    </>
  );
}

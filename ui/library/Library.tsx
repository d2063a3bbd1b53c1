"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Conditions } from "@/core/exact/fitting";
import { useAnswer } from "../engine/useAnswer";
import { type Choice, Field } from "../forms/Field";
import { askLibrary } from "./askLibrary";
import type { Listed } from "./asks";
import { OneSolution } from "./OneSolution";
import type { CaseAsking } from "./TakeAsYardstick";

interface Props {
  readonly cases: readonly Choice<string>[];
  /** case the library is held against */
  readonly asking: CaseAsking | undefined;
  readonly conditions: Conditions | undefined;
  readonly chosen: string | undefined;
}

const ALL = "";

/** Exact and semi-empirical solutions: found by words or by what a case is about, moved by their parameters. */
export function Library({ cases, asking, conditions, chosen }: Props) {
  const router = useRouter();
  const [words, setWords] = useState("");
  const [subject, setSubject] = useState(ALL);
  // Names are there at once; holding all of them against a case takes a second.
  const { value: plain = [], mistake } = useAnswer(() => askLibrary("list", {}), []);
  const { value: fitted, busy } = useAnswer(conditions ? () => askLibrary("list", { conditions }) : undefined, [conditions]);
  const listed = (conditions && fitted) || plain;
  const id = chosen ?? listed[0]?.id;
  const { value: shown } = useAnswer(id ? () => askLibrary("show", { id }) : undefined, [id]);
  const go = (next: { s?: string; case?: string }) => {
    const asked = Object.entries({ s: chosen ?? ALL, case: asking?.id ?? ALL, ...next }).filter(([, v]) => v !== ALL);
    router.replace(`/library?${new URLSearchParams(Object.fromEntries(asked))}`, { scroll: false });
  };
  const found = listed.filter((l) => (subject === ALL || l.subject === subject) && speaksOf(l, words));
  const subjects = [...new Set(listed.map((l) => l.subject))];
  const fit = conditions && fitted?.find((l) => l.id === shown?.id)?.fit;
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <h1>Library of solutions</h1>
      <p className="mb-3 text-[12.5px] text-ink-3">
        Exact and semi-empirical solutions, each with its range, source and uncertainty. Outside its range none decides anything.
      </p>
      <div className="grid grid-cols-[290px_minmax(0,1fr)] gap-6">
        <nav aria-label="Solutions" className="space-y-2">
          <Field label="Find by words" value={words} onChange={setWords} words placeholder="pipe, shock, boundary layer" />
          <Field label="Subject" value={subject} onChange={setSubject} choices={[[ALL, "all subjects"], ...subjects.map((s) => [s, s] as const)]} />
          <Field label="Fits this case" value={asking?.id ?? ALL} onChange={(v) => go({ case: v })} choices={[[ALL, "no case chosen"], ...cases]} />
          {mistake ? <p className="mistake">{mistake}</p> : null}
          {conditions && busy ? <p className="text-[12px] text-ink-3">Holding them against the case …</p> : null}
          <ul className="max-h-[calc(100vh-310px)] overflow-y-auto border-line border-t">
            {found.map((l) => (
              <li key={l.id} className="border-soft border-b">
                <button
                  type="button"
                  aria-current={l.id === id ? "true" : undefined}
                  className={`block w-full px-1 py-1 text-left ${l.id === id ? "bg-margin font-[620]" : ""}`}
                  onClick={() => go({ s: l.id })}
                >
                  {l.name}
                  <small className="block font-normal text-[11.5px] text-ink-3">{l.fit ? fitText(l.fit) : l.subject}</small>
                </button>
              </li>
            ))}
          </ul>
          {listed.length && !found.length ? (
            <p className="text-[12.5px] text-ink-2">Nothing of that name. Try fewer words, or all subjects.</p>
          ) : null}
        </nav>
        {shown && !(conditions && !fit) ? (
          <OneSolution key={`${shown.id} ${asking?.id}`} shown={shown} followed={fit?.parameters ?? {}} asking={asking} />
        ) : null}
      </div>
    </main>
  );
}

/** Every word that was typed is found in the name, the subject or the other words of a solution. */
function speaksOf(l: Listed, words: string): boolean {
  const text = `${l.name} ${l.subject} ${l.words}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/[\s,]+/)
    .every((w) => text.includes(w));
}

const fitText = ({ against }: NonNullable<Listed["fit"]>) => (against.length ? against[0] : "goes with the case, and holds there");

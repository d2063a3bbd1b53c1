"use client";

import { sentenceCase } from "@/core/formatting/number";
import { CONDITION_NAMES } from "@/core/records/conditions";
import { entryOf } from "../forms/entries";

/** What is said of every yardstick besides its figures, as typed. */
export interface YardstickWords {
  readonly name: string;
  readonly kind: "measured" | "table" | "other-code";
  readonly source: string;
  readonly validity: string;
  readonly who: string;
  readonly how: string;
  readonly when: string;
  readonly conditions: Readonly<Partial<Record<keyof typeof CONDITION_NAMES, string>>>;
}

export const NO_WORDS: YardstickWords = { name: "", kind: "measured", source: "", validity: "", who: "", how: "", when: "", conditions: {} };

const Entry = entryOf<YardstickWords>();
const KINDS = [
  ["measured", "measured"],
  ["table", "published table or curve"],
  ["other-code", "another code's result"],
] as const;

/** Name, kind, source and provenance of a yardstick, and the conditions it was made at. */
export function WordEntries() {
  return (
    <>
      <div className="mt-3 grid grid-cols-4 gap-2">
        <Entry name="name" label="Name" words />
        <Entry name="kind" label="Kind" choices={KINDS} />
        <div className="col-span-2">
          <Entry name="source" label="Source" words />
        </div>
        <Entry name="who" label="Who" words placeholder="initials" />
        <Entry name="when" label="When" words />
        <div className="col-span-2">
          <Entry name="how" label="How" words placeholder="hot wire, traverse by hand" />
        </div>
        <div className="col-span-4">
          <Entry name="validity" label="Where it holds, in words" words />
        </div>
      </div>
      <details className="mt-2">
        <summary className="cursor-pointer text-[12.5px] text-ink-2">Conditions it was made at, to be held against the case's</summary>
        <div className="mt-1 grid grid-cols-4 gap-2">
          {(Object.keys(CONDITION_NAMES) as (keyof typeof CONDITION_NAMES)[]).map((like) => (
            <Entry
              key={like}
              name={`conditions.${like}`}
              mistake={`condition-${like}`}
              label={sentenceCase(CONDITION_NAMES[like])}
              placeholder="or empty"
            />
          ))}
        </div>
      </details>
    </>
  );
}

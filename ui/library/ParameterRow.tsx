"use client";

import { Slider } from "radix-ui";
import type { Parameter } from "@/core/exact/solution";
import { Field } from "../forms/Field";
import { entryText, placeOf, valueAt } from "./entriesOf";

interface Props {
  readonly p: Parameter;
  /** its symbol set in type */
  readonly symbol: string;
  readonly entry: string;
  /** what the entry says, SI, where it can be read */
  readonly value: number | undefined;
  readonly mistake: string | undefined;
  readonly ofCase: boolean;
  readonly put: (entry: string) => void;
}

/** A parameter: typed with its unit, or slid. */
export function ParameterRow({ p, symbol, entry, value, mistake, ofCase, put }: Props) {
  if (p.choices)
    return (
      <Field label={p.label} value={String(Number(entry))} onChange={put} choices={p.choices.map(([v, words]) => [String(v), words] as const)} />
    );
  const shown = value ?? p.preset;
  return (
    <div>
      <div className="flex items-end gap-2">
        <div className="min-w-0 flex-1">
          <Field label={ofCase ? `${p.label} (the case's)` : p.label} value={entry} onChange={put} mistake={mistake} />
        </div>
        <span className="w-16 pb-1 text-[13px]" dangerouslySetInnerHTML={{ __html: symbol }} aria-hidden="true" />
      </div>
      <Slider.Root
        className="relative mt-1 flex h-4 w-[calc(100%-72px)] items-center"
        min={0}
        max={1000}
        step={1}
        value={[placeOf(p, shown)]}
        onValueChange={([place]) => put(entryText(valueAt(p, place), p.unit))}
      >
        <Slider.Track className="relative h-[3px] w-full bg-tin">
          <Slider.Range className="absolute h-full bg-tin-deep" />
        </Slider.Track>
        <Slider.Thumb className="block h-3.5 w-2 border border-ink bg-sheet" aria-label={`${p.label}, slider`} aria-valuetext={entry} />
      </Slider.Root>
    </div>
  );
}

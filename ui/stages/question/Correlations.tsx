"use client";

import { useFieldArray, useWatch } from "react-hook-form";
import type { ParameterSpec } from "@/core/problems/describe/problem";
import { QuestionEntry } from "./entries";
import type { QuestionEntries } from "./questionEntries";

/** Which conditions are uncertain together: two readings of one instrument go with each other. */
export function Correlations({ specs }: { specs: readonly ParameterSpec[] }) {
  const inputs: QuestionEntries["inputs"] = useWatch({ name: "inputs" });
  const { fields, append, remove } = useFieldArray<QuestionEntries, "correlations">({ name: "correlations" });
  const known = specs.filter((s) => inputs[s.key]?.uncertainty);
  if (known.length < 2 && !fields.length) return null;
  const choices = known.map((s) => [s.key, s.label] as const);
  return (
    <div className="mt-3 border-line border-t pt-2">
      <p className="text-[12px] text-ink-2">
        Conditions that are uncertain together, such as two readings of one instrument. 1 where they go fully with each other, −1 fully against.
      </p>
      {fields.map((f, k) => (
        <div key={f.id} className="mt-2 grid max-w-[720px] grid-cols-[1fr_1fr_0.6fr_auto] items-end gap-2">
          <QuestionEntry name={`correlations.${k}.a`} label="Condition" choices={choices} />
          <QuestionEntry name={`correlations.${k}.b`} label="goes with" choices={choices} />
          <QuestionEntry name={`correlations.${k}.coefficient`} mistake={`correlation-${k}`} label="Correlation" placeholder="-1 to 1" />
          <button type="button" className="btn quiet small" onClick={() => remove(k)} aria-label={`Take off correlation ${k + 1}`}>
            Take off
          </button>
        </div>
      ))}
      <button
        type="button"
        className="btn quiet small mt-2"
        disabled={known.length < 2}
        onClick={() => append({ a: known[0].key, b: known[1].key, coefficient: "" })}
      >
        Add a correlation
      </button>
    </div>
  );
}

"use client";

import { useWatch } from "react-hook-form";
import type { ParameterSpec } from "@/core/problems/describe/problem";
import type { QuestionView } from "../../view";
import { Correlations } from "./Correlations";
import { QuestionEntry } from "./entries";
import type { QuestionEntries } from "./questionEntries";

/** How well the conditions are known, and what each quantity makes of it: the source "inputs" of the rule. */
export function InputUncertainties({ view, specs }: { view: QuestionView; specs: readonly ParameterSpec[] }) {
  const inputs: QuestionEntries["inputs"] = useWatch({ name: "inputs" });
  const { quantities } = view.evidence;
  const derived = new Set(view.setup.derived?.map((d) => d.key));
  const rows = specs.filter((s) => !s.choices);
  const filled = rows.filter((s) => inputs[s.key]?.uncertainty).length;
  return (
    <details className="col-span-2 border-line border-t pt-2" open={filled > 0 || undefined}>
      <summary className="cursor-pointer font-[620] text-[13px]">
        How well the conditions are known <span className="font-normal text-ink-3">({filled ? `${filled} typed` : "nothing yet"}; 95 %)</span>
      </summary>
      <p className="mt-1 max-w-[80ch] text-[12px] text-ink-2">
        A sensitivity is the percent by which a quantity changes when the condition changes by one percent: 2 for a drag that goes with the square of
        the velocity, 0 where it does not answer. Empty ones are worked out from a formula or a sweep where there is one.
      </p>
      <div
        className="mt-2 grid gap-2 overflow-x-auto pb-2"
        style={{ gridTemplateColumns: `minmax(150px,1.2fr) repeat(${quantities.length}, minmax(110px,1fr))` }}
      >
        {rows.map((s) => (
          <div key={s.key} className="contents">
            <QuestionEntry
              name={`inputs.${s.key}.uncertainty`}
              mistake={`input-${s.key}`}
              label={`${s.label}, ±`}
              placeholder={`1 % or a value in ${s.unit || "1"}`}
            />
            {quantities.map((q) => (
              <QuestionEntry
                key={q.key}
                name={`inputs.${s.key}.sensitivities.${q.key}`}
                mistake={`sensitivity-${s.key}-${q.key}`}
                label={`${q.name} per ${s.label.toLowerCase()}`}
                placeholder={derived.has(q.key) ? "by its formula" : "not known"}
              />
            ))}
          </div>
        ))}
      </div>
      <Correlations specs={rows} />
    </details>
  );
}

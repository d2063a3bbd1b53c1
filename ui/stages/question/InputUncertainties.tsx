"use client";

import type { ParameterSpec } from "@/core/problems/describe/problem";
import { Field } from "../../forms/Field";
import type { CaseView } from "../../view";

export type InputTexts = Readonly<Record<string, { readonly uncertainty: string; readonly sensitivities: Readonly<Record<string, string>> }>>;

/** How well the conditions are known, and what each quantity makes of it: the source "inputs" of the rule. */
export function InputUncertainties(p: {
  view: CaseView;
  specs: readonly ParameterSpec[];
  inputs: InputTexts;
  onInputs: (next: InputTexts) => void;
  mistakes: Readonly<Record<string, string>>;
}) {
  const quantities = p.view.evidence.quantities;
  const derived = new Set(p.view.setup.derived?.map((d) => d.key));
  const rows = p.specs.filter((s) => !s.choices);
  const filled = rows.filter((s) => p.inputs[s.key]?.uncertainty).length;
  const set = (key: string, change: Partial<InputTexts[string]>) => p.onInputs({ ...p.inputs, [key]: { ...p.inputs[key], ...change } });
  return (
    <details className="col-span-2 border-line border-t pt-2" open={filled > 0 || undefined}>
      <summary className="cursor-pointer font-[620] text-[13px]">
        How well the conditions are known <span className="font-normal text-ink-3">({filled ? `${filled} typed` : "nothing yet"}; 95 %)</span>
      </summary>
      <p className="mt-1 max-w-[80ch] text-[12px] text-ink-2">
        A sensitivity is the percent by which a quantity changes when the condition changes by one percent: 2 for a drag that goes with the square of
        the velocity, 0 where it does not answer. Empty ones are worked out from a formula or a sweep where there is one.
      </p>
      <div className="mt-2 grid gap-2" style={{ gridTemplateColumns: `minmax(150px,1.2fr) repeat(${quantities.length}, minmax(110px,1fr))` }}>
        {rows.map((s) => (
          <div key={s.key} className="contents">
            <Field
              label={`${s.label}, ±`}
              value={p.inputs[s.key]?.uncertainty ?? ""}
              placeholder={`1 % or a value in ${s.unit || "1"}`}
              mistake={p.mistakes[`input-${s.key}`]}
              onChange={(uncertainty) => set(s.key, { uncertainty })}
            />
            {quantities.map((q) => (
              <Field
                key={q.key}
                label={`${q.name} per ${s.label.toLowerCase()}`}
                value={p.inputs[s.key]?.sensitivities[q.key] ?? ""}
                placeholder={derived.has(q.key) ? "by its formula" : "not known"}
                mistake={p.mistakes[`sensitivity-${s.key}-${q.key}`]}
                onChange={(text) => set(s.key, { sensitivities: { ...p.inputs[s.key]?.sensitivities, [q.key]: text } })}
              />
            ))}
          </div>
        ))}
      </div>
    </details>
  );
}

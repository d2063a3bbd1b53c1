"use client";

import { useWatch } from "react-hook-form";
import { FACT_GROUPS, FACTS } from "@/core/method/setup/facts";
import { QuestionEntry } from "./entries";
import type { QuestionEntries } from "./questionEntries";

/** What else is known of the set-up: each entry lets the rules check more; empty ones are simply not checked. */
export function SetupFacts() {
  const facts: QuestionEntries["facts"] = useWatch({ name: "facts" });
  const filled = FACTS.filter((f) => facts[f.key]).length;
  return (
    <details className="col-span-2 border-line border-t pt-2" open={filled > 0 || undefined}>
      <summary className="cursor-pointer font-[620] text-[13px]">
        What else is known of the set-up{" "}
        <span className="font-normal text-ink-3">({filled ? `${filled} entries` : "nothing yet"}; each lets more be checked)</span>
      </summary>
      <div className="mt-2 space-y-3">
        {FACT_GROUPS.map((group) => (
          <fieldset key={group}>
            <legend className="mb-1 text-[12px] font-[600] text-ink-2">{group}</legend>
            <div className="grid grid-cols-4 gap-2">
              {FACTS.filter((f) => f.group === group).map((f) => (
                <QuestionEntry
                  key={f.key}
                  name={`facts.${f.key}`}
                  mistake={`fact-${f.key}`}
                  label={f.label}
                  help={f.help}
                  placeholder={f.unit}
                  choices={f.choices ? [["", "not known"], ...f.choices.map(([v, name]) => [String(v), name] as const)] : undefined}
                />
              ))}
            </div>
          </fieldset>
        ))}
      </div>
    </details>
  );
}

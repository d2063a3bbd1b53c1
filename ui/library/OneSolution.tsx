"use client";

import { useState } from "react";
import type { Explored } from "@/core/exact/explore";
import { asGiven, percent, unitText } from "@/core/formatting/number";
import { useAnswer } from "../engine/useAnswer";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { DataTable } from "../tables/DataTable";
import { askLibrary } from "./askLibrary";
import type { Shown } from "./asks";
import { Curves } from "./Curves";
import { entriesOf } from "./entriesOf";
import { ParameterRow } from "./ParameterRow";
import { type CaseAsking, TakeAsYardstick } from "./TakeAsYardstick";

const NATURES: Readonly<Record<Shown["nature"], string>> = {
  exact: "exact",
  similarity: "exact up to an ordinary differential equation, solved here to ten digits or more",
  series: "exact, summed from a series",
  asymptotic: "first members of an expansion",
  correlation: "fitted to measurements",
};

/** A solution: formulas, source, parameters, range, figures and curves. */
export function OneSolution({
  shown,
  followed,
  asking,
}: {
  shown: Shown;
  followed: Readonly<Record<string, number>>;
  asking: CaseAsking | undefined;
}) {
  const [entries, setEntries] = useState(() => entriesOf(shown.parameters, followed));
  const [own, setOwn] = useState<readonly string[]>([]);
  const { value: found, mistake } = useAnswer(() => askLibrary("explore", { id: shown.id, typed: entries }), [shown.id, entries]);
  const put = (key: string) => (entry: string) => {
    setEntries({ ...entries, [key]: entry });
    // What a person sets no longer follows the case.
    if (!own.includes(key)) setOwn([...own, key]);
  };
  const ofCase = Object.keys(followed).filter((key) => !own.includes(key));
  const ok = found?.ok ? found : undefined;
  const mistakes: Readonly<Record<string, string>> = found && !found.ok ? found.mistakes : {};
  return (
    <article aria-label={shown.name} className="min-w-0">
      <h2 className="text-[15px]!">{shown.name}</h2>
      <p className="text-[12px] text-ink-3">
        {shown.subject}; {NATURES[shown.nature]}
        {shown.uncertainty > 0 ? `, ± ${percent(shown.uncertainty)} at 95 % (${shown.uncertaintyNote})` : ""}. {shown.source}.
      </p>
      <div className="my-2 overflow-x-auto border-line border-y bg-plot py-1 text-[13px]">
        {shown.formulas.map((f) => (
          <div key={f} className="[&_.katex-display]:my-1" dangerouslySetInnerHTML={{ __html: f }} />
        ))}
      </div>
      <div className="grid grid-cols-[300px_minmax(0,1fr)] gap-6">
        <section aria-label="Parameters" className="space-y-2">
          {shown.parameters.map((p, i) => (
            <ParameterRow
              key={p.key}
              p={p}
              symbol={shown.symbols[i]}
              entry={entries[p.key]}
              value={ok?.parameters[p.key]}
              mistake={mistakes[p.key]}
              ofCase={ofCase.includes(p.key)}
              put={put(p.key)}
            />
          ))}
          <button
            type="button"
            className="link text-[12px]"
            onClick={() => {
              setEntries(entriesOf(shown.parameters, followed));
              setOwn([]);
            }}
          >
            Back to {Object.keys(followed).length ? "the case's conditions" : "the presets"}
          </button>
        </section>
        <div className="min-w-0 space-y-4">
          <Range found={found} mistake={mistake} />
          {ok ? <Curves key={shown.id} curves={ok.curves} label={`${shown.name} ${captionOf(shown, entries)}`} /> : null}
          {ok ? <Figures found={ok} name={shown.name} /> : null}
          {ok && asking ? <TakeAsYardstick shown={shown} found={ok} entries={entries} followed={ofCase} asking={asking} /> : null}
        </div>
      </div>
    </article>
  );
}

/** What tells curves of one solution apart: the parameters that were not left at their presets, the first two of them. */
function captionOf(shown: Shown, entries: Readonly<Record<string, string>>): string {
  const preset = entriesOf(shown.parameters);
  return shown.parameters
    .filter((p) => entries[p.key] !== preset[p.key])
    .slice(0, 2)
    .map((p) => `${p.label.toLowerCase()} ${p.choices?.find(([v]) => v === Number(entries[p.key]))?.[1] ?? entries[p.key]}`)
    .join(", ");
}

/** Whether it holds at what was typed, and why not. */
function Range({ found, mistake }: { found: Explored | undefined; mistake: string | undefined }) {
  if (mistake || (found && !found.ok)) return <p className="mistake">{mistake ?? (found && !found.ok ? found.sentence : "")}</p>;
  if (!found?.ok) return <p className="text-[12px] text-ink-3">Working it out …</p>;
  return (
    <ul className="text-[12.5px]">
      {found.range.map((r) => (
        <li key={r.sentence} className="flex items-center gap-2">
          <StateMark state={r.inside ? "holds" : "fails"} /> {r.sentence}
        </li>
      ))}
    </ul>
  );
}

function Figures({ found, name }: { found: Explored & { ok: true }; name: string }) {
  return (
    <section aria-label="Figures">
      <div className="flex justify-end">
        <CsvButton
          name={name}
          header={["figure", "value", "unit", "uncertainty at 95 %, fraction"]}
          rows={found.values.map((v) => [v.name, v.value, v.unit || "1", v.uncertainty])}
        />
      </div>
      <DataTable
        className="tight"
        rows={found.values}
        rowKey={(v) => v.key}
        columns={[
          { header: "Figure", words: true, cell: (v) => v.name },
          { header: "Value", cell: (v) => asGiven(v.value, v.uncertainty > 0 ? 4 : 10) },
          { header: "Unit", words: true, cell: (v) => unitText(v.unit) },
          { header: "Uncertainty, 95 %", cell: (v) => (v.uncertainty > 0 ? percent(v.uncertainty) : "exact") },
        ]}
      />
    </section>
  );
}

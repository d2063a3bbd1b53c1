"use client";

import { useState } from "react";
import { differenceSentences } from "@/core/assessment/refinement/fieldWords";
import type { TransferWay } from "@/core/dataset/ways";
import { fieldName, fluidOfRun } from "@/core/monitors/fieldNames";
import { codeWords } from "@/core/records/build";
import type { Answer } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import type { StudiedField } from "../../engine/fieldStudyAsks";
import { useFieldStudy } from "../../engine/useFieldStudy";
import { Field } from "../../forms/Field";
import { CsvButton } from "../../tables/CsvButton";
import type { ComparisonView } from "../../view";
import { LinkedViews } from "../refinement/fields/LinkedViews";

type WithFields = Answer<"GET /cases/{id}/fields">[number];

/** Whole fields of any two runs against each other: two codes, two meshes, before and after a change. */
export function BetweenFields({ view }: { view: ComparisonView }) {
  const { data } = useAsked("GET /cases/{id}/fields", { at: { id: view.id } }, view.version);
  return data && data.length > 1 ? <Between view={view} runs={data} /> : null;
}

const named = (r: WithFields) => `${r.label}, ${codeWords(r.code)}`;

function Between({ view, runs }: { view: ComparisonView; runs: readonly WithFields[] }) {
  // Two codes are what one wants to see first, the last run of each.
  const last = runs[runs.length - 1];
  const other = [...runs].reverse().find((r) => r.code !== last.code) ?? runs[runs.length - 2];
  const [first, setFirst] = useState(other.runId);
  const [second, setSecond] = useState(last.runId);
  const [onto, setOnto] = useState("0");
  const [way, setWay] = useState<TransferWay>("averages");
  const [a, b] = [first, second].map((id) => runs.find((r) => r.runId === id));
  const shared = (a?.fields ?? []).filter((f) => b?.fields.includes(f));
  const choices = [...(shared.includes("u") && shared.includes("v") ? ["speed", "vorticity"] : []), ...shared];
  const [wanted, setField] = useState("");
  const field = choices.includes(wanted) ? wanted : (choices[0] ?? "");
  const { under, studied, mistake, start, stop } = useFieldStudy();
  const go = () => {
    if (!a || !b) return;
    start({
      runs: [a, b].map((r) => ({ runId: r.runId, label: named(r), spacing: r.spacing })),
      field,
      onto: Number(onto),
      way,
      formalOrder: view.evidence.formalOrder,
      fluid: fluidOfRun(view.setup.parameters),
      difference: true,
    });
  };
  const run = (label: string, value: string, choose: (v: string) => void) => (
    <Field label={label} value={value} onChange={choose} choices={runs.map((r) => [r.runId, named(r)] as const)} />
  );
  return (
    <section className="mt-6" aria-label="Fields of two runs">
      <h2>Fields of two runs</h2>
      <div className="no-print mt-2 grid max-w-[980px] grid-cols-[1.4fr_1.4fr_1fr_1.2fr_1.2fr_auto] items-end gap-3">
        {run("Held against", first, setFirst)}
        {run("The other", second, setSecond)}
        <Field label="Field" value={field} onChange={setField} choices={choices.map((k) => [k, fieldName(k)] as const)} />
        <Field label="On the mesh of" value={onto} onChange={setOnto} choices={[a, b].map((r, k) => [String(k), r ? r.label : "–"] as const)} />
        <Field
          label="As"
          value={way}
          onChange={setWay}
          choices={[
            ["averages", "averages over its cells"],
            ["points", "values at its cells’ middles"],
          ]}
        />
        <button type="button" className="btn" disabled={first === second || !field || under !== undefined} onClick={go}>
          Compare them
        </button>
      </div>
      {first === second ? <p className="mt-1 text-[12px] text-ink-2">Choose two different runs.</p> : null}
      {!field ? <p className="mt-1 text-[12px] text-ink-2">They have no field in common.</p> : null}
      {under ? (
        <div className="mt-2 flex items-center gap-3 text-[12.5px]" aria-live="polite">
          <progress className="w-40" value={under.share} max={1} aria-label="Comparing the fields" />
          <span>{under.what}</span>
          <button type="button" className="btn quiet small" onClick={stop}>
            Stop
          </button>
        </div>
      ) : null}
      {mistake ? (
        <p className="mistake mt-2" role="alert">
          {mistake}
        </p>
      ) : null}
      {studied ? <Found studied={studied} /> : null}
    </section>
  );
}

function Found({ studied }: { studied: StudiedField }) {
  const { wish, study, mesh, name, unit } = studied;
  const labels = [wish.runs[0].label, wish.runs[1].label] as const;
  const rows = () =>
    Array.from({ length: mesh.cellCount }, (_, c) => [
      mesh.centroidM[2 * c],
      mesh.centroidM[2 * c + 1],
      study.values[0][c],
      study.values[1][c],
      study.values[1][c] - study.values[0][c],
    ]);
  return (
    <>
      <div className="mt-2 max-w-[86ch] text-[13px]" role="status">
        {differenceSentences(study, { unit, labels, name }).map((s) => (
          <p key={s}>{s}</p>
        ))}
      </div>
      <LinkedViews key={`${wish.field} ${wish.onto} ${wish.way} ${labels.join()}`} studied={studied} />
      <p className="mt-1 flex gap-3 text-[11.5px] text-ink-3">
        Every cell as a table:{" "}
        <CsvButton
          name={`difference-${wish.field}`}
          header={["x, m", "y, m", `${name} of ${labels[0]}, ${unit}`, `${name} of ${labels[1]}, ${unit}`, `difference, ${unit}`]}
          rows={rows}
        />
      </p>
    </>
  );
}

"use client";

import { useState } from "react";
import { significant, typedNumber } from "@/core/formatting/number";
import { described } from "@/core/problems/describe/catalogue";
import type { LiveRun } from "../../api/useRunEvents";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { Field } from "../../forms/Field";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import type { CaseView, SweepView } from "../../view";
import { RunControls } from "./RunControls";

/** Small first letter within a sentence, but for names such as Reynolds. */
const lower = (label: string) => (/^(Reynolds|Rayleigh|Mach|Prandtl|Peclet)/.test(label) ? label : label[0].toLowerCase() + label.slice(1));

const split = (text: string) =>
  text
    .split(/[;\n]|,\s/)
    .map((t) => t.trim())
    .filter(Boolean);

/** One or two parameters, their values, and the mesh all runs share. */
export function PlanSweep({ view, done }: { view: CaseView; done: () => void }) {
  const { save, busy, mistakes } = useSave();
  const own = useFocusOnOpen<HTMLElement>();
  const problem = described(view.setup.problemId ?? "");
  const axes = [
    ...(problem.similarity ?? []).map((s) => [s.key, s.label] as const),
    ...problem.parameters.filter((s) => !s.choices).map((s) => [s.key, s.label] as const),
  ];
  const first = problem.similarity?.[0];
  const preset = first ? [0.5, 1, 2].map((k) => significant(k * first.preset, 3)).join("; ") : "";
  const [f, setF] = useState({
    key: axes[0][0] as string,
    values: preset,
    second: "",
    secondValues: "",
    nx: String(problem.family.baseNx),
    ny: String(problem.family.baseNy),
  });
  const put = (key: keyof typeof f) => (v: string) => setF({ ...f, [key]: v });
  const count = split(f.values).length * (f.second ? split(f.secondValues).length : 1);
  const start = async () => {
    const body = {
      axes: [{ key: f.key, values: split(f.values) }, ...(f.second ? [{ key: f.second, values: split(f.secondValues) }] : [])],
      nx: Number(f.nx),
      ny: Number(f.ny),
    };
    if (await save("POST /cases/{id}/sweeps", { at: { id: view.id }, input: body }, `${count} runs wait in the queue.`)) done();
  };
  return (
    <section ref={own} className="my-3 border border-line bg-margin p-3" aria-label="Plan a sweep">
      <h2>Sweep: the same case at several values</h2>
      <p className="text-[12px] text-ink-3">The runs are shown in a table of their own; they are no evidence for the case as it is set up.</p>
      <div className="mt-2 grid grid-cols-[1.2fr_2fr_0.6fr_0.6fr] gap-2">
        <Field label="Parameter" value={f.key} onChange={put("key")} choices={axes} />
        <Field label="Values, parted by semicolons" value={f.values} onChange={put("values")} mistake={mistakes["axis-0"]} />
        <Field label={problem.counts?.nx ?? "Cells along x"} value={f.nx} onChange={put("nx")} />
        <Field label={problem.counts?.ny ?? "along y"} value={f.ny} onChange={put("ny")} />
        <Field
          label="Second parameter"
          value={f.second}
          onChange={put("second")}
          choices={[["", "none"] as const, ...axes.filter(([k]) => k !== f.key)]}
        />
        {f.second ? <Field label="Its values" value={f.secondValues} onChange={put("secondValues")} mistake={mistakes["axis-1"]} /> : null}
      </div>
      <button type="button" className="btn mt-3" disabled={busy || count < 2} onClick={start}>
        Run {count} cases
      </button>
    </section>
  );
}

/** A sweep's table, which fills as results come. */
export function SweepTable(p: {
  view: CaseView;
  sweep: SweepView;
  live: Readonly<Record<string, LiveRun>>;
  watched?: string;
  choose: (id: string) => void;
}) {
  const { view, sweep } = p;
  const { save } = useSave();
  const problem = described(view.setup.problemId ?? "");
  const quantities = view.evidence.quantities.slice(0, 5);
  const done = sweep.runs.filter((r) => r.result).length;
  const at = (run: SweepView["runs"][number], key: string) => {
    const number = problem.similarity?.find((s) => s.key === key);
    return number ? undefined : run.settings.parameters[key];
  };
  const second = sweep.axes[1]?.values.length ?? 1;
  const axisValue = (i: number, k: number) => (k === 0 ? sweep.axes[0].values[Math.floor(i / second)] : sweep.axes[1].values[i % second]);
  const header = [...sweep.axes.map((a) => `${a.label}${a.unit ? `, ${a.unit}` : ""}`), ...quantities.map((q) => q.symbol)];
  const rows = sweep.runs.map((r, i) => [
    ...sweep.axes.map((a, k) => at(r, a.key) ?? axisValue(i, k)),
    ...quantities.map((q) => r.result?.quantities[q.key] ?? ""),
  ]);
  return (
    <section className="mt-4" aria-label={`Sweep over ${sweep.label}`} data-testid="sweep">
      <div className="flex items-baseline gap-3">
        <h2>
          Sweep over {lower(sweep.label)}{" "}
          <span className="text-[11.5px] font-normal text-ink-3">
            {done} of {sweep.runs.length} done
          </span>
        </h2>
        <CsvButton name="sweep" header={header} rows={rows} />
        <ConfirmButton
          className="link text-[11.5px] text-ink-3"
          label="Delete this sweep"
          question="Delete this sweep and its runs?"
          text="Runs under way are stopped first."
          action="Delete sweep"
          onConfirm={() => void save("DELETE /sweeps/{id}", { at: { id: sweep.id } }, "The sweep was deleted.")}
        >
          Delete
        </ConfirmButton>
      </div>
      <table className="mt-1">
        <thead>
          <tr>
            {header.map((h) => (
              <th key={h}>{h}</th>
            ))}
            <th className="w">State</th>
            <th className="w">
              <span className="sr-only">Acts</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {sweep.runs.map((r, i) => (
            <tr key={r.id} className={r.id === p.watched ? "bg-margin" : ""}>
              {sweep.axes.map((a, k) => (
                <td key={a.key}>
                  {k === 0 ? (
                    <button type="button" className="link font-mono" onClick={() => p.choose(r.id)} aria-pressed={r.id === p.watched}>
                      {typedNumber(axisValue(i, k))}
                    </button>
                  ) : (
                    typedNumber(axisValue(i, k))
                  )}
                </td>
              ))}
              {quantities.map((q) => (
                <td key={q.key}>{r.result?.quantities[q.key] === undefined ? "" : significant(r.result.quantities[q.key], 5)}</td>
              ))}
              <td className="w" title={r.failure ?? undefined}>
                {r.state === "waiting" ? "waits" : r.state}
                {r.state === "running" && p.live[r.id]?.rows.length ? `, ${p.live[r.id].rows.length}` : ""}
              </td>
              <td className="w">{["running", "waiting", "paused"].includes(r.state) ? <RunControls run={r} /> : null}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

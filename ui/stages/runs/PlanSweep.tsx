"use client";

import { FormProvider, useWatch } from "react-hook-form";
import { significant } from "@/core/formatting/number";
import { described } from "@/core/problems/describe/catalogue";
import type { ProblemDescription } from "@/core/problems/describe/problem";
import { entryOf, useEntries } from "../../forms/entries";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { RunsView } from "../../view";

interface SweepEntries {
  readonly key: string;
  readonly values: string;
  readonly second: string;
  readonly secondValues: string;
  readonly nx: string;
  readonly ny: string;
}

const Entry = entryOf<SweepEntries>();

const split = (text: string) =>
  text
    .split(/[;\n]|,\s/)
    .map((t) => t.trim())
    .filter(Boolean);

/** The axes that were typed: one, or two. */
const axesOf = (f: SweepEntries) => [
  { key: f.key, values: split(f.values) },
  ...(f.second ? [{ key: f.second, values: split(f.secondValues) }] : []),
];

const countOf = (f: SweepEntries) => axesOf(f).reduce((n, a) => n * a.values.length, 1);

/** What can be swept: the problem's similarity numbers, then its parameters. */
const sweepable = (problem: ProblemDescription) => [
  ...(problem.similarity ?? []).map((s) => [s.key, s.label] as const),
  ...problem.parameters.filter((s) => !s.choices).map((s) => [s.key, s.label] as const),
];

function startEntries(problem: ProblemDescription): SweepEntries {
  const first = problem.similarity?.[0];
  return {
    key: sweepable(problem)[0][0],
    values: first ? [0.5, 1, 2].map((k) => significant(k * first.preset, 3)).join("; ") : "",
    second: "",
    secondValues: "",
    nx: String(problem.family.baseNx),
    ny: String(problem.family.baseNy),
  };
}

/** One or two parameters, their values, and the mesh all runs share. */
export function PlanSweep({ view, done }: { view: RunsView; done: () => void }) {
  const problem = described(view.setup.problemId ?? "");
  const { form, save, busy } = useEntries<SweepEntries>(startEntries(problem));
  const own = useFocusOnOpen<HTMLElement>();
  const start = async () => {
    const typed = form.getValues();
    const input = { axes: axesOf(typed), nx: Number(typed.nx), ny: Number(typed.ny) };
    if (await save("POST /cases/{id}/sweeps", { at: { id: view.id }, input }, `${countOf(typed)} runs wait in the queue.`)) done();
  };
  return (
    <FormProvider {...form}>
      <section ref={own} className="my-3 border border-line bg-margin p-3" aria-label="Plan a sweep">
        <h2>Sweep: the same case at several values</h2>
        <p className="text-[12px] text-ink-3">The runs are shown in a table of their own; they are no evidence for the case as it is set up.</p>
        <SweepFields problem={problem} />
        <Start busy={busy} start={start} />
      </section>
    </FormProvider>
  );
}

function SweepFields({ problem }: { problem: ProblemDescription }) {
  const [key, second] = useWatch<SweepEntries, ["key", "second"]>({ name: ["key", "second"] });
  const axes = sweepable(problem);
  return (
    <div className="mt-2 grid grid-cols-[1.2fr_2fr_0.6fr_0.6fr] gap-2">
      <Entry name="key" label="Parameter" choices={axes} />
      <Entry name="values" mistake="axis-0" label="Values, parted by semicolons" />
      <Entry name="nx" label={problem.counts?.nx ?? "Cells along x"} />
      <Entry name="ny" label={problem.counts?.ny ?? "along y"} />
      <Entry name="second" label="Second parameter" choices={[["", "none"] as const, ...axes.filter(([k]) => k !== key)]} />
      {second ? <Entry name="secondValues" mistake="axis-1" label="Its values" /> : null}
    </div>
  );
}

function Start({ busy, start }: { busy: boolean; start: () => void }) {
  const count = countOf(useWatch() as SweepEntries);
  return (
    <button type="button" className="btn mt-3" disabled={busy || count < 2} onClick={start}>
      Run {count} cases
    </button>
  );
}

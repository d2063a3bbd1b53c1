"use client";

import Link from "next/link";
import { FormProvider, useWatch } from "react-hook-form";
import { MEANS_WORDS } from "@/core/assessment/budget/sources/inputs";
import { tornado } from "@/core/drawing/tornado";
import { percent, significant } from "@/core/formatting/number";
import { described } from "@/core/problems/describe/catalogue";
import { Drawing } from "../../charts/Drawing";
import { entryOf, useEntries } from "../../forms/entries";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable } from "../../tables/DataTable";
import type { QuestionView } from "../../view";

type Found = QuestionView["assessment"]["inputs"][number];
type Share = Found["shares"][number];

/** What the uncertainties of the conditions make of the chosen quantity, and the runs that tell it; there once an uncertainty was saved. */
export function InputAnswers({ view }: { view: QuestionView }) {
  const found = view.assessment.inputs.find((i) => i.quantityKey === view.quantityKey) ?? view.assessment.inputs[0];
  const quantity = view.evidence.quantities.find((q) => q.key === found?.quantityKey);
  if (!found || !quantity) return null;
  const svg = tornado(found, quantity.name);
  return (
    <section className="mt-6 border-line border-t pt-3" aria-label="What the conditions make of it">
      <div className="flex items-baseline gap-3">
        <h2>What the conditions make of {quantity.name}</h2>
        <CsvButton name={`inputs of ${quantity.symbol}`} header={CSV_HEAD} rows={found.shares.map((s) => csvRow(view, s))} />
      </div>
      <p className="mt-1 max-w-[90ch] text-[12.5px] text-ink-2" data-testid="inputs-together">
        {together(found, quantity.name)}{" "}
        <Link className="link text-[11.5px]" href="/method#input-uncertainty">
          rule: input-uncertainty
        </Link>
      </p>
      <DataTable className="mt-2" rows={found.shares} rowKey={(s) => s.key} columns={columnsOf(view)} />
      {svg ? (
        <div className="mt-7">
          <Drawing svg={svg} name={`What the conditions make of ${quantity.name}`} />
        </div>
      ) : null}
      {view.setup.problemId === null ? null : <InputRuns view={view} />}
    </section>
  );
}

function together({ relative, largest, shares }: Found, name: string): string {
  const unknown = shares.filter((s) => s.relative === undefined).map((s) => s.label.toLowerCase());
  if (relative === undefined) return `How ${name} answers to ${unknown.join(", ")} is not known yet: type it above, or let runs tell.`;
  const most = shares.find((s) => s.key === largest);
  const uneven = shares.filter((s) => s.uneven).map((s) => s.label.toLowerCase());
  return [
    `Together ±${percent(relative)} at 95 %, to first order.`,
    ...(most ? [`${most.label} makes most of it, ±${percent(most.relative ?? 0)}.`] : []),
    ...(uneven.length
      ? [`The answer to ${uneven.join(", ")} differs by more than a fifth between a step down and a step up: the first order is not enough there.`]
      : []),
  ].join(" ");
}

const CSV_HEAD = [
  "condition",
  "value, SI",
  "95 %, SI",
  "sensitivity",
  "how it was found",
  "standard error",
  "fraction of the quantity, 95 %",
  "part of the square",
];

const inputOf = (view: QuestionView, key: string) => view.evidence.inputs?.find((i) => i.key === key);
const howOf = ({ sensitivity: s }: Share) => (s ? MEANS_WORDS[s.by] : "not known");
const standardOf = ({ sensitivity: s }: Share) => (s && "standard" in s ? s.standard : undefined);

function csvRow(view: QuestionView, s: Share): (string | number)[] {
  const input = inputOf(view, s.key);
  return [
    s.label,
    input?.value ?? "",
    input?.uncertainty ?? "",
    s.sensitivity?.value ?? "",
    howOf(s),
    standardOf(s) ?? "",
    s.relative ?? "",
    s.part ?? "",
  ];
}

const columnsOf = (view: QuestionView): Column<Share>[] => [
  { header: "Condition", words: true, cell: (s) => s.label },
  { header: "known within", cell: (s) => within(view, s.key) },
  { header: "sensitivity", cell: (s) => (s.sensitivity ? significant(s.sensitivity.value, 3) : "") },
  {
    header: "found",
    words: true,
    title: sidesOf,
    cell: (s) => {
      const standard = standardOf(s);
      return `${howOf(s)}${standard === undefined ? "" : `, standard error ${significant(standard, 2)}`}${s.uneven ? ", uneven" : ""}`;
    },
  },
  { header: "makes of it", cell: (s) => (s.relative === undefined ? "" : `±${percent(s.relative)}`) },
  { header: "part", cell: (s) => (s.part === undefined ? "" : percent(s.part)) },
];

function within(view: QuestionView, key: string): string {
  const input = inputOf(view, key);
  return input ? `±${percent(Math.abs(input.uncertainty / input.value))}` : "";
}

function sidesOf({ sensitivity: s }: Share): string | undefined {
  if (!s || !("sides" in s) || !s.sides) return undefined;
  const [down, up] = s.sides.map((v) => significant(v, 3));
  return `${down} to the step down, ${up} to the step up`;
}

interface RunsEntries {
  readonly way: string;
  readonly count: string;
  readonly seed: string;
  readonly nx: string;
  readonly ny: string;
}

const Entry = entryOf<RunsEntries>();
const WAYS = [
  ["differences", "central differences"],
  ["sample", "a sample (Latin hypercube)"],
] as const;

/** Plans the runs that tell what every quantity answers to, over the uncertainties that were saved. */
function InputRuns({ view }: { view: QuestionView }) {
  const { problemId } = view.setup;
  const { family, counts } = described(problemId ?? "");
  const start: RunsEntries = { way: "differences", count: "20", seed: "1", nx: String(family.baseNx), ny: String(family.baseNy) };
  const { form, save, busy } = useEntries<RunsEntries>(start);
  const inputs = view.evidence.inputs?.filter((i) => i.uncertainty > 0).length ?? 0;
  const [way, count] = useWatch({ control: form.control, name: ["way", "count"] });
  const runs = way === "sample" ? Number(count) : 2 * inputs + 1;
  const go = () => {
    const typed = form.getValues();
    const input = {
      way: typed.way as "differences" | "sample",
      count: Number(typed.count),
      seed: Number(typed.seed),
      nx: Number(typed.nx),
      ny: Number(typed.ny),
    };
    void save("POST /cases/{id}/input-runs", { at: { id: view.id }, input }, `${runs} runs wait in the queue; the page Runs shows them.`);
  };
  return (
    <FormProvider {...form}>
      <h3 className="mt-4">Let runs tell</h3>
      <p className="max-w-[90ch] text-[12px] text-ink-3">
        Central differences: every condition a step down and a step up, each as far as it is uncertain. A sample: all conditions at once, drawn as
        they are uncertain, one from each of as many equally likely strata. All runs are made on one mesh, and count as long as the set-up stays as it
        is.
      </p>
      <div className="mt-2 grid max-w-[860px] grid-cols-[1.4fr_0.7fr_0.7fr_0.7fr_0.7fr_auto] items-end gap-2">
        <Entry name="way" label="Way" choices={WAYS} />
        {way === "sample" ? <Entry name="count" label="Runs" /> : <span />}
        {way === "sample" ? <Entry name="seed" label="Seed" /> : <span />}
        <Entry name="nx" label={counts?.nx ?? "Cells along x"} />
        <Entry name="ny" label={counts?.ny ?? "along y"} />
        <button type="button" className="btn" disabled={busy || !inputs || !(runs > 1)} onClick={go}>
          Run {runs > 1 ? runs : ""} cases
        </button>
      </div>
    </FormProvider>
  );
}

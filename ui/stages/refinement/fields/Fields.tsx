"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { fieldSentences } from "@/core/assessment/refinement/fieldWords";
import type { TransferWay } from "@/core/dataset/ways";
import { significant, unitText } from "@/core/formatting/number";
import { fieldName, fluidOfRun } from "@/core/monitors/fieldNames";
import { described } from "@/core/problems/describe/catalogue";
import { useAsked } from "../../../api/useAsked";
import type { StudiedField } from "../../../engine/fieldStudyAsks";
import { useFieldStudy } from "../../../engine/useFieldStudy";
import { CsvButton } from "../../../tables/CsvButton";
import { type Column, DataTable } from "../../../tables/DataTable";
import type { RefinementView } from "../../../view";

/** Pictures are fetched once there is something to show. */
const LinkedViews = dynamic(() => import("./LinkedViews").then((m) => m.LinkedViews), { ssr: false });

type Rung = RefinementView["assessment"]["refinement"][number]["rungs"][number];

/** more meshes than these say nothing new of the finest */
const MOST = 6;
/** meshes whose changes are judged: all is brought to the coarsest of them */
const FINEST = 3;

interface Props {
  readonly view: RefinementView;
  readonly rungs: readonly Rung[];
}

/** Whole fields of the family on one mesh: differences, local orders, and where the error of the finest sits. */
export function Fields({ view, rungs }: Props) {
  const runs = rungs.filter((g) => !g.leftOut).slice(0, MOST);
  const { data: list } = useAsked("GET /runs/{id}/fields", runs.length > 1 ? { at: { id: runs[0].runId } } : undefined);
  if (runs.length < 2 || !list?.length) return null;
  return <Study key={runs.map((r) => r.runId).join()} view={view} runs={runs} fields={list} />;
}

function Study({ view, runs, fields }: { view: RefinementView; runs: readonly Rung[]; fields: readonly { name: string; unit: string }[] }) {
  const names = fields.map((f) => f.name);
  const choices = [...(names.includes("u") && names.includes("v") ? ["speed", "vorticity"] : []), ...names];
  const [field, setField] = useState(choices[0]);
  const [onto, setOnto] = useState(Math.min(FINEST, runs.length) - 1);
  const [way, setWay] = useState<TransferWay>("averages");
  const { under, studied, mistake, start, stop } = useFieldStudy();
  const go = () =>
    start({
      runs: runs.map(({ runId, label, spacing }) => ({ runId, label, spacing })),
      field,
      onto,
      way,
      formalOrder: view.evidence.formalOrder,
      fluid: fluidOfRun(view.setup.parameters),
    });
  return (
    <section aria-label="Fields on one mesh">
      <h2 className="mt-5">Fields on one mesh</h2>
      <div className="no-print mt-2 flex flex-wrap items-end gap-3 text-[12.5px]">
        <Pick label="Field" value={field} choose={setField} choices={choices.map((k) => [k, fieldName(k)])} />
        <Pick label="Brought to" value={String(onto)} choose={(v) => setOnto(Number(v))} choices={runs.map((r, k) => [String(k), r.label])} />
        <Pick
          label="As"
          value={way}
          choose={(v) => setWay(v as TransferWay)}
          choices={[
            ["averages", "averages over its cells"],
            ["points", "values at its cells' middles"],
          ]}
        />
        {under ? (
          <>
            <progress className="w-40" value={under.share} max={1} aria-label="Comparing the fields" />
            <span>{under.what}</span>
            <button type="button" className="btn quiet small" onClick={stop}>
              Stop
            </button>
          </>
        ) : (
          <button type="button" className="btn" onClick={go}>
            Compare the fields
          </button>
        )}
      </div>
      {mistake ? (
        <p className="mistake mt-2" role="alert">
          {mistake}
        </p>
      ) : null}
      {studied ? <Found studied={studied} inTime={described(view.setup.problemId ?? "").physicsWords.time === "transient"} /> : null}
    </section>
  );
}

function Pick(p: { label: string; value: string; choose: (v: string) => void; choices: readonly (readonly [string, string])[] }) {
  return (
    <label className="grid gap-0.5">
      <span className="text-[11.5px] text-ink-2">{p.label}</span>
      <select className="field" aria-label={p.label} value={p.value} onChange={(e) => p.choose(e.target.value)}>
        {p.choices.map(([key, name]) => (
          <option key={key} value={key}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

function Found({ studied, inTime }: { studied: StudiedField; inTime: boolean }) {
  const { wish, study, mesh, name, unit } = studied;
  const labels = wish.runs.map((r) => r.label);
  const sentences = fieldSentences(study, { unit, formalOrder: wish.formalOrder, mesh: labels[study.onto], inTime });
  const columns = [
    ...study.values.map((v, k) => [`${name} on ${labels[k]}, ${unit}`, v] as const),
    ...(study.points ? ([["local order", study.points.order]] as const) : []),
    [`estimated error, ${unit}`, study.error] as const,
    ...(study.points ? ([[`uncertainty 95 %, ${unit}`, study.points.band]] as const) : []),
  ];
  const rows = () =>
    Array.from({ length: mesh.cellCount }, (_, c) => [mesh.centroidM[2 * c], mesh.centroidM[2 * c + 1], ...columns.map(([, v]) => v[c])]);
  return (
    <>
      <div className="mt-2 max-w-[86ch] text-[13px]" role="status">
        {sentences.map((s) => (
          <p key={s}>{s}</p>
        ))}
      </div>
      <Norms studied={studied} />
      <LinkedViews key={`${wish.field} ${wish.onto} ${wish.way}`} studied={studied} />
      <p className="mt-1 flex gap-3 text-[11.5px] text-ink-3">
        Every cell as a table: <CsvButton name={`fields-${wish.field}`} header={["x, m", "y, m", ...columns.map(([n]) => n)]} rows={rows} />
      </p>
    </>
  );
}

type Norm = StudiedField["study"]["norms"][number] & { readonly change: string };

function Norms({ studied: { study, wish, unit } }: { studied: StudiedField }) {
  const rows = study.norms.map((n, k): Norm => ({ ...n, change: `${wish.runs[k + 1].label} less ${wish.runs[k].label}` }));
  const inUnit = (words: string) => `${words}${unitText(unit) ? `, ${unitText(unit)}` : ""}`;
  const columns: Column<Norm>[] = [
    { header: "Change", words: true, cell: (n) => n.change },
    { header: inUnit("Mean"), cell: (n) => significant(n.l1, 3) },
    { header: inUnit("Root mean square"), cell: (n) => significant(n.l2, 3) },
    { header: inUnit("Largest"), cell: (n) => significant(n.largest, 3) },
  ];
  return <DataTable className="mt-2" rows={rows} columns={columns} rowKey={(n) => n.change} />;
}

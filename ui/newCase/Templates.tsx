"use client";

import { useState } from "react";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import { DESCRIPTIONS } from "@/core/problems/describe/catalogue";
import { MeshDrawing } from "../charts/MeshDrawing";
import { Field } from "../forms/Field";

const TRUTHS = { "": "any truth", exact: "exact answer known", published: "published figures", measured: "measured, or another code" } as const;
const FLOWS = { "": "any physics", steady: "flow, steady", transient: "flow in time", gas: "gas", written: "written down by you" } as const;

const physicsOf = (p: (typeof DESCRIPTIONS)[number]): keyof typeof FLOWS =>
  p.formulas ? "written" : p.physicsWords.compressible ? "gas" : (p.physicsWords.time as "steady" | "transient");

/** All templates with a picture each, searched by words and filtered by physics and truth. */
export function Templates(p: { thumbnails: ReadonlyMap<string, FaceMesh>; chosen: string; choose: (id: string) => void }) {
  const [search, setSearch] = useState("");
  const [truth, setTruth] = useState<keyof typeof TRUTHS>("");
  const [flow, setFlow] = useState<keyof typeof FLOWS>("");
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = DESCRIPTIONS.filter(
    (x) =>
      (truth === "" || x.kind === truth) &&
      (flow === "" || physicsOf(x) === flow) &&
      words.every((w) => `${x.title} ${x.tests} ${FLOWS[physicsOf(x)]}`.toLowerCase().includes(w)),
  );
  const elsewhere =
    (truth === "" || truth === "measured") && flow === "" && words.every((w) => "results from another code files measured".includes(w));
  const choices = <T extends Record<string, string>>(list: T) => Object.entries(list).map(([v, n]) => [v, n] as const);
  return (
    <fieldset className="min-w-0" aria-label="Template">
      <legend className="sr-only">Template</legend>
      <div className="grid grid-cols-[1.4fr_1fr_1fr] gap-2">
        <Field label="Search templates" words value={search} onChange={setSearch} placeholder="step, heat, shock …" />
        <Field label="Physics" value={flow} onChange={(v) => setFlow(v as keyof typeof FLOWS)} choices={choices(FLOWS)} />
        <Field label="Truth" value={truth} onChange={(v) => setTruth(v as keyof typeof TRUTHS)} choices={choices(TRUTHS)} />
      </div>
      <div className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(148px,1fr))] gap-1.5">
        {shown.map((x) => (
          <Choice
            key={x.id}
            id={x.id}
            title={x.title}
            kind={x.kind === "exact" ? "exact" : "published"}
            mesh={p.thumbnails.get(x.id)}
            chosen={p.chosen === x.id}
            choose={p.choose}
          />
        ))}
        {elsewhere ? <Choice id="" title="Results from another code" kind="from files" chosen={p.chosen === ""} choose={p.choose} /> : null}
      </div>
      {shown.length === 0 && !elsewhere ? <p className="mt-2 text-ink-2">No template has that; take a word or a filter away.</p> : null}
    </fieldset>
  );
}

function Choice(p: { id: string; title: string; kind: string; mesh?: FaceMesh; chosen: boolean; choose: (id: string) => void }) {
  return (
    <label
      className={`flex cursor-pointer flex-col gap-1 border px-2 py-1.5 text-ink! has-focus-visible:outline-2 has-focus-visible:outline-blue ${p.chosen ? "border-ink bg-margin" : "border-line bg-plot"}`}
    >
      <span className="flex h-[44px] items-center overflow-hidden" aria-hidden="true">
        {p.mesh && <MeshDrawing mesh={p.mesh} width={126} most={42} label="" />}
        {p.id === "" && <span className="font-mono text-[11px] text-ink-3">CSV, XLSX, JSON</span>}
      </span>
      <span className="flex items-baseline gap-1.5">
        <input type="radio" name="template" aria-label={p.title} checked={p.chosen} onChange={() => p.choose(p.id)} />
        <b className="text-[12px] leading-tight font-[620]">{p.title}</b>
      </span>
      <span className="text-[11px] text-ink-3">{p.kind}</span>
    </label>
  );
}

"use client";

import "katex/dist/katex.min.css";
import { useState } from "react";
import { percent, unitText } from "@/core/formatting/number";
import type { Answer } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";

const FILES = [
  ["c", "C"],
  ["python", "Python"],
  ["fortran", "Fortran"],
  ["latex", "LaTeX"],
  ["json", "JSON"],
  ["text", "text"],
] as const;

type Shown = Answer<"GET /cases/{id}/manufactured">;

/** The sources of a manufactured case in type, what they exercise, and files of them for any other solver. */
export function WrittenOut({ id, version }: { id: string; version: string }) {
  const [open, setOpen] = useState(false);
  const { data, error, isFetching } = useAsked("GET /cases/{id}/manufactured", open ? { at: { id } } : undefined, version);
  return (
    <section className="mt-5 border-line border-t pt-3" aria-label="Fields and sources written out">
      <div className="flex flex-wrap items-center gap-3">
        <h2>Fields and sources, as saved</h2>
        <button type="button" className="btn quiet small" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Fold" : "Write them out"}
        </button>
        <span className="text-[12px] text-ink-3">For another solver:</span>
        {FILES.map(([language, name]) => (
          <a key={language} className="link text-[12px]" href={`/api/cases/${id}/manufactured/${language}`} download>
            {name}
          </a>
        ))}
      </div>
      <OnMesh id={id} />
      {open && isFetching ? <p className="text-[12px] text-ink-3">Deriving the sources …</p> : null}
      {error ? <p className="mistake">{error.message}</p> : null}
      {open && data ? <Written data={data} /> : null}
    </section>
  );
}

/** Exact means over cells and exact fluxes through faces of a mesh of one's choosing, as tables. */
function OnMesh({ id }: { id: string }) {
  const [cells, setCells] = useState("32");
  const count = cells.trim();
  const fine = /^\d{1,3}$/.test(count) && Number(count) >= 2 && Number(count) <= 200;
  return (
    <div className="mt-1 flex flex-wrap items-end gap-3 text-[12px]">
      <div className="w-[170px]">
        <Field label="Cells each way, 2 to 200" value={cells} onChange={setCells} mistake={fine ? undefined : "From 2 to 200."} />
      </div>
      {fine
        ? (["cells", "faces"] as const).map((what) => (
            <a key={what} className="link pb-2" href={`/api/cases/${id}/exact/${what}/${count}x${count}`} download>
              {what === "cells" ? "Exact cell means, CSV" : "Exact face fluxes, CSV"}
            </a>
          ))
        : null}
    </div>
  );
}

function Written({ data }: { data: Shown }) {
  const untested = data.terms.filter((t) => t.untested);
  return (
    <>
      <p className="mt-1 text-[12.5px] text-ink-2">
        Held against differences of the fields alone, the sources are {percent(data.distance)} off,{" "}
        {data.distance < 1e-5 ? "which is what differences leave" : "which is more than differences leave: do not use them"}.{" "}
        {untested.length
          ? `${untested.length} terms vanish everywhere: a code may have them wrong and nobody would see.`
          : "Every term of every equation is exercised."}
      </p>
      {[...data.fields, ...data.sources].map((f) => (
        <div key={f.key} className="mt-2 border-soft border-t pt-1">
          <p className="text-[12px] text-ink-3">
            {f.name}, {unitText(f.unit)}
          </p>
          {f.typeset ? (
            <div className="overflow-x-auto text-[13px] [&_.katex-display]:my-1" dangerouslySetInnerHTML={{ __html: f.typeset }} />
          ) : (
            <p className="text-[12px] text-ink-2">{f.text.length} signs, too long to be read: take it as a file.</p>
          )}
        </div>
      ))}
      <div className="mt-3 flex justify-between">
        <h3>What is exercised</h3>
        <CsvButton
          name="terms"
          header={["equation", "term", "root mean square", "share", "untested"]}
          rows={data.terms.map((t) => [t.equation, t.term, t.size, t.share, t.untested ? "yes" : "no"])}
        />
      </div>
      <DataTable
        className="tight"
        rows={data.terms}
        rowKey={(t) => `${t.equation} ${t.term}`}
        columns={[
          { header: "Equation", words: true, cell: (t) => t.equation },
          { header: "Term", words: true, cell: (t) => t.term },
          { header: "Share of its equation", cell: (t) => (t.untested ? "untested" : percent(t.share)) },
        ]}
      />
    </>
  );
}

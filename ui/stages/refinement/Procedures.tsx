"use client";

import { useState } from "react";
import { coverageSentence } from "@/core/assessment/refinement/words";
import { percent, sentenceCase, significant, withUncertainty } from "@/core/formatting/number";
import { PROCEDURE_WORDS, type ProcedureKey } from "@/core/records/procedure";
import type { QuantitySpec } from "@/core/records/quantity";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { RefinementView } from "../../view";
import { DecideForm } from "./DecideForm";

type Refined = RefinementView["assessment"]["refinement"][number];
type Procedure = NonNullable<Refined["procedures"]>[number];

interface ProceduresProps {
  readonly caseId: string;
  readonly r: Refined;
  readonly q: QuantitySpec;
  readonly scale: number;
}

/** What every procedure says of the finest value, side by side, with the one that stands. */
export function Procedures({ caseId, r, q, scale }: ProceduresProps) {
  const [choosing, choose] = useState<ProcedureKey>();
  const { save, busy } = useSave();
  const { procedures = [], adopted } = r;
  if (!procedures.length || !adopted) return null;
  const followRule = () =>
    save("DELETE /cases/{id}/studies/{kind}/{of}", { at: { id: caseId, kind: "adopt", of: q.key } }, "The rule chooses the procedure again.");
  return (
    <>
      <div className="mt-5 flex justify-between">
        <h2>By every procedure</h2>
        <CsvButton
          name={`procedures-${q.key}`}
          header={["procedure", "observed order", "limit", "factor", `uncertainty, 95 % (${q.unit})`, "adopted"]}
          rows={procedures.map((p) => [
            PROCEDURE_WORDS[p.key],
            p.order ?? "",
            p.limit ?? "",
            p.factor ?? "",
            p.uncertainty,
            p.key === adopted.key ? "yes" : "no",
          ])}
        />
      </div>
      <DataTable
        className=""
        rows={procedures}
        rowKey={(p) => p.key}
        rowClass={(p) => (p.key === adopted.key ? "bg-margin" : "")}
        columns={columnsOf(adopted.key, scale, choose)}
      />
      <p className="mt-1 text-[12px] text-ink-2">
        {sentenceCase(PROCEDURE_WORDS[adopted.key])}: {adopted.by ? `chosen by ${adopted.by.initials}, ${adopted.by.reason}` : adopted.because}.{" "}
        {coverageSentence(r)}
        {adopted.by ? (
          <button type="button" className="link ml-2" disabled={busy} onClick={() => void followRule()}>
            Follow the rule again
          </button>
        ) : null}
      </p>
      {choosing ? (
        <DecideForm
          key={choosing}
          caseId={caseId}
          what={{ kind: "adopt", quantityKey: q.key, procedure: choosing }}
          words={`Adopt the ${PROCEDURE_WORDS[choosing]}`}
          said={`The ${PROCEDURE_WORDS[choosing]} stands for ${q.name}.`}
          done={() => choose(undefined)}
        />
      ) : null}
    </>
  );
}

function columnsOf(adopted: ProcedureKey, scale: number, choose: (key: ProcedureKey) => void): Column<Procedure>[] {
  return [
    { header: "Procedure", words: true, cell: (p) => PROCEDURE_WORDS[p.key] },
    { header: "Order", cell: (p) => (p.order === undefined ? "–" : significant(p.order, 3)) },
    { header: "At no spacing", cell: (p) => (p.limit === undefined ? "–" : withUncertainty(p.limit, p.uncertainty)) },
    { header: "Factor", cell: (p) => (p.factor === undefined ? "–" : significant(p.factor, 3)) },
    { header: "Uncertainty, 95 %", cell: (p) => percent(p.uncertainty / scale) },
    {
      header: <Unseen>Adopt</Unseen>,
      words: true,
      cell: (p) =>
        p.key === adopted ? (
          <span className="text-[12px]">stands</span>
        ) : (
          <button type="button" className="link text-[12px]" aria-label={`Adopt the ${PROCEDURE_WORDS[p.key]}`} onClick={() => choose(p.key)}>
            Adopt
          </button>
        ),
    },
  ];
}

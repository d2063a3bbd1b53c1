"use client";

import { Trash2 } from "lucide-react";
import { described } from "@/core/problems/describe/catalogue";
import type { QuantitySpec } from "@/core/records/quantity";
import { KIND_HELP, KIND_WORDS, QUANTITY_KINDS, type QuantityKind } from "@/core/units/quantityKind";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useRemoval } from "../../forms/useRemoval";
import { useSave } from "../../forms/useSave";
import { DataTable, Unseen } from "../../tables/DataTable";
import type { QuestionView } from "../../view";
import { AddDerived } from "./AddDerived";
import { AddMonitor } from "./AddMonitor";
import { AddQuantity } from "./AddQuantity";
import { QuestionEntry } from "./entries";
import { limitText } from "./limitText";
import { Watched } from "./Watched";

/** What is asked of the case, with its limits; quantities of one's own can be added and taken off. */
export function Quantities({ view }: { view: QuestionView }) {
  const { problemId } = view.setup;
  const own = problemId === null ? [] : described(problemId).quantities.map((q) => q.key);
  return (
    <section className="col-span-2" aria-label="Quantities">
      <h2>Quantities and how close is close enough</h2>
      <DataTable
        className="mt-1 max-w-[860px]"
        rows={view.evidence.quantities}
        rowKey={(q) => q.key}
        columns={[
          { header: "Quantity", words: true, cell: (q) => q.name },
          { header: "Symbol", words: true, className: "font-mono", cell: (q) => q.symbol },
          { header: "Unit", words: true, className: "font-mono", cell: (q) => q.unit },
          {
            header: "It is",
            words: true,
            className: "text-ink-3",
            cell: (q) => (own.includes(q.key) ? KIND_WORDS[q.kind ?? "plain"] : <Kind id={view.id} q={q} />),
          },
          {
            header: "Watched",
            words: true,
            className: "text-ink-3",
            cell: (q) => <Watched view={view} quantityKey={q.key} otherwise={own.includes(q.key) ? "by the template" : "brought in"} />,
          },
          { header: "Limit, share of the yardstick", words: true, className: "w-56", cell: (q) => <Limit q={q} /> },
          { header: <Unseen>Take off</Unseen>, words: true, cell: (q) => (own.includes(q.key) ? null : <TakeOff id={view.id} q={q} />) },
        ]}
      />
      {problemId === null ? <AddQuantity id={view.id} /> : <AddMonitor id={view.id} />}
      <AddDerived view={view} />
    </section>
  );
}

const Limit = ({ q }: { q: QuantitySpec }) => (
  <div className="w-28">
    <QuestionEntry name={`limits.${q.key}`} mistake={`limit-${q.key}`} label={`Limit of ${q.name}`} unseenLabel preset={limitText(q.limit)} />
  </div>
);

function Kind({ id, q }: { id: string; q: QuantitySpec }) {
  const { save } = useSave();
  const kind = q.kind ?? "plain";
  return (
    <select
      className="field words"
      aria-label={`What ${q.name} is`}
      title={KIND_HELP[kind]}
      value={kind}
      onChange={(e) =>
        void save("PUT /cases/{id}/quantities/{key}/kind", { at: { id, key: q.key }, input: { kind: e.target.value as QuantityKind } })
      }
    >
      {QUANTITY_KINDS.map((k) => (
        <option key={k} value={k}>
          {KIND_WORDS[k]}
        </option>
      ))}
    </select>
  );
}

function TakeOff({ id, q }: { id: string; q: QuantitySpec }) {
  const remove = useRemoval(useSave().save);
  const at = { id, key: q.key };
  return (
    <ConfirmButton
      question={`Take off ${q.name}?`}
      text="What rests on it is no longer assessed; runs keep their record. You can undo this for a few seconds."
      action="Take it off"
      label={`Take off ${q.name}`}
      onConfirm={() =>
        void remove(
          `${q.name} was taken off.`,
          ["DELETE /cases/{id}/quantities/{key}", { at }],
          ["POST /cases/{id}/quantities/{key}/restore", { at }],
        )
      }
    >
      <Trash2 size={13} />
    </ConfirmButton>
  );
}

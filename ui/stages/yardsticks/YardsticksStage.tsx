"use client";

import { useState } from "react";
import { toast } from "sonner";
import { drawChart } from "@/core/drawing/chart";
import { INK } from "@/core/drawing/palette";
import { asGiven, significant, unitText } from "@/core/formatting/number";
import type { Yardstick } from "@/core/records/yardstick";
import type { Input } from "../../api/call";
import { Drawing } from "../../charts/Drawing";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { Field } from "../../forms/Field";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import type { CaseView } from "../../view";

const KIND = {
  exact: "exact solution",
  table: "published table",
  measured: "measured",
  "other-code": "another code: agreement is not truth",
} as const;

/** The truths a case is compared with: plotted, tabulated, with range, source and uncertainty. */
export function YardsticksStage({ view }: { view: CaseView }) {
  const [adding, setAdding] = useState(false);
  const { yardsticks } = view.evidence;
  return (
    <>
      <StageHeader title="Yardsticks" question="What is the truth, where does it come from, and how far can it be trusted?">
        <button type="button" className="btn quiet" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          {adding ? "Close" : "Add a value"}
        </button>
      </StageHeader>
      {adding ? <AddYardstick view={view} done={() => setAdding(false)} /> : null}
      {yardsticks.length === 0 ? (
        <Empty>
          No yardstick holds for this case. Add a measured or published value with its source, or change the conditions to those of a table.
        </Empty>
      ) : null}
      {yardsticks.map((y) => (
        <One key={y.key} y={y} view={view} />
      ))}
    </>
  );
}

function One({ y, view }: { y: Yardstick; view: CaseView }) {
  const run = view.runs.find((r) => r.id === view.assessment.ladder[0]);
  const { save } = useSave();
  const remove = async () => {
    if (await save("DELETE /yardsticks/{id}", { at: { id: y.key } }))
      toast(`${y.name} was deleted.`, {
        duration: 12_000,
        action: { label: "Undo", onClick: () => void save("POST /yardsticks/{id}/restore", { at: { id: y.key } }) },
      });
  };
  return (
    <section className="mb-6 border-t border-line pt-3" aria-label={y.name}>
      <div className="flex items-center justify-between">
        <h2>{y.name}</h2>
        {y.typed ? (
          <ConfirmButton
            className="link text-[12px] text-ink-3"
            label={`Delete ${y.name}`}
            question={`Delete ${y.name}?`}
            text="Comparisons with it go with it. You can undo this for a few seconds."
            action="Delete yardstick"
            onConfirm={() => void remove()}
          >
            Delete
          </ConfirmButton>
        ) : null}
      </div>
      <p className="text-[12px] text-ink-3">
        {KIND[y.kind]}. {y.source}.
      </p>
      <p className="mt-1 flex items-center gap-2 text-[12.5px]">
        <StateMark state={y.validity.inside ? "holds" : "fails"} /> {y.validity.sentence}
      </p>
      <div className="mt-2 grid grid-cols-[minmax(420px,1fr)_minmax(300px,1fr)] gap-6">
        <div>
          <table>
            <thead>
              <tr>
                <th>Quantity</th>
                <th>Value</th>
                <th className="w">Unit</th>
                <th>Standard uncertainty</th>
              </tr>
            </thead>
            <tbody>
              {y.values.map((v) => {
                const q = view.evidence.quantities.find((x) => x.key === v.quantityKey);
                return (
                  <tr key={v.quantityKey}>
                    <td className="w">{q?.name ?? v.quantityKey}</td>
                    <td>{asGiven(v.value, 8)}</td>
                    <td className="w">{q ? unitText(q.unit) || "1" : ""}</td>
                    <td title={v.uncertaintyNote}>
                      {v.standardUncertainty === undefined
                        ? "none stated"
                        : v.standardUncertainty === 0
                          ? "exact"
                          : significant(v.standardUncertainty, 2)}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
          {y.values[0] ? <p className="mt-1 text-[11.5px] text-ink-3">Uncertainty: {y.values[0].uncertaintyNote}.</p> : null}
        </div>
        <div className="space-y-2">
          {y.profiles.map((p) => {
            const own = run?.result?.profiles.find((x) => x.key === p.profileKey);
            const name = own?.name ?? p.profileKey;
            const svg = drawChart({
              title: `${y.name}: ${name}`,
              width: 376,
              height: 200,
              x: { label: own?.abscissa.name ?? "along the line" },
              y: { label: own?.value.name ?? "value" },
              series: [
                {
                  name: y.name,
                  kind: p.abscissa.length > 30 ? "line" : "open-points",
                  color: INK.brass,
                  dash: "",
                  points: p.abscissa.map((x, i) => [x, p.value[i]] as const),
                },
              ],
            });
            return (
              <div key={p.profileKey}>
                <Drawing svg={svg} name={`${y.key} ${p.profileKey}`} />
                <details className="text-[12px]">
                  <summary className="cursor-pointer text-ink-2">
                    {p.abscissa.length} points{p.doubtful?.length ? `, ${p.doubtful.length} of them doubtful` : ""}
                  </summary>
                  <table>
                    <tbody>
                      {p.abscissa.map((x, i) => (
                        <tr key={x}>
                          <td>{asGiven(x, 5)}</td>
                          <td>{asGiven(p.value[i])}</td>
                          <td className="w">{p.doubtful?.find((d) => d.index === i)?.reason ?? ""}</td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </details>
              </div>
            );
          })}
        </div>
      </div>
    </section>
  );
}

function AddYardstick({ view, done }: { view: CaseView; done: () => void }) {
  const { save, busy, mistakes } = useSave();
  const own = useFocusOnOpen<HTMLFormElement>();
  const [f, setF] = useState<Input<"POST /cases/{id}/yardsticks">>({
    name: "",
    kind: "measured",
    source: "",
    validity: "",
    quantityKey: view.quantityKey,
    value: "",
    uncertainty: "",
  });
  return (
    <form
      ref={own}
      className="mb-5 grid grid-cols-3 gap-2 border border-line bg-margin p-3"
      onSubmit={async (e) => {
        e.preventDefault();
        if (await save("POST /cases/{id}/yardsticks", { at: { id: view.id }, input: f }, "The yardstick was added.")) done();
      }}
    >
      <Field label="Name" words value={f.name} onChange={(name) => setF({ ...f, name })} mistake={mistakes.name} />
      <Field
        label="Kind"
        value={f.kind}
        onChange={(kind) => setF({ ...f, kind })}
        choices={[
          ["measured", "measured"],
          ["table", "published value"],
          ["other-code", "another code's result"],
        ]}
      />
      <Field
        label="Quantity"
        value={f.quantityKey}
        onChange={(quantityKey) => setF({ ...f, quantityKey })}
        choices={view.evidence.quantities.map((q) => [q.key, q.name] as const)}
      />
      <Field label="Value, any unit" value={f.value} onChange={(value) => setF({ ...f, value })} mistake={mistakes.value} />
      <Field
        label="Uncertainty at 95 %, or empty"
        value={f.uncertainty}
        onChange={(uncertainty) => setF({ ...f, uncertainty })}
        mistake={mistakes.uncertainty}
        placeholder="8 mm or 2 %"
      />
      <Field label="Where it holds" words value={f.validity} onChange={(validity) => setF({ ...f, validity })} />
      <div className="col-span-2">
        <Field label="Source" words value={f.source} onChange={(source) => setF({ ...f, source })} mistake={mistakes.source} />
      </div>
      <div className="flex items-end justify-end">
        <button type="submit" className="btn" disabled={busy}>
          Add yardstick
        </button>
      </div>
    </form>
  );
}

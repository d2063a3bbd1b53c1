"use client";

import { useState } from "react";
import { KIND_WORDS, originText } from "@/core/assessment/yardsticks/origin";
import { uncertaintyWords } from "@/core/assessment/yardsticks/uncertaintyWords";
import { drawChart } from "@/core/drawing/chart";
import { INK } from "@/core/drawing/palette";
import { asGiven, axisText, significant, unitText } from "@/core/formatting/number";
import type { Reference } from "@/core/records/reference";
import { Drawing } from "../../charts/Drawing";
import { FigureCheck } from "../../figure/FigureCheck";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useRemoval } from "../../forms/useRemoval";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable, Unseen } from "../../tables/DataTable";
import type { YardsticksView } from "../../view";
import { TurnCurve } from "./TurnCurve";

/** more points than this are drawn as a line */
const MOST_POINTS = 30;

/** One truth: where it comes from and holds, its values and its curves. */
export function OneYardstick({ y, view }: { y: Reference; view: YardsticksView }) {
  return (
    <section className="mb-6 border-t border-line pt-3" aria-label={y.name}>
      <div className="flex items-center justify-between">
        <h2>{y.name}</h2>
        {y.typed ? <DeleteYardstick y={y} /> : null}
      </div>
      <p className="text-[12px] text-ink-3">
        {KIND_WORDS[y.kind]}. {y.source}. {originText(y)}
      </p>
      <p className="mt-1 flex items-center gap-2 text-[12.5px]">
        <StateMark state={y.validity.inside ? "holds" : "fails"} /> {y.validity.sentence}
      </p>
      {y.figure ? <FigureCheck y={y} figure={y.figure} /> : null}
      <div className={y.values.length && y.profiles.length < 3 ? "mt-2 grid grid-cols-[minmax(420px,1fr)_minmax(300px,1fr)] gap-6" : "mt-2"}>
        {y.values.length ? <Values y={y} view={view} /> : null}
        <div className={y.profiles.length > 2 ? "grid grid-cols-3 gap-x-4 gap-y-2" : y.values.length ? "space-y-2" : "grid grid-cols-2 gap-4"}>
          {y.profiles.map((p) => (
            <Curve key={p.profileKey} y={y} p={p} view={view} />
          ))}
        </div>
      </div>
    </section>
  );
}

function DeleteYardstick({ y }: { y: Reference }) {
  const remove = useRemoval(useSave().save);
  const at = { id: y.key };
  return (
    <ConfirmButton
      className="link text-[12px] text-ink-3"
      label={`Delete ${y.name}`}
      question={`Delete ${y.name}?`}
      text="Comparisons with it go with it. You can undo this for a few seconds."
      action="Delete yardstick"
      onConfirm={() => void remove(`${y.name} was deleted.`, ["DELETE /yardsticks/{id}", { at }], ["POST /yardsticks/{id}/restore", { at }])}
    >
      Delete
    </ConfirmButton>
  );
}

const uncertaintyText = (u: number | undefined) => (u === undefined ? "none stated" : u === 0 ? "exact" : significant(u, 2));

function Values({ y, view }: { y: Reference; view: YardsticksView }) {
  const quantity = (key: string) => view.evidence.quantities.find((x) => x.key === key);
  const nameOf = (key: string) => quantity(key)?.name ?? key;
  const labels = new Map((view.evidence.inputs ?? []).map((i) => [i.key, i.label.toLowerCase()]));
  const answersText = ({ answers = {} }: Reference["values"][number]) =>
    Object.entries(answers)
      .map(([key, answer]) => `${labels.get(key) ?? key} ${significant(answer, 2)} %`)
      .join(", ");
  const unitOf = (key: string) => {
    const q = quantity(key);
    return q ? unitText(q.unit) || "1" : "";
  };
  return (
    <div>
      <DataTable
        className=""
        rows={y.values}
        rowKey={(v) => v.quantityKey}
        columns={[
          { header: "Quantity", words: true, cell: (v) => nameOf(v.quantityKey) },
          { header: "Value", cell: (v) => asGiven(v.value, 8) },
          { header: "Unit", words: true, cell: (v) => unitOf(v.quantityKey) },
          ...(y.values.some((v) => v.answers)
            ? [{ header: "Changes with", title: () => "percent by which it changes with one percent of a condition of the case", cell: answersText }]
            : []),
          { header: "Standard uncertainty", title: (v) => v.uncertaintyNote, cell: (v) => uncertaintyText(v.standardUncertainty) },
        ]}
      />
      <p className="mt-1 text-[11.5px] text-ink-3">Uncertainty: {uncertaintyWords(y.values, nameOf)}.</p>
    </div>
  );
}

type Profile = Reference["profiles"][number];

/** An axis as it is called, or by a word where nothing is known of it. */
const axis = (known: Parameters<typeof axisText>[0] | undefined, otherwise: string) => (known ? axisText(known) : otherwise);

/** A curve of the truth, drawn and as a table with what is doubtful of it. */
function Curve({ y, p, view }: { y: Reference; p: Profile; view: YardsticksView }) {
  const own = view.profiles.find((x) => x.key === p.profileKey);
  const name = p.axes?.name ?? own?.name ?? p.profileKey;
  const asLine = p.line || p.abscissa.length > MOST_POINTS;
  const part = (doubtful: boolean) => {
    const of = p.abscissa.flatMap((x, i) => (Boolean(p.doubtful?.some((d) => d.index === i)) === doubtful ? [{ x, i }] : []));
    return {
      points: of.map(({ x, i }) => [x, p.value[i]] as const),
      ...(asLine ? {} : { spread: of.map(({ i }) => 2 * Math.hypot(uAt(p.standardUncertainty, i), uAt(p.systematicUncertainty, i))) }),
    };
  };
  const svg = drawChart({
    title: `${y.name}: ${name}`,
    width: 376,
    height: 200,
    x: { label: axis(p.axes?.abscissa ?? own?.abscissa, "along the line") },
    y: { label: axis(p.axes?.value ?? own?.value, "value") },
    series: [
      { name: y.name, kind: asLine ? "line" : "open-points", color: INK.brass, dash: "", ...part(false) },
      { name: "doubtful", kind: "open-points", color: INK.pointer, ...part(true) },
    ],
  });
  return (
    <div>
      <p className="pr-20 text-[12.5px] font-[560]">{name}</p>
      <Drawing svg={svg} name={`${y.name} ${p.profileKey}`} />
      {y.typed && !y.made && p.axes ? <TurnCurve y={y} p={p} /> : null}
      <details className="text-[12px]">
        <summary className="cursor-pointer text-ink-2">
          {p.abscissa.length} points{p.doubtful?.length ? `, ${p.doubtful.length} of them doubtful` : ""}
        </summary>
        <Points y={y} p={p} />
      </details>
    </div>
  );
}

const uAt = (u: number | readonly number[] | undefined, i: number): number => (typeof u === "object" ? u[i] : u) ?? 0;

/** Every point with what is doubtful of it; of one's own yardsticks a point is marked, with a reason, or believed again. */
function Points({ y, p }: { y: Reference; p: Profile }) {
  const rows = p.abscissa.map((x, i) => ({
    i,
    x,
    value: p.value[i],
    u: 2 * uAt(p.standardUncertainty, i),
    doubt: p.doubtful?.find((d) => d.index === i)?.reason ?? "",
  }));
  const [x, v] = [axis(p.axes?.abscissa, "place"), axis(p.axes?.value, "value")];
  return (
    <>
      <div className="flex justify-end">
        <CsvButton
          name={`${y.name} ${p.profileKey}`}
          header={[x, v, "own uncertainty, 95 %", "doubt"]}
          rows={rows.map((r) => [r.x, r.value, r.u, r.doubt])}
        />
      </div>
      <div className="max-h-72 overflow-y-auto">
        <DataTable
          className=""
          rows={rows}
          rowKey={(r) => String(r.i)}
          columns={[
            { header: x, cell: (r) => asGiven(r.x, 5) },
            { header: v, cell: (r) => asGiven(r.value) },
            { header: "± 95 %", cell: (r) => (r.u ? significant(r.u, 2) : "") },
            { header: <Unseen>Doubt</Unseen>, words: true, cell: (r) => r.doubt },
            ...(y.typed && !y.made
              ? [
                  {
                    header: <Unseen>Acts</Unseen>,
                    words: true,
                    cell: (r: (typeof rows)[number]) => <Doubt y={y} p={p} index={r.i} doubt={r.doubt} />,
                  },
                ]
              : []),
          ]}
        />
      </div>
    </>
  );
}

/** Marks a point as doubtful, with the reason, or believes it again. */
function Doubt({ y, p, index, doubt }: { y: Reference; p: Profile; index: number; doubt: string }) {
  const { save, busy } = useSave();
  const [asking, setAsking] = useState(false);
  const [reason, setReason] = useState("");
  const put = async (next: string) => {
    const input = { profileKey: p.profileKey, index, reason: next };
    if (
      await save("POST /yardsticks/{id}/doubts", { at: { id: y.key }, input }, next ? "The point is marked as doubtful." : "The point counts again.")
    )
      setAsking(false);
  };
  if (doubt)
    return (
      <button type="button" className="link text-[12px]" disabled={busy} onClick={() => void put("")}>
        Believe it
      </button>
    );
  if (!asking)
    return (
      <button type="button" className="link text-[12px] text-ink-3" onClick={() => setAsking(true)}>
        Doubt it
      </button>
    );
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        void put(reason.trim());
      }}
    >
      <input aria-label="Why it is doubtful" className="field words" value={reason} onChange={(e) => setReason(e.target.value)} />
      <button type="submit" className="btn small" disabled={busy || !reason.trim()}>
        Mark
      </button>
    </form>
  );
}

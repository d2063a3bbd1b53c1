"use client";

import { INK } from "@/core/drawing/palette";
import { overStart } from "@/core/method/iteration/overStart";
import type { RunJudging } from "@/core/records/run";
import type { useHistory } from "../../api/useHistory";
import { HistoryChart } from "../../charts/HistoryChart";
import type { RunLine, SettlingView } from "../../view";
import { cutOf, entryOf, slopeFrom } from "./judging";

/** Changes how a person reads the record; undefined leaves it to the tests again. */
export type Judge = (change: { [K in keyof RunJudging]?: RunJudging[K] | undefined }) => void;

interface RecordProps {
  readonly view: SettlingView;
  readonly s: SettlingView["assessment"]["settling"][number];
  readonly history: ReturnType<typeof useHistory>;
  readonly judge: Judge;
}

const HEIGHT = 210;

/** Residuals, with handles for the level they start from and the stretch their slope is read over. */
export function ResidualRecord({ view, s, run, history, judge }: RecordProps & { run: RunLine | undefined }) {
  const time = history?.time;
  const { dropTarget } = view.evidence;
  const entryAt = (at: number) => entryOf(history?.iteration ?? [], at);
  const handles = (iteration: NonNullable<typeof history>["iteration"]) => [
    { label: "start", at: run?.judging?.startEntry ?? iteration[0], onSet: (at: number) => judge({ startEntry: entryAt(at) }) },
    {
      label: "slope from",
      at: run?.judging?.stretchFrom ?? slopeFrom(run?.iterations ?? iteration.length),
      onSet: (at: number) => judge({ stretchFrom: entryAt(at) }),
    },
  ];
  return (
    <div className="min-w-0">
      <h2>{time ? "Residuals every step ends with" : "Residuals over their start"}</h2>
      {history ? (
        <HistoryChart
          title="Residuals over the iterations"
          of={run ? `the record of ${run.label}` : undefined}
          iteration={history.iteration}
          series={Object.entries(time ? history.residuals : overStart(history)).map(([n, values]) => ({ name: n, values }))}
          log
          height={HEIGHT}
          handles={time ? [] : handles(history.iteration)}
          marks={s.marks.map((m) => ({ at: m.iteration, label: m.label }))}
          level={{ y: 10 ** -dropTarget, label: `${dropTarget} orders down`, color: INK.pointer }}
        />
      ) : (
        <div className="h-[210px]" />
      )}
    </div>
  );
}

/** A quantity, with a handle for where its average begins, or a mark where it came to stand. */
export function QuantityRecord({ view, s, judging, history, judge }: RecordProps & { judging: RunJudging }) {
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const average = s.averages.find((a) => a.key === view.quantityKey);
  const standsFrom = s.quantities.find((x) => x.key === view.quantityKey)?.standsFrom;
  const time = history?.time;
  if (!history || !q || !history.quantities[q.key])
    return (
      <div className="min-w-0">
        <h2>{q?.name ?? "Quantity"}</h2>
        <p className="mt-2 text-ink-2">{history ? "No record of this quantity over the iterations." : "Reading the record."}</p>
      </div>
    );
  return (
    <div className="min-w-0">
      <h2>{q.name}</h2>
      <HistoryChart
        title={`${q.name} over ${time ? "time" : "the iterations"}`}
        of={`the record of ${s.label}`}
        iteration={time ?? history.iteration}
        abscissa={time ? "t, s" : undefined}
        band={average ? { low: average.mean - average.expanded, high: average.mean + average.expanded, from: average.cutAt } : undefined}
        handles={
          average
            ? [
                {
                  label: "average from",
                  at: average.cutAt,
                  onSet: (at) => judge({ cuts: { ...judging.cuts, [view.quantityKey]: cutOf(average, at) } }),
                },
              ]
            : []
        }
        series={[{ name: q.name, values: history.quantities[q.key] }]}
        marks={!average && standsFrom != null ? [{ at: standsFrom, label: "stays within its threshold" }] : []}
        height={HEIGHT}
      />
    </div>
  );
}

"use client";

import { useState } from "react";
import { INK } from "@/core/drawing/palette";
import { percent, powerOfTen, scientific, significant } from "@/core/formatting/number";
import { overStart } from "@/core/method/iteration/overStart";
import { RESIDUAL_STATE_WORDS } from "@/core/method/iteration/residuals";
import type { Numbers } from "@/core/numeric/numbers";
import { useHistory } from "../../api/useHistory";
import { HistoryChart } from "../../charts/HistoryChart";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import type { CaseView } from "../../view";
import { Averages } from "./Averages";

/** Has it settled: drops, states, remaining iteration errors, value against stopping tolerance. */
export function SettlingStage({ view }: { view: CaseView }) {
  const all = view.assessment.settling;
  const [chosen, setChosen] = useState(all[0]?.runId);
  const s = all.find((x) => x.runId === chosen) ?? all[0];
  const history = useHistory(s?.runId, "done");
  const { save, busy } = useSave();
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const name = (key: string) => view.evidence.quantities.find((x) => x.key === key)?.name ?? key;
  if (!s) {
    return (
      <>
        <StageHeader title="Settling" question="Has the iteration gone far enough that what is left no longer matters?" />
        <Empty>Needs a finished run. Start the family on the Runs page, or bring in a history.</Empty>
      </>
    );
  }
  const run = view.runs.find((r) => r.id === s.runId);
  const judging = run?.judging ?? {};
  const judge = (change: typeof judging) => {
    const next = Object.fromEntries(Object.entries({ ...judging, ...change }).filter(([, v]) => v !== undefined));
    void save("PUT /runs/{id}/judging", { at: { id: s.runId }, input: next }, "The record is read that way from now on.");
  };
  const average = s.averages.find((a) => a.key === view.quantityKey);
  const time = history?.time;
  const entryAt = (at: number) => entryOf(history?.iteration ?? [], at);
  const final = s.quantities.find((x) => x.key === view.quantityKey);
  return (
    <>
      <StageHeader title="Settling" question="Has the iteration gone far enough that what is left no longer matters?" />
      <div className="mb-3 flex flex-wrap gap-1.5" role="group" aria-label="Run">
        {all.map((x) => (
          <button
            key={x.runId}
            type="button"
            aria-pressed={x.runId === s.runId}
            onClick={() => setChosen(x.runId)}
            className={`flex items-center gap-2 rounded-sm border px-3 py-1 text-[12px] ${x.runId === s.runId ? "border-ink bg-white font-semibold" : "border-line text-ink-2"}`}
          >
            <StateMark state={x.state} plain /> {x.label}
          </button>
        ))}
      </div>
      <div className="grid grid-cols-2 gap-6">
        <div className="min-w-0">
          <h2>{time ? "Residuals every step ends with" : "Residuals over their start"}</h2>
          {history ? (
            <HistoryChart
              title="Residuals over the iterations"
              iteration={history.iteration}
              series={Object.entries(time ? history.residuals : overStart(history)).map(([n, values]) => ({ name: n, values }))}
              log
              height={210}
              handles={
                time
                  ? []
                  : [
                      { label: "start", at: judging.startEntry ?? history.iteration[0], onSet: (at) => judge({ startEntry: entryAt(at) }) },
                      {
                        label: "slope from",
                        at: judging.stretchFrom ?? slopeFrom(run?.iterations ?? history.iteration.length),
                        onSet: (at) => judge({ stretchFrom: entryAt(at) }),
                      },
                    ]
              }
              marks={s.marks.map((m) => ({ at: m.iteration, label: m.label }))}
              level={{ y: 10 ** -view.evidence.dropTarget, label: `${view.evidence.dropTarget} orders down`, color: INK.pointer }}
            />
          ) : (
            <div className="h-[210px]" />
          )}
        </div>
        <div className="min-w-0">
          <h2>{q?.name ?? "Quantity"}</h2>
          {history && q && history.quantities[q.key] ? (
            <HistoryChart
              title={`${q.name} over ${time ? "time" : "the iterations"}`}
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
              marks={!average && final?.standsFrom != null ? [{ at: final.standsFrom, label: "stays within its threshold" }] : []}
              height={210}
            />
          ) : (
            <p className="mt-2 text-ink-2">{history ? "No record of this quantity over the iterations." : "Reading the record."}</p>
          )}
        </div>
      </div>
      {Object.keys(judging).some((k) => k !== "average") ? (
        <p className="mt-1 text-[12px] text-ink-2">
          Read by hand: {judgingWords(judging)}.{" "}
          <button
            type="button"
            className="link"
            onClick={() => judge({ cut: undefined, cuts: undefined, startEntry: undefined, stretchFrom: undefined })}
          >
            Leave it to the tests
          </button>
        </p>
      ) : null}
      <Averages
        view={view}
        settling={s}
        version={JSON.stringify(judging)}
        busy={busy}
        onAdopt={(adopt) => judge({ average: adopt ? true : undefined })}
      />
      {s.residuals.length || s.quantities.length ? (
        <div className="mt-4 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-6">
          <div>
            <h2>Drop of each residual</h2>
            <table className="tight mt-1">
              <thead>
                <tr>
                  <th>Equation</th>
                  <th>Start</th>
                  <th>End</th>
                  <th>Orders</th>
                  <th>Factor</th>
                  <th className="w">State</th>
                </tr>
              </thead>
              <tbody>
                {s.residuals.map((r) => (
                  <tr key={r.name}>
                    <td className="w">{r.name}</td>
                    <td>{scientific(r.start, 2)}</td>
                    <td>{scientific(r.end, 2)}</td>
                    <td>{r.drop.toFixed(1)}</td>
                    <td>{significant(r.factor, 3)}</td>
                    <td className="w whitespace-nowrap">
                      <StateMark state={r.state === "settled" ? "holds" : r.state === "still-falling" ? "remark" : "fails"} plain />{" "}
                      {RESIDUAL_STATE_WORDS[r.state]}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <h2 className="mt-4">Value against stopping tolerance</h2>
            {s.tolerance.length ? (
              <table className="tight mt-1">
                <thead>
                  <tr>
                    <th>Tolerance</th>
                    <th>Iteration</th>
                    <th>{q?.symbol}</th>
                    <th>From its last value</th>
                  </tr>
                </thead>
                <tbody>
                  {s.tolerance.map((t) => {
                    const v = t.values[view.quantityKey];
                    const rule = view.assessment.rules.find((r) => r.quantityKey === view.quantityKey);
                    return (
                      <tr key={t.tolerance}>
                        <td>{powerOfTen(Math.round(Math.log10(t.tolerance)))}</td>
                        <td>{t.iteration}</td>
                        <td>{v === undefined || v === null ? "–" : significant(v, 7)}</td>
                        <td>{v === undefined || v === null || !final || !rule ? "–" : percent(Math.abs(v - final.value) / rule.scale)}</td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            ) : (
              <p className="mt-1 text-ink-2">Not even a tolerance of {powerOfTen(-2)} was met by every residual.</p>
            )}
          </div>
          <div>
            <h2>Iteration error left in each quantity</h2>
            <table className="tight mt-1">
              <thead>
                <tr>
                  <th>Quantity</th>
                  <th>Left</th>
                  <th>To stay below</th>
                  <th className="w">Shrinks as</th>
                  <th className="w" />
                </tr>
              </thead>
              <tbody>
                {s.quantities.map((x) => (
                  <tr key={x.key}>
                    <td className="w">{name(x.key)}</td>
                    <td>{percent(x.relative)}</td>
                    <td title={`a tenth of the ${x.against}`}>{percent(x.threshold)}</td>
                    <td className="w">{x.kind}</td>
                    <td className="w">
                      <StateMark state={x.holds ? "holds" : "remark"} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="mt-2 text-[11.5px] text-ink-3">
              A tenth of the mesh uncertainty, or of the limit while there is no mesh study. Real, alternating and complex name the leading
              eigenvalue; noise counts half its range.
            </p>
          </div>
        </div>
      ) : null}
    </>
  );
}

/** Entry (from 1) whose iteration lies nearest. */
function entryOf(iteration: Numbers, at: number): number {
  // What is drawn is thinned: the iteration itself tells the entry where counting starts at one.
  const first = iteration[0] ?? 1;
  return Math.max(1, Math.round(at - first) + 1);
}

const slopeFrom = (entries: number) => Math.max(1, entries - Math.max(4, Math.min(200, Math.ceil(entries / 4))) + 1);

const cutOf = (a: { readonly cutAt: number; readonly cut: number; readonly step: number }, at: number) =>
  Math.max(0, a.cut + Math.round((at - a.cutAt) / a.step));

function judgingWords(j: {
  readonly cut?: number;
  readonly cuts?: Readonly<Record<string, number>>;
  readonly startEntry?: number;
  readonly stretchFrom?: number;
}): string {
  const parts = [];
  if (j.startEntry !== undefined) parts.push(`start level at entry ${j.startEntry}`);
  if (j.stretchFrom !== undefined) parts.push(`slope from entry ${j.stretchFrom}`);
  for (const [key, cut] of Object.entries(j.cuts ?? {})) parts.push(`${key} averaged without its first ${cut} entries`);
  if (j.cut !== undefined) parts.push(`averages without the first ${j.cut} entries`);
  return parts.join(", ");
}

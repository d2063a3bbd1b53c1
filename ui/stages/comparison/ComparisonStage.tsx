"use client";

import { orderChart, profileChart } from "@/core/drawing/caseCharts";
import { asGiven, percent, scientific, signedPercent, significant, unitText, withUncertainty } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import type { CaseView } from "../../view";

/** How far from the truth, and what may be said of it. */
export function ComparisonStage({ view }: { view: CaseView }) {
  const c = view.assessment.comparison;
  const finest = view.runs.find((r) => r.id === view.assessment.ladder[0]);
  const rows = view.evidence.quantities.flatMap((q) => (c.values[q.key] ?? []).map((v) => ({ q, v })));
  if (!rows.length && !c.profiles.length && !c.orders) {
    return (
      <>
        <StageHeader title="Comparison" question="How far from the truth, and what may be said of it?" />
        <Empty>Needs a finished run and a yardstick that holds for this case.</Empty>
      </>
    );
  }
  return (
    <>
      <StageHeader title="Comparison" question={`How far is ${finest?.label ?? "the finest run"} from the truth, and what may be said of it?`} />
      {rows.length ? (
        <>
          <div className="flex justify-between">
            <h2>Single values</h2>
            <CsvButton
              name="comparison"
              header={["quantity", "yardstick", "simulated", "reference", "difference (fraction)", "u_val (fraction)", "unit"]}
              rows={rows.map(({ q, v }) => [
                q.name,
                v.yardstick,
                v.simulated,
                v.reference,
                v.difference / v.scale,
                v.uVal == null ? "" : v.uVal / v.scale,
                q.unit,
              ])}
            />
          </div>
          <table className="tight mt-1">
            <thead>
              <tr>
                <th>Quantity</th>
                <th className="w">Yardstick</th>
                <th>Simulated</th>
                <th>Reference</th>
                <th>Difference</th>
                <th>2 u_val</th>
                <th>Limit</th>
                <th className="w" />
              </tr>
            </thead>
            <tbody>
              {rows.map(({ q, v }) => (
                <tr key={q.key + v.yardstickKey} className={q.key === view.quantityKey ? "bg-margin" : ""}>
                  <td className="w">{q.name}</td>
                  <td className="w">{v.yardstick}</td>
                  <td className="whitespace-nowrap">
                    {withUncertainty(v.simulated, v.uVal == null ? undefined : Math.max(v.uVal, Math.abs(v.simulated) * 1e-9) / 5)} {unitText(q.unit)}
                  </td>
                  <td>{asGiven(v.reference)}</td>
                  <td>{signedPercent(v.difference / v.scale)}</td>
                  <td>{v.uVal == null ? "–" : percent((2 * v.uVal) / v.scale)}</td>
                  <td>{percent(v.limit)}</td>
                  <td className="w">
                    <StateMark state={v.state} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1 text-[11.5px] text-ink-3">
            u_val from numerical and yardstick uncertainty, u_num half the 95 % figure, k = 2. A difference inside 2 u_val neither shows nor excludes
            an error.
          </p>
        </>
      ) : null}
      {c.orders ? (
        <section className="mt-5 grid grid-cols-[376px_minmax(0,1fr)] gap-6" aria-label="Exact field">
          <div>
            <h2>Error against the exact field</h2>
            <Drawing svg={orderChart(c.orders, view.evidence.formalOrder)} name="error norms" />
          </div>
          <div>
            <table className="tight mt-6">
              <thead>
                <tr>
                  <th>Mesh</th>
                  <th>L1</th>
                  <th>L2</th>
                  <th>largest</th>
                  <th>Order to the next</th>
                </tr>
              </thead>
              <tbody>
                {c.orders.rows.map((r) => (
                  <tr key={r.label}>
                    <td className="whitespace-nowrap">{r.label}</td>
                    <td>{scientific(r.l1, 3)}</td>
                    <td>{scientific(r.l2, 3)}</td>
                    <td>{scientific(r.linf, 3)}</td>
                    <td>{r.order == null ? "–" : r.order.toFixed(2)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <p className="mt-2 text-[12.5px] text-ink-2">{c.orders.sentence}</p>
            <p className="mt-1 text-[11.5px] text-ink-3">Cell-centre values, weighted by volume, {unitText(c.orders.unit)}.</p>
          </div>
        </section>
      ) : null}
      <div className="mt-5 grid grid-cols-2 gap-6">
        {c.profiles.map((p) => {
          const own = finest?.result?.profiles.find((x) => x.key === p.profileKey);
          if (!own) return null;
          return (
            <section key={p.profileKey + p.yardstick} aria-label={`${p.name}, ${p.yardstick}`}>
              <h2>{p.name}</h2>
              <Drawing svg={profileChart(p, own)} name={`${p.profileKey} ${p.yardstick}`} />
              <p className="text-[12px] text-ink-2">
                {p.points.length} points of {p.yardstick}: mean {percent(p.l1 / p.range)}, root mean square {percent(p.l2 / p.range)}, largest{" "}
                {percent(p.linf / p.range)} of the range.
                {p.worst ? ` Worst at ${significant(p.worst.at, 3)}: ${significant(Math.abs(p.worst.difference), 2)}.` : ""}
                {p.worst?.doubtful ? ` That point ${p.worst.doubtful}; it takes no part in the norms.` : ""}
                {p.outside ? ` ${p.outside} points lie outside and were left out.` : ""}
              </p>
            </section>
          );
        })}
      </div>
    </>
  );
}

"use client";

import Link from "next/link";
import { orderText } from "@/core/assessment/refinement/refinement";
import { errorAgainstSpacing, valueAgainstSpacing } from "@/core/drawing/caseCharts";
import { count, duration, percent, signedPercent, significant, unitText, withUncertainty } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import { StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import type { CaseView } from "../../view";

/** How far is this number from the one an infinitely fine mesh would give? */
export function RefinementStage({ view }: { view: CaseView }) {
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const r = view.assessment.refinement.find((x) => x.key === view.quantityKey);
  const rule = view.assessment.rules.find((x) => x.quantityKey === view.quantityKey);
  if (!q || !r || !rule) return <StageHeader title="Refinement" question="How far is this number from the one an infinitely fine mesh would give?" />;
  const y = view.assessment.comparison.values[q.key]?.[0];
  const error = errorAgainstSpacing(r, q, rule.scale);
  const h1 = r.rungs[0]?.spacing ?? 1;
  const unit = unitText(q.unit);
  return (
    <>
      <StageHeader title="Refinement" question="How far is this number from the one an infinitely fine mesh would give?">
        {view.setup.problemId !== null ? (
          <Link className="btn" href={`/cases/${view.id}/meshes?q=${encodeURIComponent(q.key)}`}>
            Plan the next mesh
          </Link>
        ) : null}
      </StageHeader>
      {r.rungs.length ? (
        <>
          <div className="grid grid-cols-2 gap-5">
            <div>
              <h2>Value against spacing</h2>
              <Drawing svg={valueAgainstSpacing(r, q, y && { value: y.reference, name: y.yardstick })} name={`${q.key} against spacing`} />
            </div>
            <div>
              <h2>Error against spacing</h2>
              {error ? <Drawing svg={error} name={`error of ${q.key}`} /> : <p className="mt-2 max-w-[40ch] text-ink-2">{r.headline}</p>}
            </div>
          </div>
          <div className="mt-3 flex justify-between">
            <h2>The rungs</h2>
            <CsvButton
              name={`ladder-${q.key}`}
              header={["mesh", "cells", "spacing (m)", `${q.name} (${q.unit})`, "used"]}
              rows={r.rungs.map((g) => [g.label, g.cells, g.spacing, g.value ?? "", g.used ? "yes" : "no"])}
            />
          </div>
          <table>
            <thead>
              <tr>
                <th>Mesh</th>
                <th>Cells</th>
                <th>h / h₁</th>
                <th>Value{unit ? `, ${unit}` : ""}</th>
                <th>Change</th>
                <th>Index</th>
                <th>Iteration error</th>
                <th>Time</th>
              </tr>
            </thead>
            <tbody>
              {r.rungs.map((g, i) => {
                const finer = r.rungs[i - 1];
                const index = r.result?.kind === "monotone" ? (i === 0 ? r.result.indexFine : i === 1 ? r.result.indexMedium : undefined) : undefined;
                return (
                  <tr key={g.runId} className={g.used ? "" : "text-ink-3"}>
                    <td>
                      {g.label}
                      {g.used ? "" : <span className="ml-2 font-sans text-[11.5px]">left out of the fit</span>}
                    </td>
                    <td>{count(g.cells)}</td>
                    <td>{(g.spacing / h1).toFixed(3)}</td>
                    <td>{g.value == null ? "–" : withUncertainty(g.value, r.result ? r.result.uncertainty / 10 : undefined)}</td>
                    <td>{finer?.value != null && g.value != null ? signedPercent((g.value - finer.value) / rule.scale) : ""}</td>
                    <td>{index === undefined ? "" : percent(index / rule.scale)}</td>
                    <td>{percent(g.iterationError / rule.scale)}</td>
                    <td>{g.seconds ? duration(g.seconds) : ""}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </>
      ) : (
        <p className="mt-4 max-w-[52ch] border-l-2 border-tin pl-4 text-ink-2">
          {r.headline} Start a family on the Meshes page, or bring in three runs.
        </p>
      )}
      <h2 className="mt-5">Every quantity</h2>
      <table className="mt-1">
        <thead>
          <tr>
            <th>Quantity</th>
            <th className="w">Class</th>
            <th>Order</th>
            <th>Extrapolated</th>
            <th>Uncertainty, 95 %</th>
            <th>Limit</th>
            <th>Factor</th>
            <th className="w" />
          </tr>
        </thead>
        <tbody>
          {view.assessment.refinement.map((x) => {
            const name = view.evidence.quantities.find((k) => k.key === x.key);
            const m = x.result?.kind === "monotone" ? x.result : undefined;
            return (
              <tr key={x.key} className={x.key === q.key ? "bg-margin" : ""}>
                <td className="w">
                  <Link className="link" href={`/cases/${view.id}/refinement?q=${encodeURIComponent(x.key)}`}>
                    {name?.name}
                  </Link>
                  {name?.derivative ? <span className="ml-2 text-[11.5px] text-ink-3">slope at a wall</span> : null}
                </td>
                <td className="w">{x.result?.kind === "degenerate" ? "no order" : (x.result?.kind ?? "–")}</td>
                <td>{m ? orderText(m) : "–"}</td>
                <td>{m?.extrapolated === undefined || m.extrapolated === null ? "–" : withUncertainty(m.extrapolated, m.uncertainty)}</td>
                <td>{x.relative == null ? "–" : percent(x.relative)}</td>
                <td>{percent(x.limit)}</td>
                <td>{m ? significant(m.safety, 3) : "–"}</td>
                <td className="w">
                  <StateMark state={x.state} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </>
  );
}

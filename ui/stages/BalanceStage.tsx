"use client";

import { useState } from "react";
import { percent, scientific, significant } from "@/core/formatting/number";
import { CsvButton } from "../parts/CsvButton";
import { Empty, StageHeader } from "../parts/StageHeader";
import { StateMark } from "../parts/StateMark";
import type { CaseView } from "../view";

const figure = (x: number | undefined | null) =>
  x === undefined || x === null ? "–" : x === 0 ? "0" : Math.abs(x) < 1e-3 ? scientific(x, 3) : significant(x, 5);
const total = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

/** What goes in and what comes out, through every boundary, signed. */
export function BalanceStage({ view }: { view: CaseView }) {
  const all = view.assessment.balance;
  const [chosen, setChosen] = useState(all[0]?.runId);
  const b = all.find((x) => x.runId === chosen) ?? all[0];
  const run = view.runs.find((r) => r.id === b?.runId);
  const record = run?.result?.balance;
  const per = run?.origin === "bench" ? " per m depth" : "";
  return (
    <>
      <StageHeader title="Balance" question="Does what goes in come out again?" />
      {!b || !record ? (
        <Empty>No boundary fluxes yet. A finished bench run brings them; a run from files needs rows for the mass through every boundary.</Empty>
      ) : (
        <>
          <div className="flex items-center justify-between">
            <h2>Net against throughput</h2>
            <CsvButton
              name="balance"
              header={["run", "what", "net over throughput", "limit", "state"]}
              rows={all.flatMap((x) => x.lines.map((l) => [x.label, l.what, l.relative, l.limit, l.state]))}
            />
          </div>
          <table className="mt-1">
            <thead>
              <tr>
                <th>Run</th>
                {b.lines.map((l) => (
                  <th key={l.what}>{l.what}</th>
                ))}
              </tr>
            </thead>
            <tbody>
              {all.map((x) => (
                <tr key={x.runId} className={x.runId === b.runId ? "bg-margin" : ""}>
                  <td>
                    <button type="button" className="link font-mono" onClick={() => setChosen(x.runId)} aria-pressed={x.runId === b.runId}>
                      {x.label}
                    </button>
                  </td>
                  {b.lines.map((l) => {
                    const own = x.lines.find((y) => y.what === l.what);
                    return (
                      <td key={l.what}>
                        {own ? (
                          <>
                            {percent(own.relative)} <StateMark state={own.state} />
                          </>
                        ) : (
                          "–"
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
              <tr>
                <td className="w text-ink-3">limit</td>
                {b.lines.map((l) => (
                  <td key={l.what}>{percent(l.limit)}</td>
                ))}
              </tr>
            </tbody>
          </table>
          <h2 className="mt-5">
            Through every boundary of {b.label} <span className="text-[11.5px] font-normal text-ink-3">outward positive</span>
          </h2>
          <table className="mt-1">
            <thead>
              <tr>
                <th>Boundary</th>
                <th>Mass, kg/s{per}</th>
                <th>x momentum, N{per}</th>
                <th>of it pressure</th>
                <th>of it shear</th>
                <th>y momentum, N{per}</th>
              </tr>
            </thead>
            <tbody>
              {record.boundaries.map((r) => (
                <tr key={r.name}>
                  <td className="w">{r.name}</td>
                  <td>{figure(r.mass)}</td>
                  <td>{figure(total(r.momentumX))}</td>
                  <td>{figure(r.momentumX?.[1])}</td>
                  <td>{figure(r.momentumX?.[2])}</td>
                  <td>{figure(total(r.momentumY))}</td>
                </tr>
              ))}
              {record.bodyForce?.some((f) => f !== 0) ? (
                <tr>
                  <td className="w">body force, taken off</td>
                  <td>–</td>
                  <td>{figure(-record.bodyForce[0])}</td>
                  <td>–</td>
                  <td>–</td>
                  <td>{figure(-record.bodyForce[1])}</td>
                </tr>
              ) : null}
              <tr className="font-semibold">
                <td className="w">net</td>
                <td>{figure(b.lines.find((l) => l.what === "mass")?.net)}</td>
                <td>{figure(b.lines.find((l) => l.what === "x momentum")?.net)}</td>
                <td />
                <td />
                <td>{figure(b.lines.find((l) => l.what === "y momentum")?.net)}</td>
              </tr>
            </tbody>
          </table>
          <p className="mt-2 text-[11.5px] text-ink-3">
            Mass against the larger of inflow and outflow, or, where nothing flows through, against the largest flux inside; momentum against the
            largest single term of either component.
          </p>
        </>
      )}
    </>
  );
}

"use client";

import { useState } from "react";
import type { RunBalance } from "@/core/assessment/results/balance";
import { INK } from "@/core/drawing/palette";
import { percent } from "@/core/formatting/number";
import { useHistory } from "../../api/useHistory";
import { HistoryChart } from "../../charts/HistoryChart";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { BalanceView, RunLine } from "../../view";
import { Boundaries } from "./Boundaries";
import { Laws, SecondWays } from "./checks";
import { SurfaceForces } from "./SurfaceForces";

/** What goes in and what comes out, through every boundary, signed; what symmetry and thermodynamics ask; quantities worked out twice. */
export function BalanceStage({ view }: { view: BalanceView }) {
  const all = view.assessment.balance;
  const [chosen, setChosen] = useState(all[0]?.runId);
  const b = all.find((x) => x.runId === chosen) ?? all[0];
  const run = view.runs.find((r) => r.id === b?.runId);
  return (
    <>
      <StageHeader title="Balance" question="Does what goes in come out again?" />
      {!b || !run ? (
        <Empty>
          No boundary fluxes yet. A finished bench run brings them; a run from files needs rows for the mass through every boundary, or a surface for
          its forces.
        </Empty>
      ) : (
        <>
          <NetTable all={all} chosen={b} choose={setChosen} />
          <div className="mt-4 grid grid-cols-2 gap-6">
            <AgainstIteration run={run} chosen={b} />
            <AgainstMesh all={all} />
          </div>
          {run.balance ? <Boundaries run={run} record={run.balance} b={b} /> : null}
          <Laws b={b} />
          <SecondWays b={b} />
          <SurfaceForces key={run.id} b={b} run={run} conditions={view.setup.parameters} />
        </>
      )}
    </>
  );
}

function NetTable({ all, chosen, choose }: { all: readonly RunBalance[]; chosen: RunBalance; choose: (id: string) => void }) {
  const what = [...new Set(all.flatMap((x) => x.lines.map((l) => l.what)))];
  if (!what.length) return null;
  return (
    <>
      <div className="flex items-center justify-between">
        <h2>Net against throughput</h2>
        <CsvButton
          name="balance"
          header={["run", "what", "net over throughput", "limit", "state"]}
          rows={all.flatMap((x) => x.lines.map((l) => [x.label, l.what, l.relative, l.limit, l.state]))}
        />
      </div>
      <DataTable
        rows={all}
        rowKey={(x) => x.runId}
        rowClass={(x) => (x.runId === chosen.runId ? "bg-margin" : "")}
        columns={[
          {
            header: "Run",
            cell: (x) => (
              <button type="button" className="link font-mono" onClick={() => choose(x.runId)} aria-pressed={x.runId === chosen.runId}>
                {x.label}
              </button>
            ),
          },
          ...what.map((w) => ({ header: w, cell: (x: RunBalance) => <Net line={x.lines.find((l) => l.what === w)} /> })),
        ]}
        after={
          <tr>
            <td className="w text-ink-3">limit</td>
            {what.map((w) => {
              const own = chosen.lines.find((l) => l.what === w);
              return <td key={w}>{own ? percent(own.limit) : "–"}</td>;
            })}
          </tr>
        }
      />
      <p className="mt-1 text-[11.5px] text-ink-3">
        The limit is 0.1 % for mass and 0.5 % for the rest, and never more than the smallest mesh uncertainty of the case's quantities.
      </p>
    </>
  );
}

function Net({ line }: { line: RunBalance["lines"][number] | undefined }) {
  if (!line) return "–";
  return (
    <>
      {percent(line.relative)} <StateMark state={line.state} />
    </>
  );
}

function AgainstIteration({ run, chosen }: { run: RunLine; chosen: RunBalance }) {
  const history = useHistory(run.id, run.state);
  const series = Object.entries(history?.balances ?? {})
    .filter(([, v]) => v.some((x) => x > 0))
    .map(([name, values]) => ({ name, values }));
  const limit = chosen.lines[0]?.limit;
  return (
    <div className="min-w-0">
      <h2>
        Net against {history?.time ? "time" : "iteration"} <span className="text-[11.5px] font-normal text-ink-3">{run.label}</span>
      </h2>
      {history && series.length ? (
        <HistoryChart
          title={`Net over throughput against ${history.time ? "time" : "iteration"}`}
          of={`the record of ${run.label}`}
          iteration={history.time ?? history.iteration}
          abscissa={history.time ? "t, s" : undefined}
          series={series}
          log
          height={170}
          level={limit === undefined ? undefined : { y: limit, label: `limit of ${chosen.lines[0].what}`, color: INK.pointer }}
        />
      ) : (
        <p className="mt-1 text-[12.5px] text-ink-2">
          No record of the balance. Bench runs keep one; a history from files needs a column for the mass flow through every boundary.
        </p>
      )}
    </div>
  );
}

function AgainstMesh({ all }: { all: readonly RunBalance[] }) {
  const rungs = [...all].filter((x) => x.cells !== undefined && x.lines.length).sort((p, q) => (p.cells ?? 0) - (q.cells ?? 0));
  const what = [...new Set(rungs.flatMap((x) => x.lines.map((l) => l.what)))];
  return (
    <div className="min-w-0">
      <h2>Net against mesh</h2>
      {rungs.length > 1 ? (
        <HistoryChart
          title="Net over throughput against the number of cells"
          of={rungs.map((x) => x.label).join(", ")}
          iteration={rungs.map((x) => x.cells ?? 0)}
          abscissa="cells"
          series={what
            .map((name) => ({ name, values: rungs.map((x) => x.lines.find((l) => l.what === name)?.relative ?? Number.NaN) }))
            .filter((s) => s.values.some((v) => v > 0))}
          log
          marked
          height={170}
        />
      ) : (
        <p className="mt-1 text-[12.5px] text-ink-2">One mesh only: whether the net shrinks with refinement is not known.</p>
      )}
    </div>
  );
}

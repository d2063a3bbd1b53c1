"use client";

import { useState } from "react";
import type { RunBalance } from "@/core/assessment/results/balance";
import { INK } from "@/core/drawing/palette";
import { count, percent, powerOfTen, scientific } from "@/core/formatting/number";
import { columnScale, resolve } from "@/core/formatting/scale";
import type { BalanceRecord, BoundaryFlux } from "@/core/records/balance";
import { useHistory } from "../../api/useHistory";
import { HistoryChart } from "../../charts/HistoryChart";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import type { CaseView, RunView } from "../../view";

const total = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

/** What goes in and what comes out, through every boundary, signed; what symmetry and thermodynamics ask; quantities worked out twice. */
export function BalanceStage({ view }: { view: CaseView }) {
  const all = view.assessment.balance;
  const [chosen, setChosen] = useState(all[0]?.runId);
  const b = all.find((x) => x.runId === chosen) ?? all[0];
  const run = view.runs.find((r) => r.id === b?.runId);
  return (
    <>
      <StageHeader title="Balance" question="Does what goes in come out again?" />
      {!b || !run ? (
        <Empty>No boundary fluxes yet. A finished bench run brings them; a run from files needs rows for the mass through every boundary.</Empty>
      ) : (
        <>
          <NetTable all={all} chosen={b} choose={setChosen} />
          <div className="mt-4 grid grid-cols-2 gap-6">
            <AgainstIteration run={run} chosen={b} />
            <AgainstMesh all={all} />
          </div>
          {run.result?.balance ? <Boundaries run={run} record={run.result.balance} b={b} /> : null}
          <Laws b={b} />
          <Second b={b} />
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
      <table className="mt-1">
        <thead>
          <tr>
            <th>Run</th>
            {what.map((w) => (
              <th key={w}>{w}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {all.map((x) => (
            <tr key={x.runId} className={x.runId === chosen.runId ? "bg-margin" : ""}>
              <td>
                <button type="button" className="link font-mono" onClick={() => choose(x.runId)} aria-pressed={x.runId === chosen.runId}>
                  {x.label}
                </button>
              </td>
              {what.map((w) => {
                const own = x.lines.find((y) => y.what === w);
                return (
                  <td key={w}>
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
            {what.map((w) => {
              const own = chosen.lines.find((l) => l.what === w);
              return <td key={w}>{own ? percent(own.limit) : "–"}</td>;
            })}
          </tr>
        </tbody>
      </table>
      <p className="mt-1 text-[11.5px] text-ink-3">
        The limit is 0.1 % for mass and 0.5 % for the rest, and never more than the smallest mesh uncertainty of the case's quantities.
      </p>
    </>
  );
}

function AgainstIteration({ run, chosen }: { run: RunView; chosen: RunBalance }) {
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

interface Column {
  readonly name: string;
  readonly of: (b: BoundaryFlux) => number | undefined;
  readonly source?: number;
  readonly stored?: number;
  readonly net?: number;
}

function columnsOf(record: BalanceRecord, b: RunBalance, per: string): Column[] {
  const has = (of: Column["of"]) => record.boundaries.some((r) => of(r) !== undefined);
  const net = (what: string) => b.lines.find((l) => l.what === what)?.net;
  const scalars = [...new Set(record.boundaries.flatMap((r) => Object.keys(r.scalars ?? {})))];
  const columns: Column[] = [
    { name: `Mass, kg/s${per}`, of: (r) => r.mass, source: record.sources?.mass, stored: record.storage?.mass, net: net("mass") },
    {
      name: `x momentum, N${per}`,
      of: (r) => total(r.momentumX),
      source: record.bodyForce?.[0],
      stored: record.storage?.momentum?.[0],
      net: net("x momentum"),
    },
    { name: "of it pressure", of: (r) => r.momentumX?.[1] },
    { name: "of it shear", of: (r) => r.momentumX?.[2] },
    {
      name: `y momentum, N${per}`,
      of: (r) => total(r.momentumY),
      source: record.bodyForce?.[1],
      stored: record.storage?.momentum?.[1],
      net: net("y momentum"),
    },
    ...scalars.flatMap((key): Column[] => [
      {
        name:
          key === "energy" ? `Energy, W${per}` : key === "species" ? `Species, kg/s${per}` : key === "temperature" ? `heat, K m²/s` : `${key}${per}`,
        of: (r) => total(r.scalars?.[key]),
        source: record.sources?.[key],
        stored: record.storage?.scalars?.[key],
        net: net(key),
      },
      { name: `of it by diffusion${scalars.length > 1 ? `, ${key}` : ""}`, of: (r) => r.scalars?.[key]?.[1] },
    ]),
  ];
  return columns.filter((c) => has(c.of) && (!c.name.startsWith("of it") || record.boundaries.some((r) => c.of(r))));
}

function Boundaries({ run, record, b }: { run: RunView; record: BalanceRecord; b: RunBalance }) {
  const per = run.origin === "bench" ? " per m" : "";
  const columns = columnsOf(record, b, per);
  const extra = (pick: (c: Column) => number | undefined, sign: 1 | -1) =>
    columns.map((c) => (pick(c) === undefined ? undefined : sign * (pick(c) ?? 0)));
  const sources = extra((c) => c.source, -1);
  const stored = extra((c) => c.stored, 1);
  // One look at each column decides how many digits its figures need.
  const scales = columns.map((c, k) =>
    columnScale(
      [...record.boundaries.map(c.of), sources[k], stored[k]].filter((v): v is number => v !== undefined),
      4,
    ),
  );
  const cells = (values: readonly (number | undefined)[]) =>
    values.map((v, k) => <td key={columns[k].name}>{v === undefined ? "–" : v === 0 ? "0" : scales[k].text(v)}</td>);
  const rows: (readonly [string, readonly (number | undefined)[]])[] = [
    ...record.boundaries.map((r) => [r.name, columns.map((c) => c.of(r))] as const),
    ...(sources.some((v) => v) ? [["sources, off", sources] as const] : []),
    ...(stored.some((v) => v) ? [["stored", stored] as const] : []),
  ];
  const { factor } = record;
  return (
    <>
      <div className="mt-5 flex items-center justify-between">
        <h2>
          Through every boundary of {b.label} <span className="text-[11.5px] font-normal text-ink-3">outward positive</span>
        </h2>
        <CsvButton
          name="boundaries"
          header={["boundary", ...columns.map((c) => c.name)]}
          rows={rows.map(([name, values]) => [name, ...values.map((v) => v ?? "")])}
        />
      </div>
      {factor !== undefined ? (
        <p className="text-[12.5px]">
          <StateMark state="remark" /> Every figure is of the whole: the model is one of {factor} parts, and the flows of the file were multiplied by{" "}
          {factor}, once.
        </p>
      ) : null}
      <div className="overflow-x-auto">
        <table className="tight mt-1">
          <thead>
            <tr>
              <th className="w align-bottom">Boundary</th>
              {columns.map((c, k) => (
                <th key={c.name} className="whitespace-normal! align-bottom">
                  {c.name} {scales[k].factor ? <span className="whitespace-nowrap font-mono">{scales[k].factor}</span> : null}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(([name, values]) => (
              <tr key={name}>
                <td className="w whitespace-nowrap">{name}</td>
                {cells(values)}
              </tr>
            ))}
            <tr className="font-semibold">
              <td className="w">net</td>
              {columns.map((c) => (
                <td key={c.name}>{c.net === undefined ? "" : c.net === 0 ? "0" : scientific(c.net, 2)}</td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      <p className="mt-2 text-[11.5px] text-ink-3">
        The net is in the column's unit. Mass against the larger of inflow and outflow, or, where nothing flows through, against the largest flux
        inside; momentum against the largest single term of either component.
      </p>
    </>
  );
}

function Laws({ b }: { b: RunBalance }) {
  if (!b.laws.length) return null;
  return (
    <>
      <h2 className="mt-5">What symmetry and thermodynamics ask</h2>
      <table className="mt-1 max-w-[760px]">
        <thead>
          <tr>
            <th className="w">Rule</th>
            <th>Off by</th>
            <th>Let pass</th>
            <th className="w" />
          </tr>
        </thead>
        <tbody>
          {b.laws.map((l) => (
            <tr key={l.law}>
              <td className="w">
                <a className="link" href={`/method#${l.law}`}>
                  {l.demands}
                </a>
              </td>
              <td>{l.share === 0 ? "0" : percent(l.share)}</td>
              <td>{l.limit < 1e-6 ? powerOfTen(Math.round(Math.log10(l.limit || 1e-9))) : percent(l.limit)}</td>
              <td className="w">
                <StateMark state={l.state} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

function Second({ b }: { b: RunBalance }) {
  if (!b.second.length) return null;
  return (
    <>
      <h2 className="mt-5">Worked out a second way</h2>
      <table className="mt-1">
        <thead>
          <tr>
            <th className="w">Quantity</th>
            <th className="w">By</th>
            <th>Value</th>
            <th className="w">And by</th>
            <th>Value</th>
            <th>Apart</th>
            <th>Let pass</th>
            <th className="w" />
          </tr>
        </thead>
        <tbody>
          {b.second.map((s) => {
            const show = resolve([s.first, s.second]);
            return (
              <tr key={s.name}>
                <td className="w">{s.name}</td>
                <td className="w">{s.firstBy}</td>
                <td>{show(s.first)}</td>
                <td className="w">{s.secondBy}</td>
                <td>{show(s.second)}</td>
                <td>{percent(s.relative)}</td>
                <td title={s.against === "1 %" ? "one in a hundred, while there is no mesh study" : s.against}>{percent(s.limit)}</td>
                <td className="w">
                  <StateMark state={s.state} />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {b.second.some((s) => Math.abs(s.first) > 0) ? (
        <p className="mt-1 text-[11.5px] text-ink-3">
          {b.cells === undefined ? "" : `On ${count(b.cells)} cells. `}The two share neither faces nor differences; both carry the mesh's error.
        </p>
      ) : null}
    </>
  );
}

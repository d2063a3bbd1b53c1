"use client";

import { skipToken, useQuery } from "@tanstack/react-query";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { INK } from "@/core/drawing/palette";
import { count, duration, percent, significant } from "@/core/formatting/number";
import { overStart } from "@/core/method/iteration/overStart";
import type { RunStatus } from "@/core/problems/build/benchJob";
import { settingDifferences } from "@/core/problems/describe/runSettings";
import type { CellField } from "@/core/solver/simulation";
import { addressOf, call, Refused } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { useHistory } from "../../api/useHistory";
import { type LiveRun, useRunEvents } from "../../api/useRunEvents";
import { HistoryChart } from "../../charts/HistoryChart";
import { FieldView } from "../../field/FieldView";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import type { CaseView, RunView } from "../../view";
import { AddToRun } from "../bringIn/AddToRun";
import { BringIn } from "../bringIn/BringIn";
import { CopyRun } from "./CopyRun";
import { RunControls } from "./RunControls";
import { PlanSweep, SweepTable } from "./Sweeps";

const WORDS = {
  waiting: "waits",
  running: "running",
  paused: "paused",
  done: "done",
  stopped: "stopped, kept",
  interrupted: "interrupted",
  diverged: "diverged",
  failed: "failed",
  followed: "followed",
} as const;
/** states a run can be taken up from again, where it left its state behind */
const LEFT_OFF = ["stopped", "interrupted"];
/** states a run can still go on from */
const UNDER_WAY = ["running", "waiting", "paused", "followed"];

/** Place of a column in the rows of a live run. */
const columnOf = (live: LiveRun | undefined, role: string, key: string) => live?.columns?.findIndex((c) => c.role === role && c.key === key) ?? -1;

/** Runs of a case: started, watched, stopped, compared, brought in. */
export function RunsStage({ view }: { view: CaseView }) {
  const router = useRouter();
  const { save, busy } = useSave();
  const every = useMemo(() => [...view.runs, ...view.sweeps.flatMap((s) => s.runs)], [view]);
  const active = every.filter((r) => ["running", "waiting", "followed"].includes(r.state));
  const { live, connected } = useRunEvents(view.id, true);
  const behind = every.some((r) => live[r.id]?.state !== undefined && live[r.id]?.state !== r.state);
  // Two changes close together may share one reading of the page: read again until it says what was heard.
  useEffect(() => {
    if (!behind) return;
    const again = setInterval(() => router.refresh(), 1000);
    return () => clearInterval(again);
  }, [behind, router]);
  const [chosen, setChosen] = useState<string>();
  const [bringing, setBringing] = useState(false);
  const [marked, setMarked] = useState<readonly string[]>([]);
  const [sweeping, setSweeping] = useState(false);
  const [adding, setAdding] = useState<string>();
  const added = view.runs.find((r) => r.id === adding);
  const running = every.find((r) => r.state === "running" || r.state === "followed");
  const watched = every.find((r) => r.id === chosen) ?? running ?? view.runs.filter((r) => r.iterations > 0).at(-1) ?? view.runs.at(-1);
  const stopAll = async () => {
    for (const r of [...active].reverse()) await call("POST /runs/{id}/stop", { at: { id: r.id } }).catch(() => undefined);
    toast("Stopping. What has been computed is kept.");
  };
  return (
    <>
      <StageHeader
        title="Runs"
        question={
          active.length
            ? `${active.length} of ${every.length} under way${connected ? "" : "; the server does not answer, trying again"}.`
            : "What was computed, with which settings, and did anything go wrong?"
        }
      >
        <button type="button" className="btn quiet" onClick={() => setBringing(!bringing)} aria-expanded={bringing}>
          {bringing ? "Close" : "Bring in results"}
        </button>
        {view.setup.problemId !== null ? (
          <button type="button" className="btn quiet" onClick={() => setSweeping(!sweeping)} aria-expanded={sweeping}>
            {sweeping ? "Close" : "Sweep a parameter"}
          </button>
        ) : null}
        {active.length ? (
          <button type="button" className="btn" onClick={stopAll}>
            Stop and keep
          </button>
        ) : view.setup.family ? (
          <>
            <Link href={`/cases/${view.id}/meshes?q=${encodeURIComponent(view.quantityKey)}`} className="btn quiet">
              Plan a family
            </Link>
            <button
              type="button"
              className="btn"
              disabled={busy}
              title={`${view.setup.family.count} meshes from ${view.setup.family.baseNx} × ${view.setup.family.baseNy}, ratio ${view.setup.family.ratio}`}
              onClick={() => void save("POST /cases/{id}/family/again", { at: { id: view.id } }, "The family was queued with the present set-up.")}
            >
              Run the family again
            </button>
          </>
        ) : view.setup.problemId !== null ? (
          <Link href={`/cases/${view.id}/meshes?q=${encodeURIComponent(view.quantityKey)}`} className="btn">
            Plan a family
          </Link>
        ) : null}
      </StageHeader>
      {bringing ? <BringIn view={view} done={() => setBringing(false)} /> : null}
      {sweeping ? <PlanSweep view={view} done={() => setSweeping(false)} /> : null}
      {view.runs.length === 0 && view.sweeps.length > 0 ? null : view.runs.length === 0 ? (
        <Empty>
          {view.setup.problemId === null
            ? "No run yet. Bring in the history and the results of the other code."
            : "No run yet. Plan a family on the Meshes page and start it, or bring in results from files."}
        </Empty>
      ) : (
        <RunTable
          view={view}
          live={live}
          watched={watched?.id}
          choose={setChosen}
          marked={marked}
          mark={setMarked}
          again={(id) => void save("POST /runs/{id}/again", { at: { id } }, "Queued again with the same settings.")}
          adding={adding}
          add={setAdding}
          busy={busy}
        />
      )}
      {added ? <AddToRun key={`add ${added.id}`} view={view} run={added} done={() => setAdding(undefined)} /> : null}
      {marked.length === 2 ? <Differences runs={view.runs.filter((r) => marked.includes(r.id))} /> : null}
      {view.sweeps.map((s) => (
        <SweepTable key={s.id} view={view} sweep={s} live={live} watched={watched?.id} choose={setChosen} />
      ))}
      {watched ? <Watch key={watched.id} view={view} run={watched} live={live[watched.id]} /> : null}
    </>
  );
}

function RunTable(p: {
  view: CaseView;
  live: Readonly<Record<string, LiveRun>>;
  watched?: string;
  choose: (id: string) => void;
  marked: readonly string[];
  mark: (ids: readonly string[]) => void;
  again: (id: string) => void;
  adding: string | undefined;
  add: (id: string | undefined) => void;
  busy: boolean;
}) {
  const { view, live } = p;
  const { save } = useSave();
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const target = view.evidence.dropTarget;
  const remove = async (r: RunView) => {
    if (await save("DELETE /runs/{id}", { at: { id: r.id } }))
      toast(`${r.label} was deleted.`, {
        duration: 12_000,
        action: { label: "Undo", onClick: () => void save("POST /runs/{id}/restore", { at: { id: r.id } }) },
      });
  };
  return (
    <table>
      <thead>
        <tr>
          <th>Run</th>
          <th>Cells</th>
          <th>Iterations</th>
          <th className="w" style={{ width: 190 }}>
            Drop in orders, {target} asked
          </th>
          <th>{q?.symbol ?? ""}</th>
          <th>Time</th>
          <th className="w">State</th>
          <th className="w">Settings</th>
          <th className="w">
            <span className="sr-only">Acts</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {view.runs.map((r) => {
          const rows = live[r.id]?.rows ?? [];
          const settled = view.assessment.settling.find((s) => s.runId === r.id);
          const drop = settled?.smallestDrop ?? liveDrop(live[r.id]);
          const value = r.result?.quantities[view.quantityKey] ?? rows.at(-1)?.[columnOf(live[r.id], "quantity", view.quantityKey)];
          const climbing = live[r.id]?.climbing;
          return (
            <tr key={r.id} className={r.id === p.watched ? "bg-margin" : ""} data-testid="run">
              <td>
                <button type="button" className="link font-mono" onClick={() => p.choose(r.id)} aria-pressed={r.id === p.watched}>
                  {r.label}
                </button>
                {r.code !== "bench" ? <span className="ml-2 font-sans text-[11.5px] text-ink-3">{r.code}</span> : null}
              </td>
              <td>{r.cells === null ? "–" : count(r.cells)}</td>
              <td>{Math.max(r.iterations, rows.at(-1)?.[0] ?? 0) || ""}</td>
              <td className="w">
                <div className="flex items-center gap-2.5">
                  <div
                    className="relative h-1.5 w-28 bg-[#e0ded4]"
                    role="progressbar"
                    aria-label={`drop in orders of ${r.label}`}
                    aria-valuemin={0}
                    aria-valuemax={target}
                    aria-valuenow={Math.max(0, Math.min(target, drop ?? 0))}
                  >
                    <i className="absolute inset-y-0 left-0 bg-blue" style={{ width: `${Math.max(0, Math.min(1, (drop ?? 0) / target)) * 100}%` }} />
                  </div>
                  <span className="font-mono text-[12px]">{drop === undefined ? "" : drop.toFixed(1)}</span>
                </div>
              </td>
              <td>{value === undefined || value === null ? "" : significant(value, 5)}</td>
              <td>{r.seconds ? duration(r.seconds) : ""}</td>
              <td className="w" title={r.failure ?? undefined}>
                {live[r.id]?.state === "pausing" && r.state === "running"
                  ? "pausing"
                  : climbing && r.state === "running"
                    ? `on ${count(climbing.cells)} cells first`
                    : WORDS[r.state]}
                {!r.current && r.result ? <span className="text-ink-3">, earlier set-up</span> : null}
              </td>
              <td className="w">
                <label className="flex items-center gap-1.5 font-mono text-[11.5px]">
                  <input
                    type="checkbox"
                    checked={p.marked.includes(r.id)}
                    onChange={(e) => p.mark(e.target.checked ? [...p.marked, r.id].slice(-2) : p.marked.filter((x) => x !== r.id))}
                    aria-label={`Compare the settings of ${r.label}`}
                  />
                  {r.settingsHash.slice(0, 8)}
                </label>
              </td>
              <td className="w whitespace-nowrap">
                {r.origin === "bench" && ["interrupted", "diverged", "failed", "stopped"].includes(r.state) ? (
                  <button type="button" className="btn quiet small" disabled={p.busy} onClick={() => p.again(r.id)}>
                    Run again
                  </button>
                ) : null}
                {r.resumable && LEFT_OFF.includes(r.state) ? (
                  <button
                    type="button"
                    className="btn quiet small ml-1"
                    disabled={p.busy}
                    onClick={() => void save("POST /runs/{id}/resume", { at: { id: r.id } }, `${r.label} goes on where it stood.`)}
                  >
                    Resume
                  </button>
                ) : null}
                {r.origin === "brought-in" && r.result ? (
                  <button
                    type="button"
                    className="btn quiet small"
                    aria-expanded={p.adding === r.id}
                    onClick={() => p.add(p.adding === r.id ? undefined : r.id)}
                  >
                    Add values
                  </button>
                ) : null}
                {r.origin === "bench" && !UNDER_WAY.includes(r.state) ? <CopyRun run={r} /> : null}
                {UNDER_WAY.includes(r.state) ? (
                  <RunControls run={r} />
                ) : (
                  <ConfirmButton
                    className="link ml-2 text-[12px] text-ink-3"
                    label={`Delete run ${r.label}`}
                    question={`Delete the run ${r.label}?`}
                    text="What rests on it is assessed anew without it. You can undo this for a few seconds."
                    action="Delete run"
                    onConfirm={() => void remove(r)}
                  >
                    Delete
                  </ConfirmButton>
                )}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Orders fallen of a run under way. */
function liveDrop(live: LiveRun | undefined): number | undefined {
  const last = live?.rows.at(-1);
  if (!last || !live?.starts || live.rows.length < 2) return undefined;
  const drops = Object.entries(live.starts).map(([name, start]) => Math.log10(start / last[columnOf(live, "residual", name)]));
  return drops.length ? Math.min(...drops) : undefined;
}

function Differences({ runs }: { runs: readonly RunView[] }) {
  const [a, b] = runs;
  const list = settingDifferences(a.settings, b.settings);
  return (
    <section className="my-3 border border-line bg-margin p-3" aria-label="Differences between two runs">
      <h2>
        What differs between {a.label} and {b.label}
      </h2>
      {list.length === 0 ? (
        <p className="text-ink-2">Nothing: the settings are the same to the last digit.</p>
      ) : (
        <table className="mt-1">
          <thead>
            <tr>
              <th>Setting</th>
              <th>{a.label}</th>
              <th>{b.label}</th>
            </tr>
          </thead>
          <tbody>
            {list.map((d) => (
              <tr key={d.path}>
                <td>{d.path}</td>
                <td>{d.left.slice(0, 60)}</td>
                <td>{d.right.slice(0, 60)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Watch({ view, run, live }: { view: CaseView; run: RunView; live: LiveRun | undefined }) {
  const [large, setLarge] = useState(false);
  const stored = useHistory(run.id, run.state);
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const joined = useMemo(() => join(stored, live, q?.key ?? ""), [stored, live, q?.key]);
  const fields = useStoredFields(run);
  const yardstick = view.assessment.comparison.values[view.quantityKey]?.[0];
  const known = yardstick?.reference ?? view.evidence.yardsticks.flatMap((y) => y.values).find((v) => v.quantityKey === view.quantityKey)?.value;
  const scaled = overStart({ residuals: joined.residuals, starts: stored?.starts ?? live?.starts });
  const target = run.settings.numerics.dropOrders;
  const busy = run.state === "running" || run.state === "followed";
  const along = joined.time ?? joined.iteration;
  return (
    <section className={`mt-3 grid gap-6 ${large ? "grid-cols-1" : "grid-cols-[minmax(0,1fr)_350px]"}`} aria-label={`Record of ${run.label}`}>
      <div className="min-w-0">
        <div className="flex items-baseline justify-between">
          <h2>
            {joined.time ? "Residuals at the end of each step, over its start" : "Residuals over their start"}{" "}
            <span className="text-[11.5px] font-normal text-ink-3">
              {run.label}
              {busy ? ", live" : ""}
            </span>
          </h2>
          {run.iterations ? (
            <a className="link text-[11.5px]" href={`/api/runs/${run.id}/history.csv`}>
              Record as CSV
            </a>
          ) : null}
        </div>
        {busy && live?.status ? <Status status={live.status} /> : null}
        {joined.iteration.length ? (
          <>
            {Object.keys(scaled).length ? (
              <HistoryChart
                title="Residuals over the iterations"
                iteration={along}
                series={Object.entries(scaled).map(([name, values]) => ({ name, values }))}
                log
                level={{ y: 10 ** -target, label: `${target} orders down`, color: INK.pointer }}
              />
            ) : (
              <p className="mt-1 text-[12.5px] text-ink-2">
                {run.origin === "bench"
                  ? "Explicit steps leave nothing unsolved: there are no residuals to watch."
                  : "The record holds no residuals: whether each step was solved far enough cannot be told from it."}
              </p>
            )}
            {q && joined.quantity.some(Number.isFinite) ? (
              <>
                <h2 className="mt-2">
                  {q.name} {joined.time ? <span className="text-[11.5px] font-normal text-ink-3">against time, s</span> : null}
                </h2>
                <HistoryChart
                  title={`${q.name} over the iterations`}
                  iteration={along}
                  series={[{ name: q.name, values: joined.quantity }]}
                  height={140}
                  level={known === undefined ? undefined : { y: known, label: `yardstick ${significant(known, 5)}`, color: INK.brass }}
                />
              </>
            ) : null}
          </>
        ) : (
          <p className="mt-2 text-ink-2">
            {run.state === "waiting"
              ? "Waits for a free core."
              : busy
                ? "Climbs through the coarser meshes first."
                : stored
                  ? "No record."
                  : "Reading the record …"}
          </p>
        )}
        {run.failure ? <p className="mt-2 border-l-2 border-pointer pl-3 text-[12.5px]">{run.failure}</p> : null}
      </div>
      {run.settings.problemId ? (
        <div className="min-w-0">
          <button type="button" className="btn quiet small no-print mb-1" aria-pressed={large} onClick={() => setLarge(!large)}>
            {large ? "Make the field smaller" : "Enlarge the field"}
          </button>
          <FieldView
            key={String(large)}
            width={large ? 860 : 350}
            most={large ? 620 : 340}
            settings={run.settings}
            runId={run.id}
            fields={fields}
            live={live?.field}
            chooseLive={(name) => void call("POST /runs/{id}/show", { at: { id: run.id }, input: { name } }).catch(() => undefined)}
            note={live?.iteration && busy ? `${joined.time ? "step" : "iteration"} ${live.iteration}` : run.label}
          />
        </div>
      ) : null}
    </section>
  );
}

/** What a run under way has to say: warnings in words, time left, memory, balances. */
function Status({ status }: { status: RunStatus }) {
  const left = status.secondsLeft;
  const carried = [...new Set(status.boundaries.flatMap((b) => Object.keys(b.scalars ?? {})))];
  return (
    <div className="mt-1 text-[12.5px]" aria-live="polite" data-testid="run-status">
      {status.warnings.map((w) => (
        <p key={w} className="flex gap-2">
          <StateMark state="remark" />
          <span>{w}</span>
        </p>
      ))}
      <p className="text-ink-2">
        {left === undefined
          ? "The residuals do not fall at present. "
          : `About ${duration(left)} left${status.iterationsLeft ? `, ${status.iterationsLeft} iterations` : ""}. `}
        {status.share !== undefined ? `${Math.round(status.share * 100)} % of the time is done. ` : ""}
        {significant(status.memoryBytes / 1e6, 2)} MB. Out of balance:{" "}
        {status.balance.map((l) => `${l.what} ${percent(l.relative)}`).join(", ") || "nothing flows"}.
      </p>
      <details className="text-[12px]">
        <summary className="cursor-pointer text-ink-3">Through each boundary, outward</summary>
        <table className="tight mt-1">
          <thead>
            <tr>
              <th className="w">Boundary</th>
              <th>Mass, kg/s</th>
              <th>x force and momentum, N</th>
              <th>y force and momentum, N</th>
              {carried.map((key) => (
                <th key={key}>{key}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {status.boundaries.map((b) => (
              <tr key={b.name}>
                <td className="w">{b.name}</td>
                <td>{flow(b.mass)}</td>
                <td>{flow(total(b.momentumX))}</td>
                <td>{flow(total(b.momentumY))}</td>
                {carried.map((key) => (
                  <td key={key}>{flow(total(b.scalars?.[key]))}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </div>
  );
}

const flow = (x: number | undefined) => (x === undefined ? "–" : significant(x, 4));
const total = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

interface Joined {
  readonly time?: readonly number[];
  readonly iteration: readonly number[];
  readonly residuals: Readonly<Record<string, readonly number[]>>;
  readonly quantity: readonly number[];
}

/** The stored record with the live rows that came after it. */
function join(stored: ReturnType<typeof useHistory>, live: LiveRun | undefined, key: string): Joined {
  const last = stored?.iteration.at(-1) ?? 0;
  const rows = (live?.rows ?? []).filter((r) => r[0] > last);
  const liveNames = (live?.columns ?? []).filter((c) => c.role === "residual").map((c) => c.key);
  const names = stored?.iteration.length ? Object.keys(stored.residuals) : liveNames;
  const take = (role: string, name: string) => {
    const k = columnOf(live, role, name);
    return rows.map((r) => (k < 0 ? Number.NaN : r[k]));
  };
  const timed = stored?.time ?? (columnOf(live, "time", "time") >= 0 ? [] : undefined);
  return {
    ...(timed ? { time: [...timed, ...take("time", "time")] } : {}),
    iteration: [...(stored?.iteration ?? []), ...rows.map((r) => r[0])],
    residuals: Object.fromEntries(names.map((n) => [n, [...(stored?.residuals[n] ?? []), ...take("residual", n)]])),
    quantity: [...(stored?.quantities[key] ?? (stored?.iteration ?? []).map(() => Number.NaN)), ...take("quantity", key)],
  };
}

/** The stored fields of a finished run. */
function useStoredFields(run: RunView): readonly CellField[] | undefined {
  const wanted = run.settings.problemId !== null && Boolean(run.result);
  const { data: list } = useAsked("GET /runs/{id}/fields", wanted ? { at: { id: run.id } } : undefined);
  const { data } = useQuery({
    queryKey: ["fields", run.id, list],
    queryFn: list ? ({ signal }) => Promise.all(list.map((f) => fieldOf(run.id, f, signal))) : skipToken,
  });
  return data;
}

async function fieldOf(id: string, { name, unit }: { name: string; unit: string }, signal: AbortSignal): Promise<CellField> {
  const answer = await fetch(addressOf("/runs/{id}/fields/{name}", { id, name }), { signal });
  if (!answer.ok) throw new Refused(`The field ${name} cannot be read.`, {});
  return { name, unit, values: new Float64Array(await answer.arrayBuffer()) };
}

"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import { INK } from "@/core/drawing/palette";
import { count, duration, significant } from "@/core/formatting/number";
import { overStart } from "@/core/iteration/overStart";
import { theilSen } from "@/core/iteration/residuals";
import { settingDifferences } from "@/core/problems/runSettings";
import { ConfirmButton } from "../parts/ConfirmButton";
import { call } from "../parts/call";
import { FieldCanvas } from "../parts/FieldCanvas";
import { HistoryChart } from "../parts/HistoryChart";
import { Empty, StageHeader } from "../parts/StageHeader";
import { useHistory } from "../parts/useHistory";
import { type LiveRun, useRunEvents } from "../parts/useRunEvents";
import type { CaseView, RunView } from "../view";
import { BringIn } from "./BringIn";
import { useSave } from "./useSave";

const WORDS = {
  waiting: "waits",
  running: "running",
  done: "done",
  stopped: "stopped, kept",
  interrupted: "interrupted",
  diverged: "diverged",
  failed: "failed",
} as const;
/** columns of a live row before the quantities: iteration and three residuals */
const RESIDUALS = ["x momentum", "y momentum", "mass"];

/** Runs of a case: started, watched, stopped, compared, brought in. */
export function RunsStage({ view }: { view: CaseView }) {
  const router = useRouter();
  const { save, busy } = useSave();
  const active = view.runs.filter((r) => r.state === "running" || r.state === "waiting");
  const { live, connected } = useRunEvents(view.id, true);
  const behind = view.runs.some((r) => live[r.id]?.state !== undefined && live[r.id]?.state !== r.state);
  // Two changes close together may share one reading of the page: read again until it says what was heard.
  useEffect(() => {
    if (!behind) return;
    const again = setInterval(() => router.refresh(), 1000);
    return () => clearInterval(again);
  }, [behind, router]);
  const [chosen, setChosen] = useState<string>();
  const [bringing, setBringing] = useState(false);
  const [marked, setMarked] = useState<readonly string[]>([]);
  const running = view.runs.find((r) => r.state === "running");
  const watched = view.runs.find((r) => r.id === chosen) ?? running ?? view.runs.filter((r) => r.iterations > 0).at(-1) ?? view.runs.at(-1);
  const stopAll = async () => {
    for (const r of [...active].reverse()) await call("POST", `runs/${r.id}/stop`).catch(() => undefined);
    toast("Stopping. What has been computed is kept.");
  };
  return (
    <>
      <StageHeader
        title="Runs"
        question={
          active.length
            ? `${active.length} of ${view.runs.length} under way${connected ? "" : "; the server does not answer, trying again"}.`
            : "What was computed, with which settings, and did anything go wrong?"
        }
      >
        <button type="button" className="btn quiet" onClick={() => setBringing(!bringing)} aria-expanded={bringing}>
          {bringing ? "Close" : "Bring in results"}
        </button>
        {active.length ? (
          <button type="button" className="btn" onClick={stopAll}>
            Stop and keep
          </button>
        ) : view.setup.problemId !== null ? (
          <Link href={`/cases/${view.id}/meshes?q=${encodeURIComponent(view.quantityKey)}`} className="btn">
            Plan a family
          </Link>
        ) : null}
      </StageHeader>
      {bringing ? <BringIn view={view} done={() => setBringing(false)} /> : null}
      {view.runs.length === 0 ? (
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
          again={(id) => void save("POST", `runs/${id}/again`, undefined, "Queued again with the same settings.")}
          busy={busy}
        />
      )}
      {marked.length === 2 ? <Differences runs={view.runs.filter((r) => marked.includes(r.id))} /> : null}
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
  busy: boolean;
}) {
  const { view, live } = p;
  const { save } = useSave();
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const at = view.evidence.quantities.findIndex((x) => x.key === view.quantityKey);
  const target = view.evidence.dropTarget;
  const remove = async (r: RunView) => {
    if (await save("DELETE", `runs/${r.id}`, undefined))
      toast(`${r.label} was deleted.`, {
        duration: 12_000,
        action: { label: "Undo", onClick: () => void save("POST", `runs/${r.id}/restore`, undefined) },
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
            Orders fallen, {target} asked
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
          const drop = settled?.smallestDrop ?? liveDrop(rows, live[r.id]?.starts);
          const value = r.result?.quantities[view.quantityKey] ?? rows.at(-1)?.[4 + at];
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
              <td>{r.iterations || rows.length || ""}</td>
              <td className="w">
                <div className="flex items-center gap-2.5">
                  <div
                    className="relative h-1.5 w-28 bg-[#e0ded4]"
                    role="progressbar"
                    aria-label={`orders fallen by ${r.label}`}
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
                {climbing && r.state === "running" ? `on ${count(climbing.cells)} cells first` : WORDS[r.state]}
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
                {r.state === "running" || r.state === "waiting" ? (
                  <button type="button" className="btn quiet small" onClick={() => void save("POST", `runs/${r.id}/stop`, undefined)}>
                    Stop
                  </button>
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
function liveDrop(rows: readonly (readonly number[])[], starts: Readonly<Record<string, number>> | undefined): number | undefined {
  if (rows.length < 2 || !starts) return undefined;
  const last = rows[rows.length - 1];
  return Math.min(...RESIDUALS.map((name, k) => Math.log10(starts[name] / last[1 + k])));
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
  const stored = useHistory(run.id, run.state);
  const index = view.evidence.quantities.findIndex((q) => q.key === view.quantityKey);
  const q = view.evidence.quantities[index];
  const joined = useMemo(() => join(stored, live, q?.key ?? "", index), [stored, live, q?.key, index]);
  const speed = useStoredSpeed(run, live?.speed);
  const yardstick = view.assessment.comparison.values[view.quantityKey]?.[0];
  const known = yardstick?.reference ?? view.evidence.yardsticks.flatMap((y) => y.values).find((v) => v.quantityKey === view.quantityKey)?.value;
  const scaled = overStart({ residuals: joined.residuals, starts: stored?.starts ?? live?.starts });
  const left = run.state === "running" ? timeLeft(scaled, view.evidence.dropTarget) : undefined;
  return (
    <section className="mt-3 grid grid-cols-[minmax(0,1fr)_350px] gap-6" aria-label={`Record of ${run.label}`}>
      <div className="min-w-0">
        <div className="flex items-baseline justify-between">
          <h2>
            Residuals over their start{" "}
            <span className="text-[11.5px] font-normal text-ink-3">
              {run.label}
              {run.state === "running" ? ", live" : ""}
            </span>
          </h2>
          {run.iterations ? (
            <a className="link text-[11.5px]" href={`/api/runs/${run.id}/history.csv`}>
              Record as CSV
            </a>
          ) : null}
        </div>
        {joined.iteration.length ? (
          <>
            <HistoryChart
              title="Residuals over the iterations"
              iteration={joined.iteration}
              series={Object.entries(scaled).map(([name, values]) => ({ name, values }))}
              log
              level={{ y: 10 ** -view.evidence.dropTarget, label: `${view.evidence.dropTarget} orders down`, color: INK.pointer }}
            />
            {q && joined.quantity.some(Number.isFinite) ? (
              <>
                <h2 className="mt-2">{q.name}</h2>
                <HistoryChart
                  title={`${q.name} over the iterations`}
                  iteration={joined.iteration}
                  series={[{ name: q.name, values: joined.quantity }]}
                  height={140}
                  level={known === undefined ? undefined : { y: known, label: `yardstick ${significant(known, 5)}`, color: INK.brass }}
                />
              </>
            ) : null}
          </>
        ) : (
          <p className="mt-2 text-ink-2">
            {run.state === "waiting" ? "Waits for a free core." : run.state === "running" ? "Climbs through the coarser meshes first." : "No record."}
          </p>
        )}
        {run.failure ? <p className="mt-2 border-l-2 border-pointer pl-3 text-[12.5px]">{run.failure}</p> : null}
        {left ? <p className="mt-1 text-[12.5px] text-ink-2">{left}</p> : null}
      </div>
      {run.settings.problemId ? (
        <FieldCanvas
          settings={run.settings}
          speed={speed}
          note={live?.iteration && run.state === "running" ? `iteration ${live.iteration}` : run.label}
        />
      ) : null}
    </section>
  );
}

interface Joined {
  readonly iteration: readonly number[];
  readonly residuals: Readonly<Record<string, readonly number[]>>;
  readonly quantity: readonly number[];
}

/** The stored record with the live rows that came after it. */
function join(stored: ReturnType<typeof useHistory>, live: LiveRun | undefined, key: string, index: number): Joined {
  const last = stored?.iteration.at(-1) ?? 0;
  const rows = (live?.rows ?? []).filter((r) => r[0] > last);
  const names = stored && Object.keys(stored.residuals).length ? Object.keys(stored.residuals) : RESIDUALS;
  return {
    iteration: [...(stored?.iteration ?? []), ...rows.map((r) => r[0])],
    residuals: Object.fromEntries(names.map((n) => [n, [...(stored?.residuals[n] ?? []), ...rows.map((r) => r[1 + RESIDUALS.indexOf(n)])]])),
    quantity: [...(stored?.quantities[key] ?? []), ...rows.map((r) => r[4 + index])],
  };
}

function timeLeft(scaled: Readonly<Record<string, readonly number[]>>, target: number): string | undefined {
  const worst = Object.values(scaled).map((v) => v.slice(-12).map((x) => Math.log10(x)));
  if (worst.some((v) => v.length < 6)) return undefined;
  const slope = Math.max(...worst.map((v) => theilSen(v).slope));
  const now = Math.max(...worst.map((v) => v[v.length - 1]));
  if (!(slope < 0)) return "The residuals do not fall at present.";
  const left = Math.max(0, Math.ceil((now + target) / -slope));
  return `The residuals fall by a factor of ${significant(10 ** slope, 2)} an iteration; about ${left} iterations are left.`;
}

/** The live field while a run is under way, the stored one afterwards. */
function useStoredSpeed(run: RunView, live: Float32Array | undefined): Float32Array | undefined {
  const [stored, setStored] = useState<Float32Array>();
  const wanted = run.settings.problemId !== null && Boolean(run.result);
  useEffect(() => {
    if (!wanted) return;
    const gone = new AbortController();
    fetch(`/api/runs/${run.id}/speed`, { signal: gone.signal })
      .then((r) => (r.ok ? r.arrayBuffer() : undefined))
      .then((b) => b && setStored(new Float32Array(b)))
      .catch(() => undefined);
    return () => gone.abort();
  }, [run.id, wanted]);
  return stored ?? live;
}

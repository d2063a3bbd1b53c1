"use client";

import { count, duration, significant } from "@/core/formatting/number";
import type { LiveRun } from "../../api/useRunEvents";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import { useRest } from "../../tables/useRest";
import type { RunsView, RunView } from "../../view";
import { lastOf, liveDrop } from "./liveRecord";
import { type Adding, RunActs } from "./RunActs";

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

interface RunTableProps {
  readonly view: RunsView;
  readonly live: Readonly<Record<string, LiveRun>>;
  readonly watched?: string;
  readonly choose: (id: string) => void;
  readonly marked: readonly string[];
  readonly mark: (ids: readonly string[]) => void;
  readonly adding: Adding | undefined;
  readonly add: (next: Adding | undefined) => void;
}

/** rows that come with the page */
const FIRST = 40;

/** The runs of a case, with how far each has come and what can be done with it. */
export function RunTable(p: RunTableProps) {
  const rows = useRest(p.view.runs, FIRST);
  return (
    <DataTable
      className=""
      rows={rows}
      rowKey={(r) => r.id}
      rowClass={(r) => (r.id === p.watched ? "bg-margin" : "")}
      rowTestId={() => "run"}
      columns={[...progressColumns(p), ...stateColumns(p)]}
    />
  );
}

function progressColumns({ view, live, watched, choose }: RunTableProps): Column<RunView>[] {
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const target = view.evidence.dropTarget;
  const dropOf = (r: RunView) => r.drop ?? liveDrop(live[r.id]);
  return [
    {
      header: "Run",
      cell: (r) => (
        <>
          <button type="button" className="link font-mono" onClick={() => choose(r.id)} aria-pressed={r.id === watched}>
            {r.label}
          </button>
          {r.code !== "bench" ? (
            <span className="ml-2 font-sans text-[11.5px] text-ink-3">{r.build?.version ? `${r.code} ${r.build.version}` : r.code}</span>
          ) : null}
        </>
      ),
    },
    { header: "Cells", cell: (r) => (r.cells === null ? "–" : count(r.cells)) },
    { header: "Iterations", cell: (r) => Math.max(r.iterations, live[r.id]?.rows.at(-1)?.[0] ?? 0) || "" },
    {
      header: `Drop in orders, ${target} asked`,
      words: true,
      headClassName: "w-[190px]",
      cell: (r) => <Drop label={r.label} drop={dropOf(r)} target={target} />,
    },
    {
      header: q?.symbol ?? "",
      cell: (r) => {
        const value = r.quantities[view.quantityKey] ?? lastOf(live[r.id], view.quantityKey);
        return value === undefined || value === null ? "" : significant(value, 5);
      },
    },
    { header: "Time", cell: (r) => (r.seconds ? duration(r.seconds) : "") },
  ];
}

const stateColumns = ({ live, marked, mark, adding, add }: RunTableProps): Column<RunView>[] => [
  {
    header: "State",
    words: true,
    title: (r) => r.failure ?? undefined,
    cell: (r) => (
      <>
        {stateText(r, live[r.id])}
        {!r.current && r.finished ? <span className="text-ink-3">, earlier set-up</span> : null}
      </>
    ),
  },
  {
    header: "Settings",
    words: true,
    cell: (r) => (
      <label className="flex items-center gap-1.5 font-mono text-[11.5px]">
        <input
          type="checkbox"
          checked={marked.includes(r.id)}
          onChange={(e) => mark(e.target.checked ? [...marked, r.id].slice(-2) : marked.filter((x) => x !== r.id))}
          aria-label={`Compare the settings of ${r.label}`}
        />
        {r.settingsHash}
      </label>
    ),
  },
  {
    header: <Unseen>Acts</Unseen>,
    words: true,
    className: "whitespace-nowrap",
    cell: (r) => <RunActs run={r} adding={adding} add={add} />,
  },
];

function stateText(r: RunView, live: LiveRun | undefined): string {
  if (r.state !== "running") return WORDS[r.state];
  if (live?.state === "pausing") return "pausing";
  return live?.climbing ? `on ${count(live.climbing.cells)} cells first` : WORDS.running;
}

function Drop({ label, drop, target }: { label: string; drop: number | undefined; target: number }) {
  const share = Math.max(0, Math.min(1, (drop ?? 0) / target));
  return (
    <div className="flex items-center gap-2.5">
      <div
        className="relative h-1.5 w-28 bg-track"
        role="progressbar"
        aria-label={`drop in orders of ${label}`}
        aria-valuemin={0}
        aria-valuemax={target}
        aria-valuenow={share * target}
      >
        <i className="absolute inset-y-0 left-0 bg-blue" style={{ width: `${share * 100}%` }} />
      </div>
      <span className="font-mono text-[12px]">{drop === undefined ? "" : drop.toFixed(1)}</span>
    </div>
  );
}

"use client";

import { significant, typedNumber } from "@/core/formatting/number";
import { described } from "@/core/problems/describe/catalogue";
import type { LiveRun } from "../../api/useRunEvents";
import { ConfirmButton } from "../../forms/ConfirmButton";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { RunsView, RunView, SweepView } from "../../view";
import { BackToCase } from "./BackToCase";
import { RunControls } from "./RunControls";

/** Small first letter within a sentence, but for names such as Reynolds. */
const lower = (label: string) => (/^(Reynolds|Rayleigh|Mach|Prandtl|Peclet)/.test(label) ? label : label[0].toLowerCase() + label.slice(1));
/** quantities there is room for beside the axes */
const MOST_QUANTITIES = 5;

/** What a run of a sweep was given along an axis: its parameter, or, of a similarity number, the value of its place. */
function axisValues(view: RunsView, sweep: SweepView, at: number): number[] {
  const { problemId } = view.setup;
  const problem = problemId === null ? undefined : described(problemId);
  const second = sweep.axes[1]?.values.length ?? 1;
  return sweep.axes.map((a, k) => {
    const planned = k === 0 ? a.values[Math.floor(at / second)] : a.values[at % second];
    const isNumber = problem?.similarity?.some((s) => s.key === a.key);
    return isNumber ? planned : (sweep.runs[at].settings.parameters[a.key] ?? planned);
  });
}

interface SweepTableProps {
  readonly view: RunsView;
  readonly sweep: SweepView;
  readonly live: Readonly<Record<string, LiveRun>>;
  readonly watched?: string;
  readonly choose: (id: string) => void;
}

/** A sweep's table, which fills as results come. */
export function SweepTable(p: SweepTableProps) {
  const { view, sweep } = p;
  const { save } = useSave();
  const quantities = view.evidence.quantities.slice(0, MOST_QUANTITIES);
  const done = sweep.runs.filter((r) => r.finished).length;
  const header = [...sweep.axes.map((a) => `${a.label}${a.unit ? `, ${a.unit}` : ""}`), ...quantities.map((q) => q.symbol)];
  const csv = sweep.runs.map((r, i) => [...axisValues(view, sweep, i), ...quantities.map((q) => r.quantities[q.key] ?? "")]);
  return (
    <section className="mt-4" aria-label={`Sweep over ${sweep.label}`} data-testid="sweep">
      <div className="flex items-baseline gap-3">
        <h2>
          {sweep.runs.some((r) => r.origin === "brought-in") ? "Runs" : "Sweep"} over {lower(sweep.label)}{" "}
          <span className="text-[11.5px] font-normal text-ink-3">
            {done} of {sweep.runs.length} done
          </span>
        </h2>
        <CsvButton name="sweep" header={header} rows={csv} />
        <ConfirmButton
          className="link text-[11.5px] text-ink-3"
          label="Delete this sweep"
          question="Delete this sweep and its runs?"
          text="Runs under way are stopped first."
          action="Delete sweep"
          onConfirm={() => void save("DELETE /sweeps/{id}", { at: { id: sweep.id } }, "The sweep was deleted.")}
        >
          Delete
        </ConfirmButton>
      </div>
      <DataTable
        rows={sweep.runs}
        rowKey={(r) => r.id}
        rowClass={(r) => (r.id === p.watched ? "bg-margin" : "")}
        columns={[...axisColumns(p, header), ...quantityColumns(view), ...stateColumns(p)]}
      />
    </section>
  );
}

function axisColumns({ sweep, watched, choose, view }: SweepTableProps, header: readonly string[]): Column<RunView>[] {
  return sweep.axes.map((_, k) => ({
    header: header[k],
    cell: (r, i) => {
      const value = typedNumber(axisValues(view, sweep, i)[k]);
      if (k > 0) return value;
      return (
        <button type="button" className="link font-mono" onClick={() => choose(r.id)} aria-pressed={r.id === watched}>
          {value}
        </button>
      );
    },
  }));
}

const quantityColumns = (view: RunsView): Column<RunView>[] =>
  view.evidence.quantities.slice(0, MOST_QUANTITIES).map((q) => ({
    header: q.symbol,
    cell: (r) => (r.quantities[q.key] === undefined ? "" : significant(r.quantities[q.key], 5)),
  }));

const stateColumns = ({ live }: SweepTableProps): Column<RunView>[] => [
  {
    header: "State",
    words: true,
    title: (r) => r.failure ?? undefined,
    cell: (r) => {
      const steps = r.state === "running" ? live[r.id]?.rows.length : 0;
      return `${r.state === "waiting" ? "waits" : r.state}${steps ? `, ${steps}` : ""}`;
    },
  },
  {
    header: <Unseen>Acts</Unseen>,
    words: true,
    cell: (r) =>
      ["running", "waiting", "paused"].includes(r.state) ? <RunControls run={r} /> : r.origin === "brought-in" ? <BackToCase run={r} /> : null,
  },
];

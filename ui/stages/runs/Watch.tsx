"use client";

import { useMemo, useState } from "react";
import { INK } from "@/core/drawing/palette";
import { significant } from "@/core/formatting/number";
import { overStart } from "@/core/method/iteration/overStart";
import { codeWords } from "@/core/records/build";
import type { QuantitySpec } from "@/core/records/quantity";
import type { CellField } from "@/core/solver/simulation";
import { call } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { useHistory } from "../../api/useHistory";
import type { LiveRun } from "../../api/useRunEvents";
import { HistoryChart } from "../../charts/HistoryChart";
import { FieldView } from "../../field/FieldView";
import type { RunsView, RunView } from "../../view";
import { join } from "./liveRecord";
import { RunMoments, type ShownMoments } from "./RunMoments";
import { RunStatus } from "./RunStatus";
import { useMomentFields, useStoredFields } from "./useStoredFields";

interface WatchProps {
  readonly view: RunsView;
  readonly run: RunView;
  readonly live: LiveRun | undefined;
}

const isBusy = (run: RunView) => run.state === "running" || run.state === "followed";

/** The record of a run as it grows, beside its field. */
export function Watch({ view, run, live }: WatchProps) {
  const [large, setLarge] = useState(false);
  const stored = useHistory(run.id, run.state);
  const fields = useStoredFields(run);
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const joined = useMemo(() => join(stored, live, q?.key ?? ""), [stored, live, q?.key]);
  return (
    <section className={`mt-3 grid gap-6 ${large ? "grid-cols-1" : "grid-cols-[minmax(0,1fr)_350px]"}`} aria-label={`Record of ${run.label}`}>
      <div className="min-w-0">
        <RecordHead run={run} inTime={joined.time !== undefined} />
        {isBusy(run) && live?.status ? <RunStatus status={live.status} /> : null}
        {joined.iteration.length ? (
          <>
            <Residuals run={run} joined={joined} starts={stored?.starts ?? live?.starts} />
            {q && joined.quantity.some(Number.isFinite) ? <Quantity view={view} run={run} q={q} joined={joined} /> : null}
          </>
        ) : (
          <p className="mt-2 text-ink-2">{nothingYet(run, stored !== undefined)}</p>
        )}
        {run.failure ? <p className="mt-2 border-l-2 border-pointer pl-3 text-[12.5px]">{run.failure}</p> : null}
      </div>
      {run.settings.problemId || fields?.length ? (
        <WatchedField run={run} fields={fields} live={live} inTime={joined.time !== undefined} large={large} setLarge={setLarge} />
      ) : null}
    </section>
  );
}

function RecordHead({ run, inTime }: { run: RunView; inTime: boolean }) {
  return (
    <div className="flex items-baseline justify-between">
      <h2>
        {inTime ? "Residuals at the end of each step, over its start" : "Residuals over their start"}{" "}
        <span className="text-[11.5px] font-normal text-ink-3">
          {run.label}
          {isBusy(run) ? ", live" : ""}
        </span>
      </h2>
      {run.iterations ? (
        <a className="link mr-14 inline-block min-h-6 text-[11.5px]" href={`/api/runs/${run.id}/history.csv`}>
          Record as CSV
        </a>
      ) : null}
    </div>
  );
}

type Joined = ReturnType<typeof join>;

/** The record of a run by its name and settings. */
const recordOf = ({ label, code, settingsHash }: RunView): string => `the record of ${label} of ${codeWords(code)}, settings ${settingsHash}`;

function Residuals({ run, joined, starts }: { run: RunView; joined: Joined; starts?: Readonly<Record<string, number>> }) {
  const scaled = Object.entries(overStart({ residuals: joined.residuals, starts }));
  const target = run.settings.numerics.dropOrders;
  if (!scaled.length)
    return (
      <p className="mt-1 text-[12.5px] text-ink-2">
        {run.origin === "bench"
          ? "Explicit steps leave nothing unsolved: there are no residuals to watch."
          : "The record holds no residuals: whether each step was solved far enough cannot be told from it."}
      </p>
    );
  return (
    <HistoryChart
      title="Residuals over the iterations"
      of={recordOf(run)}
      iteration={joined.time ?? joined.iteration}
      series={scaled.map(([name, values]) => ({ name, values }))}
      log
      level={{ y: 10 ** -target, label: `${target} orders down`, color: INK.pointer }}
    />
  );
}

function Quantity({ view, run, q, joined }: { view: RunsView; run: RunView; q: QuantitySpec; joined: Joined }) {
  const compared = view.assessment.comparison.values[q.key]?.[0]?.reference;
  const known = compared ?? view.evidence.yardsticks.flatMap((y) => y.values).find((v) => v.quantityKey === q.key)?.value;
  return (
    <>
      <h2 className="mt-2">
        {q.name} {joined.time ? <span className="text-[11.5px] font-normal text-ink-3">against time, s</span> : null}
      </h2>
      <HistoryChart
        title={`${q.name} over the iterations`}
        of={recordOf(run)}
        iteration={joined.time ?? joined.iteration}
        series={[{ name: q.name, values: joined.quantity }]}
        height={140}
        level={known === undefined ? undefined : { y: known, label: `yardstick ${significant(known, 5)}`, color: INK.brass }}
      />
    </>
  );
}

function nothingYet(run: RunView, read: boolean): string {
  if (run.state === "waiting") return "Waits for a free core.";
  if (isBusy(run)) return "Climbs through the coarser meshes first.";
  return read ? "No record." : "Reading the record …";
}

interface WatchedFieldProps {
  readonly run: RunView;
  readonly fields: readonly CellField[] | undefined;
  readonly live: LiveRun | undefined;
  readonly inTime: boolean;
  readonly large: boolean;
  readonly setLarge: (large: boolean) => void;
}

function WatchedField({ run, fields, live, inTime, large, setLarge }: WatchedFieldProps) {
  const [shownAt, setShownAt] = useState<ShownMoments>();
  const { data: moments = [] } = useAsked("GET /runs/{id}/moments", inTime && run.finished ? { at: { id: run.id } } : undefined);
  const then = useMomentFields(run.id, shownAt?.moments ?? []);
  const time = shownAt && then ? shownAt.words : "";
  return (
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
        fields={then ?? fields}
        inTime={moments.length > 0}
        live={live?.field}
        chooseLive={(name) => void call("POST /runs/{id}/show", { at: { id: run.id }, input: { name } }).catch(() => undefined)}
        note={time || (live?.iteration && isBusy(run) ? `${inTime ? "step" : "iteration"} ${live.iteration}` : run.label)}
      />
      {moments.length ? <RunMoments run={run} moments={moments} shown={shownAt} show={setShownAt} /> : null}
    </div>
  );
}

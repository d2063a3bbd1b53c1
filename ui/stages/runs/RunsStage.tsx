"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useMemo, useState } from "react";
import { call } from "../../api/call";
import { useRunEvents } from "../../api/useRunEvents";
import { useSave } from "../../forms/useSave";
import { notify } from "../../shell/notify";
import { Empty, StageHeader } from "../../shell/StageHeader";
import type { RunsView, RunView } from "../../view";
import { AddCurves, AddToRun, BringIn, BuildForm, ConditionForm, Differences, GridForm, PlanSweep, SurfaceForm, SweepTable } from "./panels";
import { type Adding, UNDER_WAY } from "./RunActs";
import { RunTable } from "./RunTable";
import { readRuns, type SentRuns } from "./sentRuns";
import { Watch } from "./Watch";

const AGAIN_MS = 1000;

/** Events of a case's runs; the page is read again until it says what was heard, for two changes close together may share one reading of it. */
function useHeard(view: RunsView, every: readonly RunView[]) {
  const router = useRouter();
  const heard = useRunEvents(
    view.id,
    every.filter((r) => UNDER_WAY.includes(r.state)).map((r) => r.id),
  );
  const behind = every.some((r) => heard.live[r.id]?.state !== undefined && heard.live[r.id]?.state !== r.state);
  useEffect(() => {
    if (!behind) return;
    const again = setInterval(() => router.refresh(), AGAIN_MS);
    return () => clearInterval(again);
  }, [behind, router]);
  return heard;
}

type Panel = "bring in" | "sweep";

/** Runs of a case: started, watched, stopped, compared, brought in. */
export function RunsStage({ view: sent }: { view: SentRuns }) {
  const view = useMemo(() => readRuns(sent), [sent]);
  const every = useMemo(() => [...view.runs, ...view.sweeps.flatMap((s) => s.runs)], [view]);
  const active = every.filter((r) => ["running", "waiting", "followed"].includes(r.state));
  const { live, connected } = useHeard(view, every);
  const [chosen, setChosen] = useState<string>();
  const [panels, setPanels] = useState<ReadonlySet<Panel>>(new Set());
  const [marked, setMarked] = useState<readonly string[]>([]);
  const [adding, setAdding] = useState<Adding>();
  const added = view.runs.find((r) => r.id === adding?.run);
  const running = every.find((r) => r.state === "running" || r.state === "followed");
  const watched = every.find((r) => r.id === chosen) ?? running ?? view.runs.filter((r) => r.iterations > 0).at(-1) ?? view.runs.at(-1);
  const toggle = (panel: Panel) => setPanels(new Set(panels.has(panel) ? [...panels].filter((x) => x !== panel) : [...panels, panel]));
  const silent = connected ? "" : "; the server does not answer, trying again";
  return (
    <>
      <StageHeader
        title="Runs"
        question={
          active.length
            ? `${active.length} of ${every.length} under way${silent}.`
            : "What was computed, with which settings, and did anything go wrong?"
        }
      >
        <PanelButton panel="bring in" words="Bring in results" open={panels} toggle={toggle} />
        {view.setup.problemId !== null ? <PanelButton panel="sweep" words="Sweep a parameter" open={panels} toggle={toggle} /> : null}
        <MainButtons view={view} active={active} />
      </StageHeader>
      {panels.has("bring in") ? <BringIn view={view} done={() => toggle("bring in")} /> : null}
      {panels.has("sweep") ? <PlanSweep view={view} done={() => toggle("sweep")} /> : null}
      {view.runs.length ? (
        <RunTable view={view} live={live} watched={watched?.id} choose={setChosen} marked={marked} mark={setMarked} adding={adding} add={setAdding} />
      ) : view.sweeps.length ? null : (
        <NoRuns foreign={view.setup.problemId === null} />
      )}
      {added && adding?.what === "values" ? <AddToRun key={`add ${added.id}`} view={view} run={added} done={() => setAdding(undefined)} /> : null}
      {added && adding?.what === "condition" ? (
        <ConditionForm key={`condition ${added.id}`} view={view} run={added} done={() => setAdding(undefined)} />
      ) : null}
      {added && adding?.what === "build" ? <BuildForm key={`build ${added.id}`} run={added} done={() => setAdding(undefined)} /> : null}
      {added && adding?.what === "curves" ? <AddCurves key={`curves ${added.id}`} view={view} run={added} done={() => setAdding(undefined)} /> : null}
      {added && adding?.what === "fields" ? <GridForm key={`fields ${added.id}`} run={added} done={() => setAdding(undefined)} /> : null}
      {added && adding?.what === "surface" ? (
        <SurfaceForm key={`surface ${added.id}`} view={view} run={added} done={() => setAdding(undefined)} />
      ) : null}
      {marked.length === 2 ? <Differences runs={view.runs.filter((r) => marked.includes(r.id))} /> : null}
      {view.sweeps.map((s) => (
        <SweepTable key={s.id} view={view} sweep={s} live={live} watched={watched?.id} choose={setChosen} />
      ))}
      {watched ? <Watch key={watched.id} view={view} run={watched} live={live[watched.id]} /> : null}
    </>
  );
}

function PanelButton({ panel, words, open, toggle }: { panel: Panel; words: string; open: ReadonlySet<Panel>; toggle: (panel: Panel) => void }) {
  return (
    <button type="button" className="btn quiet" onClick={() => toggle(panel)} aria-expanded={open.has(panel)}>
      {open.has(panel) ? "Close" : words}
    </button>
  );
}

function NoRuns({ foreign }: { foreign: boolean }) {
  return (
    <Empty>
      {foreign
        ? "No run yet. Bring in the history and the results of the other code."
        : "No run yet. Plan a family on the Meshes page and start it, or bring in results from files."}
    </Empty>
  );
}

/** Stops what is under way; otherwise plans a family, or runs the planned one again. */
function MainButtons({ view, active }: { view: RunsView; active: readonly RunView[] }) {
  const { save, busy } = useSave();
  const { family, problemId } = view.setup;
  const plan = `/cases/${view.id}/meshes?q=${encodeURIComponent(view.quantityKey)}`;
  const stopAll = async () => {
    for (const r of [...active].reverse()) await call("POST /runs/{id}/stop", { at: { id: r.id } }).catch(() => undefined);
    notify("Stopping. What has been computed is kept.");
  };
  if (active.length)
    return (
      <button type="button" className="btn" onClick={stopAll}>
        Stop and keep
      </button>
    );
  if (problemId === null && !family) return null;
  return (
    <>
      <Link href={plan} className={family ? "btn quiet" : "btn"}>
        Plan a family
      </Link>
      {family ? (
        <button
          type="button"
          className="btn"
          disabled={busy}
          title={`${family.count} meshes from ${family.baseNx} × ${family.baseNy}, ratio ${family.ratio}`}
          onClick={() => void save("POST /cases/{id}/family/again", { at: { id: view.id } }, "The family was queued with the present set-up.")}
        >
          Run the family again
        </button>
      ) : null}
    </>
  );
}

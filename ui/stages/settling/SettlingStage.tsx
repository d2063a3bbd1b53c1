"use client";

import { useState } from "react";
import { useAsked } from "../../api/useAsked";
import { useHistory } from "../../api/useHistory";
import { useSave } from "../../forms/useSave";
import { Empty, StageHeader } from "../../shell/StageHeader";
import { StateMark } from "../../shell/StateMark";
import type { SettlingView } from "../../view";
import { Averages } from "./Averages";
import { Drops, IterationErrors, Tolerances } from "./figures";
import { judgingWords } from "./judging";
import { type Judge, QuantityRecord, ResidualRecord } from "./records";

type Settling = SettlingView["assessment"]["settling"][number];

/** Has it settled: drops, states, remaining iteration errors, value against stopping tolerance. */
export function SettlingStage({ view }: { view: SettlingView }) {
  const { settling } = view.assessment;
  const [wanted, setChosen] = useState(view.settled[0]?.runId);
  const chosen = view.settled.some((x) => x.runId === wanted) ? wanted : view.settled[0]?.runId;
  const sent = settling.find((x) => x.runId === chosen);
  const ask = chosen !== undefined && !sent;
  const { data } = useAsked("GET /cases/{id}/settling/{run}", ask ? { at: { id: view.id, run: chosen } } : undefined, view.version);
  const s = sent ?? (data as Settling | undefined);
  return (
    <>
      <StageHeader title="Settling" question="Has the iteration gone far enough that what is left no longer matters?" />
      {chosen ? (
        <>
          <RunChoice all={view.settled} chosen={chosen} choose={setChosen} />
          {s ? <OfRun view={view} s={s} /> : <div className="h-[400px]" aria-busy="true" />}
        </>
      ) : (
        <Empty>Needs a finished run. Start the family on the Runs page, or bring in a history.</Empty>
      )}
    </>
  );
}

function RunChoice({ all, chosen, choose }: { all: SettlingView["settled"]; chosen: string; choose: (id: string) => void }) {
  return (
    <div className="mb-3 flex flex-wrap gap-1.5" role="group" aria-label="Run">
      {all.map((x) => (
        <button
          key={x.runId}
          type="button"
          aria-pressed={x.runId === chosen}
          onClick={() => choose(x.runId)}
          className={`flex items-center gap-2 rounded-sm border px-3 py-1 text-[12px] ${x.runId === chosen ? "border-ink bg-plot font-semibold" : "border-line text-ink-2"}`}
        >
          <StateMark state={x.state} plain /> {x.label}
        </button>
      ))}
    </div>
  );
}

/** How one run settled, with what a person decided about reading its record. */
function OfRun({ view, s }: { view: SettlingView; s: Settling }) {
  const history = useHistory(s.runId, "done");
  const { save, busy } = useSave();
  const run = view.runs.find((r) => r.id === s.runId);
  const judging = run?.judging ?? {};
  const judge: Judge = (change) => {
    const next = Object.fromEntries(Object.entries({ ...judging, ...change }).filter(([, v]) => v !== undefined));
    void save("PUT /runs/{id}/judging", { at: { id: s.runId }, input: next }, "The record is read that way from now on.");
  };
  return (
    <>
      <div className="grid grid-cols-2 gap-6">
        <ResidualRecord view={view} s={s} run={run} history={history} judge={judge} />
        <QuantityRecord view={view} s={s} judging={judging} history={history} judge={judge} />
      </div>
      {Object.keys(judging).some((k) => k !== "average") ? (
        <p className="mt-1 text-[12px] text-ink-2">
          Read by hand: {judgingWords(judging)}.{" "}
          <button
            type="button"
            className="link"
            onClick={() => judge({ cut: undefined, cuts: undefined, startEntry: undefined, stretchFrom: undefined })}
          >
            Leave it to the tests
          </button>
        </p>
      ) : null}
      <Averages
        view={view}
        settling={s}
        version={JSON.stringify(judging)}
        busy={busy}
        onAdopt={(adopt) => judge({ average: adopt ? true : undefined })}
      />
      {s.residuals.length || s.quantities.length ? (
        <div className="mt-4 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-6">
          <div>
            <Drops s={s} />
            <Tolerances view={view} s={s} />
          </div>
          <IterationErrors view={view} s={s} />
        </div>
      ) : null}
    </>
  );
}

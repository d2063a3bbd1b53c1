"use client";

import Link from "next/link";
import { errorAgainstSpacing, valueAgainstSpacing } from "@/core/drawing/caseCharts";
import { Drawing } from "../../charts/Drawing";
import { StageHeader } from "../../shell/StageHeader";
import type { RefinementView } from "../../view";
import { Autopilot } from "./Autopilot";
import { Curves } from "./Curves";
import { Divergence } from "./Divergence";
import { EveryQuantity } from "./EveryQuantity";
import { Fields } from "./fields/Fields";
import { OtherLadders } from "./OtherLadders";
import { PlanLadder } from "./PlanLadder";
import { Planning } from "./Planning";
import { Procedures } from "./Procedures";
import { Rungs } from "./Rungs";

const QUESTION = "How far is this number from the one an infinitely fine mesh would give?";

/** The rungs a study rests on. */
const rungsText = ({ rungs }: RefinementView["assessment"]["refinement"][number]): string =>
  rungs.map((g) => `${g.label}${g.leftOut ? ", left out" : ""}`).join("; ");

/** How far is this number from the one an infinitely fine mesh would give? */
export function RefinementStage({ view }: { view: RefinementView }) {
  const q = view.evidence.quantities.find((x) => x.key === view.quantityKey);
  const r = view.assessment.refinement.find((x) => x.key === view.quantityKey);
  const scale = view.assessment.rules.find((x) => x.quantityKey === view.quantityKey)?.scale;
  if (!q || !r || scale === undefined) return <StageHeader title="Refinement" question={QUESTION} />;
  const y = view.assessment.comparison.values[q.key]?.[0];
  const error = errorAgainstSpacing(r, q, scale);
  return (
    <>
      <StageHeader title="Refinement" question={QUESTION}>
        {view.setup.problemId !== null ? (
          <Link className="btn" href={`/cases/${view.id}/meshes?q=${encodeURIComponent(q.key)}`}>
            Plan the next mesh
          </Link>
        ) : null}
      </StageHeader>
      {r.rungs.length ? (
        <>
          <div className="grid grid-cols-2 gap-5">
            <div>
              <h2>Value against spacing</h2>
              <Drawing
                svg={valueAgainstSpacing(r, q, y && { value: y.reference, name: y.yardstick })}
                name={`${q.key} against spacing`}
                of={rungsText(r)}
              />
            </div>
            <div>
              <h2>Error against spacing</h2>
              {error ? (
                <Drawing svg={error} name={`error of ${q.key}`} of={rungsText(r)} />
              ) : (
                <p className="mt-2 max-w-[40ch] text-ink-2">{r.headline}</p>
              )}
            </div>
          </div>
          <Rungs caseId={view.id} r={r} q={q} scale={scale} />
          <Procedures caseId={view.id} r={r} q={q} scale={scale} />
          <Planning r={r} q={q} budget={view.assessment.rules.find((x) => x.quantityKey === q.key)} />
          <Divergence caseId={view.id} r={r} q={q} />
        </>
      ) : (
        <p className="mt-4 max-w-[52ch] border-l-2 border-tin pl-4 text-ink-2">
          {r.headline} Start a family on the Meshes page, or bring in three runs.
        </p>
      )}
      {view.setup.problemId !== null ? (
        <Autopilot caseId={view.id} q={q} names={Object.fromEntries(view.evidence.quantities.map((x) => [x.key, x.name]))} />
      ) : null}
      <EveryQuantity view={view} />
      {view.setup.problemId !== null ? <Fields view={view} rungs={r.rungs} /> : null}
      <Curves curves={view.assessment.curves} formalOrder={view.evidence.formalOrder} />
      <PlanLadder view={view} rungs={r.rungs} />
      <OtherLadders ladders={view.assessment.ladders} q={q} scale={scale} />
    </>
  );
}

"use client";

import { useState } from "react";
import { useFocusOnOpen } from "../forms/useFocusOnOpen";
import { useSave } from "../forms/useSave";
import type { CaseView, RunLine } from "../view";
import { CurveColumns } from "./CurveColumns";
import { CurvePictures } from "./CurvePictures";
import { filled, type KnownCurve } from "./targets";
import { sentOf, useCurveFile } from "./useCurveFile";

/** Curves of a file, added to a run that was brought in before. */
export function AddCurves({ view, run, done }: { view: CaseView; run: RunLine; done: () => void }) {
  const of = useCurveFile(view.id);
  const { save, busy } = useSave();
  const [targets, setTargets] = useState<Readonly<Record<string, string>>>({});
  const [replace, setReplace] = useState(false);
  const own = useFocusOnOpen<HTMLElement>();
  const known = knownCurves(view);
  const { file, found, words } = of;
  const ready = file && found?.curves.length ? file : undefined;
  const add = async () => {
    if (!ready) return;
    const input = { file: ready.sent, mapping: sentOf(words), targets: filled(targets), replace };
    if (await save("POST /runs/{id}/curves", { at: { id: run.id }, input }, `${run.label} has ${found?.curves.length} curves more.`)) done();
  };
  return (
    <section ref={own} className="mb-3 border border-line bg-margin p-3" aria-label={`Add curves to ${run.label}`}>
      <h3>Add curves to {run.label}</h3>
      <CurveColumns of={of} />
      {found ? (
        <CurvePictures curves={found.curves} known={known} targets={targets} aim={(name, key) => setTargets({ ...targets, [name]: key })} />
      ) : null}
      {found ? (
        <label className="mt-2 flex items-center gap-2">
          <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> replace curves the run has already
        </label>
      ) : null}
      <span className="mt-2 flex gap-2">
        <button type="button" className="btn" disabled={busy || !ready} onClick={() => void add()}>
          Add the curves
        </button>
        <button type="button" className="btn quiet" onClick={done}>
          Leave it
        </button>
      </span>
    </section>
  );
}

/** Curves that yardsticks of the case have, by the name they go by. */
export const knownCurves = (view: CaseView): KnownCurve[] => [
  ...new Map(
    view.evidence.yardsticks.flatMap((y) => y.profiles.map((p) => [p.profileKey, { key: p.profileKey, name: p.axes?.name ?? p.profileKey }])),
  ).values(),
];

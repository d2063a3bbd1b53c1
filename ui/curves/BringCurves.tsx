"use client";

import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { entryOf, useEntries } from "../forms/entries";
import { useFocusOnOpen } from "../forms/useFocusOnOpen";
import type { CaseView } from "../view";
import { CurveColumns, CurveUncertainty } from "./CurveColumns";
import { CurvePictures } from "./CurvePictures";
import { filled, type KnownCurve } from "./targets";
import { sentOf, useCurveFile } from "./useCurveFile";
import { NO_WORDS, WordEntries, type YardstickWords } from "./WordEntries";

interface Words extends YardstickWords {
  readonly windowFrom: string;
  readonly windowTo: string;
}

const Entry = entryOf<Words>();
const EMPTY: Words = { ...NO_WORDS, windowFrom: "", windowTo: "" };

/** Curves of a file as a yardstick: at any number of stations, with uncertainties, conditions, window and provenance. */
export function BringCurves({ view, known, done }: { view: CaseView; known: readonly KnownCurve[]; done: () => void }) {
  const of = useCurveFile(view.id);
  const { form, save, busy } = useEntries<Words>(EMPTY);
  const [targets, setTargets] = useState<Readonly<Record<string, string>>>({});
  const [believed, setBelieved] = useState<Readonly<Record<string, readonly number[]>>>({});
  const own = useFocusOnOpen<HTMLFormElement>();
  const { file, found, words } = of;
  const ready = file && found?.curves.length ? file : undefined;
  const bring = form.handleSubmit(async (typed) => {
    if (!ready) return;
    const input = {
      ...typed,
      conditions: filled(typed.conditions),
      file: ready.sent,
      mapping: sentOf(words),
      targets: filled(targets),
      believed: Object.fromEntries(Object.entries(believed).map(([k, v]) => [k, [...v]])),
    };
    if (await save("POST /cases/{id}/curves", { at: { id: view.id }, input }, `${found?.curves.length} curves became a yardstick.`)) {
      of.release();
      done();
    }
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mb-5 border border-line bg-margin p-3" onSubmit={bring} aria-label="Bring in curves">
        <CurveColumns of={of} />
        {found ? (
          <>
            <CurveUncertainty of={of} />
            <CurvePictures
              curves={found.curves}
              known={known}
              targets={targets}
              aim={(name, key) => setTargets({ ...targets, [name]: key })}
              believed={believed}
              believe={(name, index, yes) => {
                const others = (believed[name] ?? []).filter((i) => i !== index);
                setBelieved({ ...believed, [name]: yes ? [...others, index] : others });
              }}
            />
            <WordEntries />
            <div className="mt-2 grid grid-cols-4 gap-2">
              <Entry name="windowFrom" label="Compared from" placeholder="or empty" />
              <Entry name="windowTo" label="Compared to" placeholder="or empty" />
            </div>
            <div className="mt-3 flex justify-end">
              <button type="submit" className="btn" disabled={busy || !ready}>
                Take as yardstick
              </button>
            </div>
          </>
        ) : null}
      </form>
    </FormProvider>
  );
}

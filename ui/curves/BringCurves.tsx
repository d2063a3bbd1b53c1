"use client";

import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { entryOf, useEntries } from "../forms/entries";
import { useFocusOnOpen } from "../forms/useFocusOnOpen";
import type { CaseView } from "../view";
import { CurveColumns, CurveUncertainty } from "./CurveColumns";
import { CurvePictures } from "./CurvePictures";
import { CONDITION_NAMES } from "./conditionNames";
import { sentOf, useCurveFile } from "./useCurveFile";

interface Words {
  readonly name: string;
  readonly kind: "measured" | "table" | "other-code";
  readonly source: string;
  readonly validity: string;
  readonly who: string;
  readonly how: string;
  readonly when: string;
  readonly windowFrom: string;
  readonly windowTo: string;
  readonly conditions: Readonly<Partial<Record<keyof typeof CONDITION_NAMES, string>>>;
}

const Entry = entryOf<Words>();
const KINDS = [
  ["measured", "measured"],
  ["table", "published table or curve"],
  ["other-code", "another code's result"],
] as const;
const EMPTY: Words = {
  name: "",
  kind: "measured",
  source: "",
  validity: "",
  who: "",
  how: "",
  when: "",
  windowFrom: "",
  windowTo: "",
  conditions: {},
};

/** Curves of a file as a yardstick: at any number of stations, with uncertainties, conditions, window and provenance. */
export function BringCurves({ view, known, done }: { view: CaseView; known: readonly { key: string; name: string }[]; done: () => void }) {
  const of = useCurveFile();
  const { form, save, busy } = useEntries<Words>(EMPTY);
  const [targets, setTargets] = useState<Readonly<Record<string, string>>>({});
  const [believed, setBelieved] = useState<Readonly<Record<string, readonly number[]>>>({});
  const own = useFocusOnOpen<HTMLFormElement>();
  const { file, found, words } = of;
  const ready = file && found?.curves.length ? file : undefined;
  const bring = form.handleSubmit(async (typed) => {
    if (!ready) return;
    const aimed = Object.fromEntries(Object.entries(targets).filter(([, key]) => key !== ""));
    const conditions = Object.fromEntries(Object.entries(typed.conditions).filter(([, v]) => v));
    const input = {
      ...typed,
      conditions,
      file: ready,
      mapping: sentOf(words),
      targets: aimed,
      believed: Object.fromEntries(Object.entries(believed).map(([k, v]) => [k, [...v]])),
    };
    if (await save("POST /cases/{id}/curves", { at: { id: view.id }, input }, `${found?.curves.length} curves became a yardstick.`)) done();
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
            <div className="mt-3 grid grid-cols-4 gap-2">
              <Entry name="name" label="Name" words />
              <Entry name="kind" label="Kind" choices={KINDS} />
              <div className="col-span-2">
                <Entry name="source" label="Source" words />
              </div>
              <Entry name="who" label="Who" words placeholder="initials" />
              <Entry name="when" label="When" words />
              <div className="col-span-2">
                <Entry name="how" label="How" words placeholder="hot wire, traverse by hand" />
              </div>
              <div className="col-span-2">
                <Entry name="validity" label="Where it holds, in words" words />
              </div>
              <Entry name="windowFrom" label="Compared from" placeholder="or empty" />
              <Entry name="windowTo" label="Compared to" placeholder="or empty" />
            </div>
            <Conditions />
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

/** Conditions it was made at: they are held against the case's whenever it is opened. */
function Conditions() {
  return (
    <details className="mt-2">
      <summary className="cursor-pointer text-[12.5px] text-ink-2">Conditions it was made at, to be held against the case's</summary>
      <div className="mt-1 grid grid-cols-4 gap-2">
        {(Object.keys(CONDITION_NAMES) as (keyof typeof CONDITION_NAMES)[]).map((like) => (
          <Entry key={like} name={`conditions.${like}`} mistake={`condition-${like}`} label={CONDITION_NAMES[like]} placeholder="or empty" />
        ))}
      </div>
    </details>
  );
}

"use client";

import { useState } from "react";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { notify } from "../../shell/notify";
import type { FieldChoice } from "./entries";

type Place = readonly [number, number, number];

const own = ([x, y, z]: Place): [number, number, number] => [x, y, z];

interface Props {
  readonly run: { readonly id: string; readonly label: string };
  readonly colour: FieldChoice;
  readonly smooth: boolean;
  readonly corners: readonly Place[];
  readonly count: number;
}

/** Keeps what was read along a line as a curve of the run; the server reads it again from the file it keeps. */
export function KeepLine({ run, colour, smooth, corners, count }: Props) {
  const { save, busy, mistakes } = useSave();
  const [name, setName] = useState(`${colour.words} along a line`);
  const [unit, setUnit] = useState(colour.unit);
  const [against, setAgainst] = useState<"way" | "x" | "y" | "z">("way");
  const [replace, setReplace] = useState(false);
  const keep = async () => {
    const input = {
      name,
      of: colour.array,
      component: colour.component,
      smooth,
      unit,
      from: own(corners[0]),
      to: own(corners[corners.length - 1]),
      by: corners.slice(1, -1).map(own),
      count,
      against,
      replace,
    };
    const told = await save("POST /runs/{id}/space/line", { at: { id: run.id }, input }, `The curve is kept with ${run.label}; Comparison has it.`);
    for (const note of told?.notes ?? []) notify(note);
  };
  return (
    <form
      className="mt-1 flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void keep();
      }}
    >
      <div className="w-56">
        <Field label={`Keep it with ${run.label} as`} words value={name} onChange={setName} mistake={mistakes.name} />
      </div>
      <div className="w-24">
        <Field label="Unit" value={unit} onChange={setUnit} mistake={mistakes.unit} />
      </div>
      <div className="w-36">
        <Field
          label="Over"
          words
          value={against}
          choices={[
            ["way", "the way, m"],
            ["x", "x, m"],
            ["y", "y, m"],
            ["z", "z, m"],
          ]}
          onChange={setAgainst}
        />
      </div>
      <label className="flex items-center gap-2 text-[12.5px]">
        <input type="checkbox" checked={replace} onChange={(e) => setReplace(e.target.checked)} /> replace one of this name
      </label>
      <button type="submit" className="btn quiet" disabled={busy}>
        {busy ? "Reading it" : "Keep the curve"}
      </button>
    </form>
  );
}

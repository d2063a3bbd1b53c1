"use client";

import { useState } from "react";
import type { FaceMesh } from "@/core/mesh/faceMesh";
import type { DerivedField } from "@/core/monitors/derived";
import { symbolsOf } from "@/core/monitors/symbols";
import { asker } from "../engine/asker";
import { Field } from "../forms/Field";
import { sentenceOf } from "../shell/notify";
import type { FormulaAsk } from "./formula.worker";

const put = asker(
  () => new Worker(new URL("./formula.worker.ts", import.meta.url), { type: "module" }),
  "The part that works formulas out broke off. Try again.",
);

const ask = (question: FormulaAsk): Promise<{ readonly values: Float64Array; readonly unit: string }> => put("formula", () => question);

interface Props {
  readonly mesh: FaceMesh;
  readonly fields: readonly DerivedField[];
  readonly made: (field: DerivedField) => void;
}

/** A field made by a formula over those there are; it lasts as long as the view. */
export function OwnField({ mesh, fields, made }: Props) {
  const [formula, setFormula] = useState("");
  const [name, setName] = useState("own");
  const [mistake, setMistake] = useState("");
  const [busy, setBusy] = useState(false);
  const make = async () => {
    setBusy(true);
    setMistake("");
    try {
      const { values, unit } = await ask({ mesh, fields: fields.filter((f) => !f.key.startsWith("own ")), text: formula });
      made({ key: `own ${name.trim() || "own"}`, name: `${name.trim() || "own"} = ${formula.trim()}`, unit: unit.replaceAll("*", " "), values });
    } catch (error) {
      setMistake(sentenceOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="no-print mt-2 flex flex-col gap-1.5"
      onSubmit={(e) => {
        e.preventDefault();
        void make();
      }}
    >
      <div className="grid grid-cols-[1fr_80px] gap-2">
        <Field label="Formula over the fields" value={formula} onChange={setFormula} placeholder="v_dx - u_dy" mistake={mistake} />
        <Field label="Its name" words value={name} onChange={setName} />
      </div>
      <p className="text-[11px] text-ink-3">
        Known are {symbolsOf(fields.filter((f) => !f.key.startsWith("own ")).map((f) => f.key)).join(", ")}, and with _dx or _dy behind it the slope
        of each; all in SI.
      </p>
      <button type="submit" className="btn quiet small self-start" disabled={busy || !formula.trim()}>
        {busy ? "Working it out" : "Show it"}
      </button>
    </form>
  );
}

"use client";

import { useRouter } from "next/navigation";
import { useState } from "react";
import type { Explored } from "@/core/exact/explore";
import { unitText } from "@/core/formatting/number";
import { Field } from "../forms/Field";
import { useSave } from "../forms/useSave";
import type { Shown } from "./asks";

/** The case that looks for a yardstick: what it is to deliver. */
export interface CaseAsking {
  readonly id: string;
  readonly title: string;
  readonly quantities: readonly { readonly key: string; readonly name: string; readonly unit: string }[];
  readonly curves: readonly { readonly key: string; readonly name: string }[];
}

interface Props {
  readonly shown: Shown;
  readonly found: Explored & { ok: true };
  readonly entries: Readonly<Record<string, string>>;
  /** parameters that stay the case's own conditions */
  readonly followed: readonly string[];
  readonly asking: CaseAsking;
}

const NONE = "";

/** Which figure or curve is to stand for which quantity or curve of the case. */
export function TakeAsYardstick({ shown, found, entries, followed, asking }: Props) {
  const router = useRouter();
  const { save, busy } = useSave(() => {});
  const [name, setName] = useState(shown.name);
  const [values, setValues] = useState<Readonly<Record<string, string>>>({});
  const [curves, setCurves] = useState<Readonly<Record<string, string>>>({});
  const some = [...Object.values(values), ...Object.values(curves)].some((v) => v !== NONE);
  const take = async () => {
    const chosen = (list: Readonly<Record<string, string>>) => Object.entries(list).filter(([, from]) => from !== NONE);
    const input = {
      name,
      parameters: entries,
      followed: [...followed],
      values: chosen(values).map(([quantityKey, from]) => ({ from, quantityKey, sign: 1 as const })),
      curves: chosen(curves).map(([profileKey, from]) => ({ from, profileKey })),
    };
    const at = { id: asking.id, solution: shown.id };
    if (await save("POST /cases/{id}/library/{solution}", { at, input }, `${name} is a yardstick of ${asking.title} now.`))
      router.push(`/cases/${asking.id}/yardsticks`);
  };
  const figures = [[NONE, "nothing"] as const, ...found.values.map((v) => [v.key, `${v.name}${v.unit ? `, ${unitText(v.unit)}` : ""}`] as const)];
  return (
    <section aria-label="Take as yardstick" className="border border-line bg-margin p-3">
      <h3>A yardstick for {asking.title}</h3>
      <p className="mb-2 text-[12px] text-ink-3">
        Say what stands for what.{" "}
        {followed.length
          ? "Parameters marked as the case's follow it when its conditions change; the others stay as they are."
          : "Its parameters stay as they are."}
      </p>
      <div className="grid grid-cols-2 gap-2">
        <Field label="Name" value={name} onChange={setName} words />
        {asking.quantities.map((q) => (
          <Field
            key={q.key}
            label={`For ${q.name}${q.unit && q.unit !== "1" ? `, ${unitText(q.unit)}` : ""}`}
            value={values[q.key] ?? NONE}
            onChange={(from) => setValues({ ...values, [q.key]: from })}
            choices={figures}
          />
        ))}
        {asking.curves.map((c) => (
          <Field
            key={c.key}
            label={`For the curve ${c.name}`}
            value={curves[c.key] ?? NONE}
            onChange={(from) => setCurves({ ...curves, [c.key]: from })}
            choices={[[NONE, "nothing"] as const, ...found.curves.map((x) => [x.key, x.name] as const)]}
          />
        ))}
      </div>
      <div className="mt-2 flex items-center justify-end gap-3">
        {found.inside ? null : (
          <span className="text-[12px] text-pointer-deep">It does not hold here: it can be looked at, and decides nothing.</span>
        )}
        <button type="button" className="btn" disabled={busy || !some} onClick={() => void take()}>
          Take as yardstick
        </button>
      </div>
    </section>
  );
}

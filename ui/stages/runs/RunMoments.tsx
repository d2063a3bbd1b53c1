"use client";

import { useMemo, useState } from "react";
import { significant } from "@/core/formatting/number";
import { NoPhases, phasesOf } from "@/core/monitors/phases";
import { MomentBar } from "../../field/MomentBar";
import { Field } from "../../forms/Field";
import { typedNumber } from "../../forms/typedNumber";
import type { RunView } from "../../view";
import type { KeptMoment } from "./useStoredFields";

/** Moments whose fields are shown: one, or several as their mean. */
export interface ShownMoments {
  readonly at: number;
  readonly moments: readonly KeptMoment[];
  readonly words: string;
}

interface Props {
  readonly run: RunView;
  readonly moments: readonly KeptMoment[];
  readonly shown: ShownMoments | undefined;
  readonly show: (shown: ShownMoments | undefined) => void;
}

const PARTS = 8;

/** Times at which the fields of a run were kept, one by one or as means over the phases of a motion; the end of the run stands behind them. */
export function RunMoments({ run, moments, shown, show }: Props) {
  const [period, setPeriod] = useState("");
  const [parts, setParts] = useState(String(PARTS));
  const { list, mistake } = useMemo(() => listOf(moments, period, parts), [moments, period, parts]);
  const goTo = async (at: number) => show({ at, ...list[at] });
  const at = Math.min(shown?.at ?? list.length - 1, list.length - 1);
  return (
    <>
      <MomentBar count={list.length} at={at} words={shown ? shown.words : "the end"} goTo={goTo} />
      <div className="no-print mt-1 flex flex-wrap items-end gap-3 text-[11.5px]">
        <div className="w-40">
          <Field
            label="Means over phases, period, s"
            value={period}
            placeholder="none"
            onChange={(v) => {
              setPeriod(v);
              show(undefined);
            }}
            mistake={mistake}
          />
        </div>
        {period.trim() ? (
          <div className="w-20">
            <Field label="Parts of it" value={parts} onChange={setParts} />
          </div>
        ) : null}
        {shown ? (
          <button type="button" className="link" onClick={() => show(undefined)}>
            the end of the run
          </button>
        ) : null}
        <a className="link" href={`/api/runs/${run.id}/moments.zip?field=speed`}>
          pictures of the speed, zip
        </a>
      </div>
    </>
  );
}

/** What can be gone through: the moments, or where a period is typed its phases. */
function listOf(
  moments: readonly KeptMoment[],
  period: string,
  parts: string,
): { readonly list: readonly Omit<ShownMoments, "at">[]; readonly mistake?: string } {
  const each = moments.map((m) => ({ moments: [m], words: `t ${significant(m.timeS, 5)} s` }));
  if (!period.trim()) return { list: each };
  try {
    const phases = phasesOf(
      moments.map((m) => m.timeS),
      typedNumber(period),
      Math.round(typedNumber(parts)),
    );
    return {
      list: phases.map((p) => ({
        moments: p.moments.map((k) => moments[k]),
        words: `phase ${significant(p.share, 3)}, mean of ${p.moments.length}`,
      })),
    };
  } catch (error) {
    if (!(error instanceof NoPhases)) throw error;
    return { list: each, mistake: error.message };
  }
}

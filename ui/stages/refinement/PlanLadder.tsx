"use client";

import { useEffect, useMemo, useState } from "react";
import { FormProvider } from "react-hook-form";
import { significant } from "@/core/formatting/number";
import { type AxisPlan, axisPlans } from "@/core/problems/describe/ladderPlan";
import { AXIS_WORDS } from "@/core/study/ladders";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { RefinementView } from "../../view";

type Rung = RefinementView["assessment"]["refinement"][number]["rungs"][number];

interface Props {
  readonly view: RefinementView;
  readonly rungs: readonly Rung[];
}

/** Runs on one mesh that differ from the case in its time step, its domain or its tolerance alone. */
export function PlanLadder({ view, rungs }: Props) {
  const [open, setOpen] = useState(false);
  const plans = useMemo(() => axisPlans(view.setup), [view.setup]);
  if (!plans.length || !rungs.length || view.assessment.stale) return null;
  return (
    <section aria-label="Plan a ladder" className="no-print">
      {open ? (
        <Plan caseId={view.id} plans={plans} rungs={rungs} close={() => setOpen(false)} />
      ) : (
        <p className="mt-5 text-[12.5px] text-ink-2">
          What the{" "}
          {plans
            .map((p) => AXIS_WORDS[p.axis])
            .join(", the ")
            .replace(/, the (?=[^,]*$)/, " or the ")}{" "}
          leaves shows on a ladder of its own.
          <button type="button" className="btn quiet ml-3" onClick={() => setOpen(true)}>
            Plan a ladder
          </button>
        </p>
      )}
    </section>
  );
}

interface Typed {
  readonly axis: string;
  readonly runId: string;
  readonly values: string;
}

const Entry = entryOf<Typed>();

const suggestionOf = (plan: AxisPlan): string => plan.suggested.map((v) => String(Number(v.toPrecision(4)))).join("; ");

interface PlanProps {
  readonly caseId: string;
  readonly plans: readonly AxisPlan[];
  readonly rungs: readonly Rung[];
  readonly close: () => void;
}

function Plan({ caseId, plans, rungs, close }: PlanProps) {
  const { form, save, busy } = useEntries<Typed>({ axis: plans[0].axis, runId: rungs[0].runId, values: suggestionOf(plans[0]) });
  const first = useFocusOnOpen<HTMLFormElement>();
  const axis = form.watch("axis");
  const plan = plans.find((p) => p.axis === axis) ?? plans[0];
  const { setValue } = form;
  useEffect(() => setValue("values", suggestionOf(plan)), [plan, setValue]);
  const submit = async () => {
    const { runId, values } = form.getValues();
    const numbers = values.split(";").flatMap((v) => (v.trim() ? [Number(v)] : []));
    const input = { axis: plan.axis, runId, values: numbers };
    if (await save("POST /cases/{id}/ladder", { at: { id: caseId }, input }, "The runs of the ladder are in the queue.")) close();
  };
  return (
    <FormProvider {...form}>
      <form
        ref={first}
        className="mt-4 grid max-w-[760px] grid-cols-[1fr_1fr_1.4fr_auto] items-end gap-2 border border-line bg-sheet p-2"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <Entry name="axis" label="Along" choices={plans.map((p) => [p.axis, AXIS_WORDS[p.axis]] as const)} />
        <Entry name="runId" label="On the mesh" choices={rungs.map((r) => [r.runId, r.label] as const)} />
        <Entry name="values" label={`${plan.label}; the case has ${significant(plan.own, 4)}`} />
        <span className="flex gap-2">
          <FormEnd leave={close} off={busy}>
            Run them
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}

"use client";

import { FormProvider } from "react-hook-form";
import { significant, unitText } from "@/core/formatting/number";
import { OWN_SEVERITIES, RELATIONS } from "@/core/records/ownRule";
import type { Input } from "../api/call";
import { useAsked } from "../api/useAsked";
import { entryOf, useEntries } from "../forms/entries";
import { FormEnd } from "../forms/FormEnd";
import { useFocusOnOpen } from "../forms/useFocusOnOpen";
import { notify } from "../shell/notify";

type Typed = Omit<Input<"POST /cases/{id}/rules">, "findingId">;
const Entry = entryOf<Typed>();

const SEVERITY_WORDS = { stop: "the set-up fails", doubt: "a doubt, to be answered", note: "a note" } as const;

/** A finding becomes a rule that every set-up of the programme is held against. */
export function RuleForm({ caseId, finding, done }: { caseId: string; finding: { id: string; title: string; what: string }; done: () => void }) {
  const { data: names } = useAsked("GET /cases/{id}/rule-names", { at: { id: caseId } });
  const { form, save, busy } = useEntries<Typed>({
    name: finding.title.slice(0, 120),
    left: "",
    relation: "at least",
    right: "",
    severity: "doubt",
    reason: finding.what.slice(0, 400),
    by: "",
  });
  const own = useFocusOnOpen<HTMLFormElement>();
  const put = form.handleSubmit(async (typed) => {
    const made = await save("POST /cases/{id}/rules", { at: { id: caseId }, input: { ...typed, findingId: finding.id } });
    if (!made) return;
    notify(`Kept for every case of the programme. ${made.said}`);
    done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mt-2 grid grid-cols-[1.4fr_0.6fr_1.4fr] gap-2 border border-line bg-margin p-3" onSubmit={put}>
        <p className="col-span-3 text-[12px] text-ink-2">
          Two formulas over what a set-up states; units are checked, and every case of the programme that states all of it is held against the rule.
        </p>
        <Entry name="left" label="This" placeholder="domainHighM - domainLowM" />
        <Entry name="relation" label="is to be" choices={RELATIONS.map((r) => [r, r] as const)} />
        <Entry name="right" label="that" placeholder="10 * lengthM" />
        <Entry name="name" label="Name of the rule" words />
        <Entry name="severity" label="Else" choices={OWN_SEVERITIES.map((s) => [s, SEVERITY_WORDS[s]] as const)} />
        <Entry name="by" label="Signed, initials" words />
        <span className="col-span-3">
          <Entry name="reason" label="Because" words />
        </span>
        {names?.length ? (
          <details className="col-span-3 text-[12px] text-ink-2">
            <summary>Names that can be used, with what they are here</summary>
            <p className="mt-1 font-mono text-[11.5px]">
              {names.map((n) => `${n.name} = ${significant(n.value, 4)} ${unitText(n.unit)}`.trimEnd()).join("; ")}
            </p>
          </details>
        ) : null}
        <span className="col-span-3 flex justify-end gap-2">
          <FormEnd leave={done} off={busy}>
            Make the rule
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}

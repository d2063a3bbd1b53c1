"use client";

import Link from "next/link";
import { FormProvider, useWatch } from "react-hook-form";
import type { Stage } from "@/core/assessment/results/stage";
import { CAUSES, findCause } from "@/core/assessment/verdict/causes";
import { FINDING_SEVERITIES, type FindingSeverity } from "@/core/records/finding";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { FindingView, VerdictView } from "../../view";

const BLANK = {
  title: "",
  what: "",
  cause: "",
  change: "",
  shownBy: "",
  curedBy: "",
  causeKey: "",
  quantityKey: "",
  stage: "",
  severity: "major" as FindingSeverity,
  owner: "",
  test: "",
};
const CHOICES = [["", "another, in words"] as const, ...CAUSES.map((c) => [c.key, c.name] as const)];

type Typed = typeof BLANK;

export const SEVERITY_WORDS: Readonly<Record<FindingSeverity, string>> = {
  minor: "minor: changes no verdict",
  major: "major: may change a verdict",
  blocking: "blocking: nothing is claimed until it is cured",
};

const Entry = entryOf<Typed>();

const typedOf = ({ title, what, cause, change, shownBy, curedBy, causeKey, quantityKey, stage, severity, owner, test }: FindingView): Typed => ({
  severity,
  owner,
  test,
  causeKey,
  quantityKey: quantityKey ?? "",
  stage: stage ?? "",
  title,
  what,
  cause,
  change,
  shownBy: shownBy ?? "",
  curedBy: curedBy ?? "",
});

interface FindingFormProps {
  readonly view: VerdictView;
  readonly finding: FindingView | undefined;
  /** what is known of it already, where it was begun at a stage */
  readonly begun?: Partial<Typed>;
  readonly done: () => void;
}

/** Writes a finding, or changes one. */
export function FindingForm({ view, finding, begun, done }: FindingFormProps) {
  const { form, save, busy } = useEntries<Typed>(finding ? typedOf(finding) : { ...BLANK, ...begun });
  const own = useFocusOnOpen<HTMLFormElement>();
  const runs = [["", "none"] as const, ...view.runs.map((r) => [r.id, `${r.label}, ${r.code}, ${r.createdAt.slice(0, 10)}`] as const)];
  const keep = form.handleSubmit(async (typed) => {
    const { shownBy, curedBy, quantityKey, stage } = typed;
    const input = {
      ...typed,
      shownBy: shownBy || null,
      curedBy: curedBy || null,
      quantityKey: quantityKey || null,
      stage: (stage || null) as Stage | null,
    };
    const ok = finding
      ? await save("PUT /findings/{id}", { at: { id: finding.id }, input }, "The finding was saved.")
      : await save("POST /cases/{id}/findings", { at: { id: view.id }, input }, "The finding was written.");
    if (ok) done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mt-2 grid grid-cols-2 gap-2 border border-line bg-margin p-3" onSubmit={keep}>
        <Entry name="title" label="Name" words />
        <Entry name="what" label="What is off" words />
        <Entry name="severity" label="Severity" choices={FINDING_SEVERITIES.map((s) => [s, SEVERITY_WORDS[s]] as const)} />
        <Entry name="owner" label="Who sees to it, initials" words />
        <Entry
          name="quantityKey"
          label="About"
          choices={[["", "the whole case"], ...view.evidence.quantities.map((q) => [q.key, q.name] as const)]}
        />
        <Entry name="causeKey" label="Suspected cause" choices={CHOICES} />
        <Entry name="cause" label="The cause in words" words />
        <Entry name="test" label="How the suspicion was tested, and what came of it" words />
        <Entry name="change" label="What was changed" words />
        <Entry name="shownBy" label="Run that shows it" choices={runs} />
        <Entry name="curedBy" label="Run that cures it" choices={runs} />
        <Checks view={view} />
        <div className="col-span-2 flex justify-end gap-2">
          <FormEnd leave={done} off={busy}>
            Save finding
          </FormEnd>
        </div>
      </form>
    </FormProvider>
  );
}

/** What would confirm the chosen cause, with the way there. */
function Checks({ view }: { view: VerdictView }) {
  const key: string = useWatch({ name: "causeKey" });
  const cause = findCause(key);
  if (!cause) return null;
  return (
    <div className="col-span-2 text-[12.5px] text-ink-2">
      What would confirm it:
      <ul className="list-disc pl-5">
        {cause.checks.map((c) => (
          <li key={c.sentence}>
            {c.sentence}{" "}
            <Link className="link text-[12px]" href={`/cases/${view.id}/${c.go}?q=${encodeURIComponent(view.quantityKey)}`}>
              Go to {c.go}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}

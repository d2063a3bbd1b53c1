"use client";

import { FormProvider, useWatch } from "react-hook-form";
import type { FactorJudged } from "@/core/method/credibility/credibility";
import { STATEMENT_KINDS } from "@/core/records/credibility";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { VerdictView } from "../../view";

interface Typed {
  readonly kind: (typeof STATEMENT_KINDS)[number];
  readonly level: string;
  readonly reason: string;
  readonly link: string;
  readonly by: string;
}

const Entry = entryOf<Typed>();
const KIND_WORDS = {
  lower: "lower it, with a reason",
  raise: "raise it, by a document",
  "looks-right": "it looks right (worth 1 at most)",
} as const;

/** What a person says of a factor: lowered with a reason, raised by a document. */
export function SayForm({ view, factor, done }: { view: VerdictView; factor: FactorJudged; done: () => void }) {
  const { form, save, busy } = useEntries<Typed>({ kind: "lower", level: "", reason: "", link: "", by: "" });
  const own = useFocusOnOpen<HTMLFormElement>();
  const put = form.handleSubmit(async ({ kind, level, link, reason, by }) => {
    const input = {
      factor: factor.key,
      kind,
      reason,
      by,
      ...(link ? { link } : {}),
      ...(kind === "looks-right" || level === "" ? {} : { level: Number(level) }),
    };
    if (await save("POST /cases/{id}/credibility", { at: { id: view.id }, input }, `${factor.name}: kept, signed ${by}.`)) done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="grid grid-cols-[1.3fr_0.6fr_0.6fr] gap-2 p-2" onSubmit={put}>
        <Entry name="kind" label={`What is said of ${factor.name.toLowerCase()}`} choices={STATEMENT_KINDS.map((k) => [k, KIND_WORDS[k]] as const)} />
        <LevelEntry />
        <Entry name="by" label="Signed, initials" words />
        <span className="col-span-3">
          <Entry name="reason" label="Because" words />
        </span>
        <span className="col-span-2">
          <Entry name="link" label="The document: name, number, address" words />
        </span>
        <span className="flex items-end justify-end gap-2">
          <FormEnd leave={done} off={busy}>
            Keep it
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}

function LevelEntry() {
  const kind = useWatch<Typed, "kind">({ name: "kind" });
  if (kind === "looks-right") return <span />;
  return <Entry name="level" label="To level" choices={[["", "choose"] as const, ...["0", "1", "2", "3", "4"].map((l) => [l, l] as const)]} />;
}

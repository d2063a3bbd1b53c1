"use client";

import { FormProvider, useFieldArray } from "react-hook-form";
import { percent } from "@/core/formatting/number";
import { DECISION_RULES, DECISION_WORDS, type DecisionRule } from "@/core/records/programme";
import type { Input } from "../api/call";
import { entryOf, Mistake, useEntries } from "../forms/entries";
import { FormEnd } from "../forms/FormEnd";
import { useFocusOnOpen } from "../forms/useFocusOnOpen";
import type { ProgrammeEntry } from "./programmeEntry";

interface Typed {
  readonly name: string;
  readonly purpose: string;
  readonly people: readonly { readonly initials: string; readonly role: string }[];
  readonly limits: readonly { readonly quantity: string; readonly limit: string }[];
  readonly decision: DecisionRule;
  readonly consequence: string;
  readonly influence: string;
}

const Entry = entryOf<Typed>();
const UNSAID = "";
const degrees = (words: readonly string[]) => [[UNSAID, "not stated"] as const, ...words.map((w, k) => [String(k + 1), `${k + 1}: ${w}`] as const)];

const CONSEQUENCE = degrees(["hardly any", "some cost or delay", "great cost, or harm to health", "lives, or the whole undertaking"]);
const INFLUENCE = degrees([
  "tests decide, simulations illustrate",
  "simulations support tests",
  "tests support simulations",
  "simulations alone decide",
]);

const typedOf = (p: ProgrammeEntry): Typed => ({
  name: p.name,
  purpose: p.purpose,
  people: p.people,
  limits: p.limits.map((l) => ({ quantity: l.quantity, limit: percent(l.limit, 4) })),
  decision: p.decision,
  consequence: p.stakes ? String(p.stakes.consequence) : UNSAID,
  influence: p.stakes ? String(p.stakes.influence) : UNSAID,
});

/** What a programme is for, its people, its limits and rule, and what hangs on it. */
export function ProgrammeForm({ p, done }: { p: ProgrammeEntry; done: () => void }) {
  const { form, save, busy } = useEntries<Typed>(typedOf(p) as never);
  const own = useFocusOnOpen<HTMLFormElement>();
  const people = useFieldArray({ control: form.control, name: "people" as never });
  const limits = useFieldArray({ control: form.control, name: "limits" as never });
  const put = form.handleSubmit(async ({ consequence, influence, ...rest }) => {
    const stakes = consequence && influence ? { consequence: Number(consequence), influence: Number(influence) } : null;
    if ((consequence === UNSAID) !== (influence === UNSAID))
      form.setError("root.stakes", { message: "Say both, the consequence and the influence, or neither." });
    else if (
      await save(
        "PUT /programmes/{id}",
        { at: { id: p.id }, input: { ...rest, stakes } as Input<"PUT /programmes/{id}"> },
        "The programme was saved.",
      )
    )
      done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mt-3 max-w-[980px] border border-line bg-margin p-3" onSubmit={put}>
        <div className="grid grid-cols-[1fr_2fr] gap-2">
          <Entry name="name" label="Name" words />
          <Entry name="purpose" label="What it is for" words />
        </div>
        <fieldset className="mt-3">
          <legend className="text-[12px] text-ink-2">People, by initials, and what they do</legend>
          {people.fields.map((f, k) => (
            <div key={f.id} className="mt-1 grid grid-cols-[120px_1fr_auto] gap-2">
              <Entry name={`people.${k}.initials` as "people.0.initials"} label={`Initials ${k + 1}`} unseenLabel words placeholder="H. M." />
              <Entry
                name={`people.${k}.role` as "people.0.role"}
                label={`Role ${k + 1}`}
                unseenLabel
                words
                placeholder="prepares, checks or approves"
              />
              <button type="button" className="link" aria-label={`Take person ${k + 1} off`} onClick={() => people.remove(k)}>
                take off
              </button>
            </div>
          ))}
          <Mistake of="people" />
          <button type="button" className="link mt-1 text-[12px]" onClick={() => people.append({ initials: "", role: "" } as never)}>
            Add a person
          </button>
        </fieldset>
        <fieldset className="mt-3">
          <legend className="text-[12px] text-ink-2">Limits every case of it keeps, by the name of the quantity</legend>
          {limits.fields.map((f, k) => (
            <div key={f.id} className="mt-1 grid grid-cols-[1fr_120px_auto] gap-2">
              <Entry
                name={`limits.${k}.quantity` as "limits.0.quantity"}
                label={`Quantity ${k + 1}`}
                unseenLabel
                words
                placeholder="drag coefficient"
              />
              <Entry name={`limits.${k}.limit` as "limits.0.limit"} mistake={`limits-${k}`} label={`Limit ${k + 1}`} unseenLabel placeholder="1 %" />
              <button type="button" className="link" aria-label={`Take limit ${k + 1} off`} onClick={() => limits.remove(k)}>
                take off
              </button>
            </div>
          ))}
          <button type="button" className="link mt-1 text-[12px]" onClick={() => limits.append({ quantity: "", limit: "" } as never)}>
            Add a limit
          </button>
        </fieldset>
        <div className="mt-3 grid grid-cols-[2fr_1fr_1fr] items-end gap-2">
          <Entry
            name="decision"
            label="How a difference is held against its limit"
            choices={DECISION_RULES.map((r) => [r, DECISION_WORDS[r]] as const)}
          />
          <Entry name="consequence" label="Consequence of a wrong decision" choices={CONSEQUENCE} />
          <Entry name="influence" label="Influence of the simulations" choices={INFLUENCE} />
        </div>
        <Mistake of="stakes" />
        <div className="mt-3 flex justify-end gap-2">
          <FormEnd leave={done} off={busy}>
            Save the programme
          </FormEnd>
        </div>
      </form>
    </FormProvider>
  );
}

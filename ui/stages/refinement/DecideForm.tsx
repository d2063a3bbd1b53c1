"use client";

import { FormProvider } from "react-hook-form";
import type { Input } from "../../api/call";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";

type Sent = Input<"POST /cases/{id}/studies">;
type Undecided<Kind> = Kind extends Sent ? Omit<Kind, "reason" | "by"> : never;

interface Typed {
  readonly reason: string;
  readonly by: string;
}

const Entry = entryOf<Typed>();

interface DecideFormProps {
  readonly caseId: string;
  /** what is decided, without its reason */
  readonly what: Undecided<Sent>;
  /** what the button does, and what is said once it is done */
  readonly words: string;
  readonly said: string;
  readonly done: () => void;
}

/** The reason for a decision about the ladders, signed. */
export function DecideForm({ caseId, what, words, said, done }: DecideFormProps) {
  const { form, save, busy } = useEntries<Typed>({ reason: "", by: "" });
  const first = useFocusOnOpen<HTMLFormElement>();
  const submit = async () => {
    const input = { ...what, ...form.getValues() } as Sent;
    if (await save("POST /cases/{id}/studies", { at: { id: caseId }, input }, said)) done();
  };
  return (
    <FormProvider {...form}>
      <form
        ref={first}
        className="mt-2 grid max-w-[640px] grid-cols-[1fr_120px_auto] items-end gap-2 border border-line bg-sheet p-2"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <Entry name="reason" label={`${words}, because`} words />
        <Entry name="by" label="Signed, initials" words />
        <span className="flex gap-2">
          <FormEnd leave={done} off={busy}>
            {words}
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}

"use client";

import { FormProvider, useController, useWatch } from "react-hook-form";
import { sentenceCase } from "@/core/formatting/number";
import type { ErrorSource } from "@/core/method/budget/errorBudget";
import { SETTLEMENT_WORDS } from "@/core/method/budget/settlement";
import { SETTLEMENT_KINDS, type SettlementKind } from "@/core/records/settlement";
import type { Input } from "../../api/call";
import { entryOf, useEntries } from "../../forms/entries";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import type { VerdictView } from "../../view";

interface Typed {
  readonly kind: SettlementKind;
  readonly value: string;
  readonly reason: string;
  readonly link: string;
  readonly by: string;
  /** of every quantity of the case, not of this one alone */
  readonly all: boolean;
}

const START: Typed = { kind: "bounded", value: "", reason: "", link: "", by: "", all: true };
const Entry = entryOf<Typed>();

interface SettleFormProps {
  readonly view: VerdictView;
  readonly source: ErrorSource;
  readonly quantityKey: string;
  readonly done: () => void;
}

/** What a person says of a source nothing measured: signed and dated. */
export function SettleForm({ view, source, quantityKey, done }: SettleFormProps) {
  const { form, save, busy } = useEntries<Typed>(START);
  const first = useFocusOnOpen<HTMLDivElement>();
  const submit = async () => {
    const { all, ...typed } = form.getValues();
    const key = source.key as Input<"POST /cases/{id}/settlements">["source"];
    const input = { ...typed, source: key, quantityKey: all ? null : quantityKey };
    if (await save("POST /cases/{id}/settlements", { at: { id: view.id }, input }, `${sentenceCase(source.name)} was settled by hand.`)) done();
  };
  return (
    <FormProvider {...form}>
      <div ref={first} className="mt-2 grid max-w-[640px] grid-cols-[1.2fr_0.8fr_0.8fr] gap-2 border border-line bg-sheet p-2">
        <Entry name="kind" label={`How ${source.name} is settled`} choices={SETTLEMENT_KINDS.map((k) => [k, SETTLEMENT_WORDS[k]])} />
        <Size />
        <Entry name="by" label="Signed, initials" words />
        <div className="col-span-3">
          <Entry name="reason" label="Because" words />
        </div>
        <div className="col-span-3">
          <Entry name="link" label="Where it is written down: a document, an address" words />
        </div>
        <OfAll />
        <span className="flex justify-end gap-2">
          <button type="button" className="btn quiet" onClick={done}>
            Leave it
          </button>
          <button type="button" className="btn" disabled={busy} onClick={() => void submit()}>
            Settle it
          </button>
        </span>
      </div>
    </FormProvider>
  );
}

/** How large the source is said to be; nothing where it does not apply. */
function Size() {
  const kind = useWatch<Typed, "kind">({ name: "kind" });
  if (kind === "not-applicable") return <span />;
  return <Entry name="value" label={kind === "bounded" ? "At most, 95 %" : "About, 95 %"} placeholder="0.2 %" />;
}

function OfAll() {
  const { field } = useController<Typed, "all">({ name: "all" });
  return (
    <label className="col-span-2 flex items-center gap-2">
      <input type="checkbox" checked={field.value} onChange={(e) => field.onChange(e.target.checked)} /> of every quantity of the case
    </label>
  );
}

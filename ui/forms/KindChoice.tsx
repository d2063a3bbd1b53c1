import { KIND_HELP, KIND_WORDS, QUANTITY_KINDS, type QuantityKind } from "@/core/units/quantityKind";
import { Field } from "./Field";

/** What a quantity is: proposed from its name, for a person to confirm. */
export function KindChoice(p: { kind: QuantityKind; onChange: (kind: QuantityKind) => void }) {
  return (
    <Field
      label="It is"
      value={p.kind}
      help={KIND_HELP[p.kind]}
      onChange={(v) => p.onChange(v as QuantityKind)}
      choices={QUANTITY_KINDS.map((k) => [k, KIND_WORDS[k]] as const)}
    />
  );
}

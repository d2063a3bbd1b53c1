import type { FluxReading } from "@/core/intake/quantityImport";
import { Field } from "../../forms/Field";
import { SIGN_WORDS } from "./QuantityRows";

export interface FlowWords {
  readonly signs: FluxReading["signs"];
  readonly factor: string;
}

/** How a file counts flows, as it is sent. */
export const fluxesOf = ({ signs, factor }: FlowWords, preset = 1): FluxReading => ({ signs, factor: Number(factor) || preset });

/** How flows through boundaries are counted in a file, and of which part of the whole they are. */
export function Flows<Words extends FlowWords>(p: { words: Words; change: (words: Words) => void; parts?: string; placeholder?: string }) {
  return (
    <>
      <Field
        label="Flows through boundaries are counted"
        words
        value={p.words.signs}
        onChange={(signs) => p.change({ ...p.words, signs })}
        choices={SIGN_WORDS}
      />
      <Field
        label={p.parts ?? "Equal parts in the whole"}
        value={p.words.factor}
        onChange={(factor) => p.change({ ...p.words, factor })}
        placeholder={p.placeholder}
        help="1 for a whole model or figures that are whole already, 2 for a half model, n where the model is one of n equal parts and the flows in the file are of the part. Every flow is multiplied by it, once."
      />
    </>
  );
}

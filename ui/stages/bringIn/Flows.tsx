import type { FluxReading } from "@/core/intake/quantityImport";
import { entryOf } from "../../forms/entries";
import { SIGN_WORDS } from "./QuantityRows";

export interface FlowWords {
  readonly signs: FluxReading["signs"];
  readonly factor: string;
}

const Entry = entryOf<FlowWords>();

/** How a file counts flows, as it is sent. */
export const fluxesOf = ({ signs, factor }: FlowWords, preset = 1): FluxReading => ({ signs, factor: Number(factor) || preset });

/** How flows through boundaries are counted in a file, and of which part of the whole they are: entries of the form they stand in. */
export function Flows({ parts, placeholder }: { parts?: string; placeholder?: string }) {
  return (
    <>
      <Entry name="signs" label="Flows through boundaries are counted" words choices={SIGN_WORDS} />
      <Entry
        name="factor"
        label={parts ?? "Equal parts in the whole"}
        placeholder={placeholder}
        help="1 for a whole model or figures that are whole already, 2 for a half model, n where the model is one of n equal parts and the flows in the file are of the part. Every flow is multiplied by it, once."
      />
    </>
  );
}

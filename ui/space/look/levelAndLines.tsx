import { axisText } from "@/core/formatting/number";
import { Field } from "../../forms/Field";
import type { FieldChoice, LookEntries, LookMistakes } from "./entries";
import { Sweep } from "./PanelParts";
import type { Result } from "./useResults";

/** A value between the ends of a field. */
export const middleOf = (c: FieldChoice | undefined): string => (c ? String(Number(((c.low + c.high) / 2).toPrecision(3))) : "");

/** Which value a surface is drawn of. */
export function Level({
  choice,
  e,
  set,
  mistake,
}: {
  readonly choice: FieldChoice | undefined;
  readonly e: LookEntries;
  readonly set: (change: Partial<LookEntries>) => void;
  readonly mistake: string | undefined;
}) {
  if (!choice) return null;
  return (
    <>
      <Field label={axisText({ name: "Where it is", unit: choice.unit })} value={e.value} onChange={(v) => set({ value: v })} mistake={mistake} />
      <Sweep label="Sweep the value" value={e.value} low={choice.low} high={choice.high} onChange={(value) => set({ value })} />
    </>
  );
}

/** A line across the middle, upright to the longest side, to begin lines from. */
export function seedLine({ look }: Result): Partial<LookEntries> {
  if (!look) return {};
  const { low, high } = look;
  const sides = [0, 1, 2].sort((a, b) => high[b] - low[b] - (high[a] - low[a]));
  const end = (share: number) =>
    [0, 1, 2].map((d) => Number((low[d] + (d === sides[1] ? share : 0.5) * (high[d] - low[d])).toPrecision(4))).join(", ");
  return { from: "line", begin: end(0.1), end: end(0.9) };
}

/** Where lines begin and which way they go. */
export function Seeds({
  e,
  set,
  mistakes,
}: {
  readonly e: LookEntries;
  readonly set: (change: Partial<LookEntries>) => void;
  readonly mistakes: LookMistakes;
}) {
  return (
    <>
      <Field
        label="They begin"
        words
        value={e.from}
        choices={[
          ["cut", "over the first cut"],
          ["line", "along a line"],
          ["point", "at a point"],
        ]}
        onChange={(from) => set({ from })}
      />
      {e.from === "cut" ? null : (
        <Field label={e.from === "line" ? "From" : "At"} value={e.begin} onChange={(begin) => set({ begin })} mistake={mistakes.begin} />
      )}
      {e.from === "line" ? <Field label="to" value={e.end} onChange={(end) => set({ end })} mistake={mistakes.end} /> : null}
      <div className="grid grid-cols-2 gap-2">
        {e.from === "point" ? null : <Field label="So many" value={e.count} onChange={(n) => set({ count: n })} mistake={mistakes.count} />}
        <Field
          label="They go"
          words
          value={e.sense}
          choices={[
            ["both", "both ways"],
            ["with", "with the flow"],
            ["against", "against it"],
          ]}
          onChange={(sense) => set({ sense })}
        />
      </div>
    </>
  );
}

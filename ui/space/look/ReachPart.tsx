"use client";

import { useState } from "react";
import { ReachForm } from "../../field/ReachForm";
import { asChoices, Field } from "../../forms/Field";
import { type FieldChoice, fieldChoices, type LookEntries } from "./entries";
import { METRES } from "./metres";
import type { Result, useResults } from "./useResults";

interface Props {
  readonly first: Result;
  /** field the views are coloured by: the one that is measured */
  readonly choice: FieldChoice | undefined;
  readonly reach: ReturnType<typeof useResults>["reach"];
  readonly set: (change: Partial<LookEntries>) => void;
}

/** How far a disturbance reaches around a body in space; the surface where the departure is at the limit is drawn. */
export function ReachPart({ first, choice, reach, set }: Props) {
  const [length, setLength] = useState(first.run?.length || "m");
  if (!choice) return <p className="text-[11.5px] text-ink-3">Colour it by the field whose departure is to be measured.</p>;
  return (
    <>
      <Field label="Unit of length of the file" words value={length} choices={asChoices(Object.keys(METRES))} onChange={setLength} />
      <ReachForm
        key={choice.key}
        name={choice.words}
        unit={choice.unit}
        named={first.look?.boundaries ?? []}
        narrow
        className="flex flex-col items-stretch gap-1.5 [&>button]:self-start"
        measure={async (free, limit, body) => {
          const { array, component, unit } = choice;
          const found = await reach(first.id, { of: { ...array, component }, unit, free, limit, body, unitM: METRES[length] ?? 1 });
          set({ level: fieldChoices([found.made])[0].key, value: String(Number(limit.toPrecision(6))), outside: "outline" });
          return found.reach;
        }}
      />
    </>
  );
}

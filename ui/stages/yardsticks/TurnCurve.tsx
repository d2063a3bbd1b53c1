"use client";

import { useState } from "react";
import { FormProvider } from "react-hook-form";
import { turnWords } from "@/core/method/comparison/turnedCurve";
import type { Reference } from "@/core/records/reference";
import type { Input } from "../../api/call";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";

type Profile = Reference["profiles"][number];
type Typed = Omit<Input<"POST /yardsticks/{id}/turns">, "profileKey">;

const Entry = entryOf<Typed>();
const UNTURNED = { times: "", plus: "", otherSign: false };

/** What was typed before, so that one entry can be changed without typing the others again. */
const before = ({ turned }: Profile): Typed => {
  const [x, y] = [turned?.abscissa?.entries, turned?.value?.entries];
  return { inclined: x?.inclined ?? "", abscissa: { ...UNTURNED, ...x }, value: { ...UNTURNED, ...y } };
};

/** How a curve's figures are turned before they are compared; the figures themselves stay as their source has them. */
export function TurnCurve({ y, p }: { y: Reference; p: Profile }) {
  const [open, setOpen] = useState(false);
  const words = turnWords(p);
  return (
    <div className="text-[12px]">
      {words.map((w) => (
        <p key={w} className="text-ink-2">
          {w}
        </p>
      ))}
      {open ? (
        <TurnForm y={y} p={p} done={() => setOpen(false)} />
      ) : (
        <button type="button" className="link no-print text-ink-3" onClick={() => setOpen(true)}>
          {words.length ? "Turn it otherwise" : "Turn its figures"}
        </button>
      )}
    </div>
  );
}

function TurnForm({ y, p, done }: { y: Reference; p: Profile; done: () => void }) {
  const { form, save, busy } = useEntries<Typed>(before(p));
  const own = useFocusOnOpen<HTMLFormElement>();
  const put = form.handleSubmit(async (input) => {
    if (
      await save("POST /yardsticks/{id}/turns", { at: { id: y.key }, input: { ...input, profileKey: p.profileKey } }, "The curve counts as stated.")
    )
      done();
  });
  return (
    <FormProvider {...form}>
      <form ref={own} className="mt-1 grid grid-cols-3 gap-2 border border-line bg-margin p-2" onSubmit={put}>
        {(["abscissa", "value"] as const).map((axis) => (
          <fieldset key={axis} className="contents">
            <Entry
              name={`${axis}.times`}
              mistake={`${axis}-times`}
              label={`${p.axes?.[axis].name ?? axis}, times`}
              placeholder="1"
              help="What its source divided the figures by, with its unit"
            />
            <Entry name={`${axis}.plus`} mistake={`${axis}-plus`} label="plus" placeholder="0" />
            <label className="flex items-end gap-1.5 pb-2">
              <input type="checkbox" {...form.register(`${axis}.otherSign`)} /> other sign
            </label>
          </fieldset>
        ))}
        <Entry name="inclined" label="Line to normal, °" placeholder="0" />
        <span className="col-span-2 flex items-end justify-end gap-2">
          <FormEnd leave={done} off={busy}>
            Count it so
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}

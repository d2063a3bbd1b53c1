"use client";

import { useState } from "react";
import { FormProvider, useFormContext, useWatch } from "react-hook-form";
import { type Answer, call } from "../../api/call";
import { entryOf, KindEntry, kindOf, Mistake, useEntries } from "../../forms/entries";
import { asChoices } from "../../forms/Field";
import { notifyError } from "../../shell/notify";
import { type MonitorEntries, monitorOf, startEntries, takeOf, takesOn, WHERE } from "./monitorEntries";

type Choices = Answer<"GET /cases/{id}/monitors">;

const Entry = entryOf<MonitorEntries>();
const short = (v: number) => Number(v.toPrecision(4));

/** A quantity of one's own, watched by every later run of the case. */
export function AddMonitor({ id }: { id: string }) {
  const [choices, setChoices] = useState<Choices>();
  const open = () => call("GET /cases/{id}/monitors", { at: { id } }).then(setChoices, notifyError);
  if (!choices)
    return (
      <button type="button" className="btn quiet mt-3 mr-2" onClick={() => void open()}>
        Watch another quantity
      </button>
    );
  return <MonitorForm id={id} choices={choices} close={() => setChoices(undefined)} />;
}

function MonitorForm({ id, choices, close }: { id: string; choices: Choices; close: () => void }) {
  const { form, save, busy } = useEntries<MonitorEntries>(startEntries(choices));
  const add = async () => {
    const typed = form.getValues();
    const input = { name: typed.name, limit: typed.limit, monitor: monitorOf(typed), kind: kindOf(typed) };
    if (await save("POST /cases/{id}/monitors", { at: { id }, input }, "Later runs watch it; run again what is to show it.")) close();
  };
  return (
    <FormProvider {...form}>
      <fieldset className="mt-3 max-w-[860px] border-line border-t pt-2">
        <legend className="pr-2 font-[600] text-[12.5px]">Watch another quantity</legend>
        <div className="grid grid-cols-4 items-end gap-2">
          <Entry name="name" label="Name" words />
          <Entry name="on" label="On a" choices={asChoices(WHERE)} />
          <What choices={choices} />
          <Place extentM={choices.extentM} />
          <KindEntry />
          <Entry name="limit" label="Limit" />
        </div>
        <Mistake of="monitor" />
        <div className="mt-2 flex gap-2">
          <button type="button" className="btn" disabled={busy} onClick={() => void add()}>
            Watch it
          </button>
          <button type="button" className="btn quiet" onClick={close}>
            Leave it
          </button>
        </div>
      </fieldset>
    </FormProvider>
  );
}

/** The field or the boundary, and what of it. */
function What({ choices }: { choices: Choices }) {
  useWatch();
  const typed = useFormContext<MonitorEntries>().getValues();
  const takes = takesOn(typed.on, choices.carried);
  return (
    <>
      {typed.on === "boundary" ? (
        <Entry name="boundary" label="Boundary" choices={asChoices(choices.boundaries)} />
      ) : (
        <Entry name="field" label="Field" choices={choices.fields.map((x) => [x.key, `${x.name}, ${x.unit}`])} />
      )}
      {takes.length ? <Entry name={`takes.${typed.on as "line"}`} label="What of it" choices={asChoices(takes)} /> : null}
      {takeOf(typed) === "flow out of a carried quantity" ? (
        <Entry name="carried" label="Carried quantity" choices={asChoices(choices.carried)} />
      ) : null}
    </>
  );
}

/** Where a point lies, or both ends of a line. */
function Place({ extentM }: { extentM: Choices["extentM"] }) {
  const on = useWatch<MonitorEntries, "on">({ name: "on" });
  const [[x0, x1], [y0, y1]] = extentM;
  if (on !== "point" && on !== "line") return null;
  return (
    <>
      <Entry name="x" label={`x, m (${short(x0)} to ${short(x1)})`} />
      <Entry name="y" label={`y, m (${short(y0)} to ${short(y1)})`} />
      {on === "line" ? (
        <>
          <Entry name="x2" label="x of the other end, m" />
          <Entry name="y2" label="y of the other end, m" />
        </>
      ) : null}
    </>
  );
}

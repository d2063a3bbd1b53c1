"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { FormProvider } from "react-hook-form";
import { count, duration, percent, sentenceCase } from "@/core/formatting/number";
import type { QuantitySpec } from "@/core/records/quantity";
import type { Answer } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import { entryOf, useEntries } from "../../forms/entries";
import { FormEnd } from "../../forms/FormEnd";
import { useFocusOnOpen } from "../../forms/useFocusOnOpen";
import { useSave } from "../../forms/useSave";

type Pilot = Answer<"GET /cases/{id}/pilots">["pilots"][number];

const EVERY_MS = 1500;
const RESTING_MS = 60_000;

/** A quantity on its way to an uncertainty: what was asked for, every step with its reason, and one button to stop. */
export function Autopilot({ caseId, q, names }: { caseId: string; q: QuantitySpec; names: Readonly<Record<string, string>> }) {
  const router = useRouter();
  const [every, setEvery] = useState(EVERY_MS);
  const [open, setOpen] = useState(false);
  const { data, refetch } = useAsked("GET /cases/{id}/pilots", { at: { id: caseId } }, "", every);
  const [pilot] = data?.pilots ?? [];
  const underWay = pilot?.state === "under way";
  const seen = useRef<string>(undefined);
  // Each step, and the end, is read into the page.
  useEffect(() => {
    setEvery(underWay ? EVERY_MS : RESTING_MS);
    const now = pilot && `${pilot.id} ${pilot.state} ${pilot.steps.length}`;
    if (seen.current !== undefined && now !== seen.current) router.refresh();
    seen.current = now ?? "";
  }, [pilot, underWay, router]);
  return (
    <section aria-label="Autopilot">
      <h2 className="mt-5">On autopilot</h2>
      {pilot ? <Journey pilot={pilot} name={names[pilot.quantityKey] ?? pilot.quantityKey} caseId={caseId} stopped={() => void refetch()} /> : null}
      {underWay ? null : open ? (
        <Start
          caseId={caseId}
          q={q}
          done={() => {
            setOpen(false);
            void refetch();
          }}
        />
      ) : (
        <p className="mt-1 text-[12.5px] text-ink-2">
          Coarse meshes first, each from the last one's result, then finer ones until the uncertainty is reached or the cells or the time are used up.
          Where the tolerance, the time step or the domain limits it, the case is given another, and the reason is told.
          <button type="button" className="btn quiet ml-3" onClick={() => setOpen(true)}>
            Take {q.name} to an uncertainty
          </button>
        </p>
      )}
    </section>
  );
}

const WORDS: Readonly<Record<Pilot["state"], string>> = {
  "under way": "under way",
  reached: "reached",
  ended: "ended before it was reached",
  stopped: "stopped",
};

function Journey({ pilot, name, caseId, stopped }: { pilot: Pilot; name: string; caseId: string; stopped: () => void }) {
  const { save, busy } = useSave();
  const stop = async () => {
    await save("POST /pilots/{id}/stop", { at: { id: pilot.id } }, "Stopped. What was computed is kept.");
    stopped();
  };
  return (
    <div className="mt-1" aria-live="polite" data-testid="pilot">
      <p className="text-[12.5px]">
        {sentenceCase(name)} to {percent(pilot.target)}, at most {count(pilot.mostCells)} cells and {duration(pilot.longestS)}: {WORDS[pilot.state]}.
        {pilot.state === "under way" ? (
          <button type="button" className="btn quiet ml-3" disabled={busy} onClick={() => void stop()}>
            Stop the autopilot
          </button>
        ) : null}
      </p>
      <ol className="ml-5 mt-1 list-decimal text-[12.5px]">
        {pilot.steps.map((s) => (
          <li key={s.runId}>
            <Link className="link font-mono" href={`/cases/${caseId}/runs`}>
              {s.label}
            </Link>{" "}
            <span className="text-ink-2">{s.why}</span>
          </li>
        ))}
      </ol>
      {pilot.reason ? <p className="mt-1 border-l-2 border-tin pl-3 text-[12.5px]">{pilot.reason}</p> : null}
    </div>
  );
}

interface Typed {
  readonly target: string;
  readonly mostCells: string;
  readonly minutes: string;
}

const Entry = entryOf<Typed>();

function Start({ caseId, q, done }: { caseId: string; q: QuantitySpec; done: () => void }) {
  const target = `${Number((100 * q.limit).toPrecision(6))} %`;
  const { form, save, busy } = useEntries<Typed>({ target, mostCells: "40000", minutes: "10" });
  const first = useFocusOnOpen<HTMLFormElement>();
  const submit = async () => {
    const { mostCells, minutes, ...typed } = form.getValues();
    const input = { ...typed, quantityKey: q.key, mostCells: Number(mostCells), minutes: Number(minutes) };
    if (await save("POST /cases/{id}/pilots", { at: { id: caseId }, input }, `${q.name} is on its way.`)) done();
  };
  return (
    <FormProvider {...form}>
      <form
        ref={first}
        className="mt-2 grid max-w-[640px] grid-cols-[1fr_1fr_1fr_auto] items-end gap-2 border border-line bg-sheet p-2"
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <Entry name="target" label="Uncertainty at 95 %" />
        <Entry name="mostCells" label="Cells of a mesh, at most" />
        <Entry name="minutes" label="Minutes of computing, at most" />
        <span className="flex gap-2">
          <FormEnd leave={done} off={busy}>
            Go
          </FormEnd>
        </span>
      </form>
    </FormProvider>
  );
}

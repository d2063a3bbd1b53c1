"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useId, useState } from "react";
import { useAsked } from "../api/useAsked";
import { Field } from "../forms/Field";
import { useSave } from "../forms/useSave";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { DifferenceTable } from "../tables/DifferenceTable";
import { type PackView, usePack } from "./usePack";

/** Checks an evidence pack by making its report again, and brings it in. */
export function Packs() {
  const { state, choose, giveUp } = usePack();
  const id = useId();
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <h1>Evidence packs</h1>
      <p className="mt-0.5 max-w-[860px] text-[12.5px] text-ink-2">
        Every issued report has its pack: everything it was made from. Here a pack is opened, all of its figures are worked out again from what is
        inside, and each that comes out otherwise is named. Nothing is stored until you bring it in.
      </p>
      <div className="mt-3">
        <label htmlFor={id} className="block">
          Pack of a report (zip)
        </label>
        <input
          id={id}
          type="file"
          accept=".zip,application/zip"
          className="field words max-w-[520px]"
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) void choose(file);
          }}
        />
      </div>
      <div aria-live="polite">
        {state.kind === "sending" ? <p className="mt-3 text-[12.5px]">Sending {state.name}</p> : null}
        {state.kind === "checking" ? <UnderWay hash={state.hash} stop={giveUp} /> : null}
        {state.kind === "refused" ? (
          <p className="mistake mt-3">
            {state.name}: {state.sentence}
          </p>
        ) : null}
      </div>
      {state.kind === "checked" ? <Checked key={state.hash} view={state.view} hash={state.hash} /> : null}
    </main>
  );
}

/** How far the check is, and a way to give it up. */
function UnderWay({ hash, stop }: { hash: string; stop: () => void }) {
  const { data } = useAsked("GET /packs/{hash}/under-way", { at: { hash } }, "", 400);
  const { done, of, what } = data?.told ?? { done: 0, of: 1, what: "Unpacking" };
  return (
    <div className="mt-3 flex items-center gap-3 text-[12.5px]">
      <progress className="w-52" value={done} max={of} aria-label="Checking the pack" />
      <span>{what}</span>
      <button type="button" className="btn quiet small" onClick={stop}>
        Stop
      </button>
    </div>
  );
}

function Checked({ view, hash }: { view: PackView; hash: string }) {
  const { check: c } = view;
  return (
    <section className="mt-4 max-w-[980px]" aria-label="What came of it">
      <h2>
        {c.title}, report {c.number}
      </h2>
      <p className="text-[12.5px] text-ink-2">
        Issued {c.issuedAt.slice(0, 16).replace("T", " ")} UTC by {c.issuedBy}; sum of its list of files{" "}
        <span className="font-mono text-[11.5px]">{c.manifest.slice(0, 32)}</span>
      </p>
      <p className="mt-2 text-[14px]">
        <StateMark state={c.holds ? "holds" : "fails"} plain /> {c.sentence}
      </p>
      <Lines title="Not as packed" lines={c.changed} />
      <Lines title="Could not be checked" lines={c.notChecked} />
      {c.differences.length ? (
        <>
          <div className="mt-4 flex items-end justify-between">
            <h3>Comes out otherwise</h3>
            <CsvButton
              name="pack-differences"
              header={["where", "as issued", "as worked out now"]}
              rows={c.differences.map((d) => [d.where, d.left ?? "", d.right ?? ""])}
            />
          </div>
          <DifferenceTable rows={c.differences} left="As issued" right="As worked out now" />
        </>
      ) : null}
      <Lines title="Files that come out otherwise" lines={c.otherFiles} />
      <BringIn view={view} hash={hash} />
    </section>
  );
}

function Lines({ title, lines }: { title: string; lines: readonly string[] }) {
  if (!lines.length) return null;
  return (
    <>
      <h3 className="mt-4">{title}</h3>
      <ul className="list-disc pl-5 text-[12.5px]">
        {lines.map((l) => (
          <li key={l}>{l}</li>
        ))}
      </ul>
    </>
  );
}

function BringIn({ view, hash }: { view: PackView; hash: string }) {
  const { save, busy } = useSave();
  const router = useRouter();
  const taken = view.cases.filter((c) => c.here !== "not here");
  const [as, setAs] = useState<"itself" | "copy">(taken.length ? "copy" : "itself");
  const news = view.programmes.filter((p) => !p.here).map((p) => p.name);
  const bring = async () => {
    const made = await save("POST /packs", { input: { hash, as } }, "The pack was brought in, with its runs and its report.");
    if (made) router.push(`/cases/${made.id}/verdict`);
  };
  return (
    <form
      className="mt-6 border-t border-line pt-3"
      onSubmit={(e) => {
        e.preventDefault();
        void bring();
      }}
    >
      <h3>Bring it into this data folder</h3>
      <p className="text-[12.5px] text-ink-2">
        {view.cases.map((c) => c.title).join(", ")}
        {news.length ? `; the programme ${news.join(", ")} comes with it` : ""}.{" "}
        {view.check.holds ? "" : "It does not hold: look at what differs first."}
      </p>
      {taken.map((c) => (
        <p key={c.id} className="mt-1 text-[12.5px]">
          {c.here === "deleted here" ? (
            `"${c.title}" was here and is deleted.`
          ) : (
            <>
              <Link className="link" href={`/cases/${c.id}/verdict`}>
                {c.title}
              </Link>{" "}
              is here already.
            </>
          )}{" "}
          It stays as it is; the pack can stand beside it as a copy.
        </p>
      ))}
      {view.notes.map((n) => (
        <p key={n} className="mt-1 text-[12.5px] text-ink-2">
          {n}
        </p>
      ))}
      <div className="mt-2 flex items-end gap-3">
        <div className="w-72">
          <Field
            label="Bring it in"
            value={as}
            onChange={setAs}
            choices={[...(taken.length ? [] : [["itself", "as what it is"] as const]), ["copy", "as a copy, with names of its own"] as const]}
          />
        </div>
        <button type="submit" className="btn" disabled={busy}>
          {busy ? "Bringing in" : "Bring the pack in"}
        </button>
      </div>
    </form>
  );
}

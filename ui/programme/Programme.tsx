"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { percent, sentenceCase, significant } from "@/core/formatting/number";
import type { Coverage } from "@/core/method/coverage/coverage";
import { DECISION_WORDS } from "@/core/records/programme";
import { ConfirmButton } from "../forms/ConfirmButton";
import { Field } from "../forms/Field";
import { useRemoval } from "../forms/useRemoval";
import { useSave } from "../forms/useSave";
import { StateMark } from "../shell/StateMark";
import { type Column, DataTable, Unseen } from "../tables/DataTable";
import { ProgrammeForm } from "./ProgrammeForm";
import type { ProgrammeEntry } from "./programmeEntry";

interface Summary {
  readonly points: readonly { readonly id: string; readonly title: string }[];
  readonly applications: readonly { readonly id: string; readonly title: string; readonly coverage: Coverage }[];
  readonly wide: readonly {
    readonly caseId: string;
    readonly title: string;
    readonly quantityKey: string;
    readonly quantity: string;
    readonly limit: number;
    readonly allowed: number;
  }[];
  readonly waiting: number;
}

interface Props {
  readonly list: readonly ProgrammeEntry[];
  readonly current: string | undefined;
  readonly summary: Summary | undefined;
}

/** What a programme is for, who works on it, by which limits and rule it judges, and how far its application is covered. */
export function Programme({ list, current, summary }: Props) {
  const [editing, setEditing] = useState(false);
  const open = list.find((p) => p.id === current);
  return (
    <main id="main" tabIndex={-1} className="max-w-[1180px] flex-1 bg-sheet px-6 py-4">
      <div className="flex items-start justify-between gap-4">
        <div>
          <h1>{open?.name ?? "Programme"}</h1>
          <p className="mt-0.5 max-w-[90ch] text-[12.5px] text-ink-2">
            {open?.purpose || "A programme is a set of cases with one purpose, from single effects to the application itself."}
          </p>
        </div>
        <Link className="link text-[12.5px]" href="/time-line">
          Time line of changes
        </Link>
        {open ? (
          <button type="button" className="btn" aria-expanded={editing} onClick={() => setEditing(!editing)}>
            Change the programme
          </button>
        ) : null}
      </div>
      {open && editing ? <ProgrammeForm p={open} done={() => setEditing(false)} /> : null}
      {open && !editing ? <Stated p={open} /> : null}
      {summary ? <Covered summary={summary} /> : null}
      {open?.rules.length ? <Rules p={open} /> : null}
      {open && summary?.wide.length ? <Wide id={open.id} wide={summary.wide} /> : null}
      <Programmes list={list} current={current} />
    </main>
  );
}

function Stated({ p }: { p: ProgrammeEntry }) {
  return (
    <dl className="mt-3 grid max-w-[980px] grid-cols-[150px_1fr] gap-x-4 gap-y-1 text-[12.5px]">
      <dt className="text-ink-3">People</dt>
      <dd>{p.people.length ? p.people.map((x) => (x.role ? `${x.initials}, ${x.role}` : x.initials)).join("; ") : "nobody is named"}</dd>
      <dt className="text-ink-3">Limits</dt>
      <dd>{p.limits.length ? p.limits.map((l) => `${l.quantity} ${percent(l.limit)}`).join("; ") : "every case states its own"}</dd>
      <dt className="text-ink-3">Decision rule</dt>
      <dd>{sentenceCase(DECISION_WORDS[p.decision])}.</dd>
      <dt className="text-ink-3">What hangs on it</dt>
      <dd>
        {p.stakes
          ? `consequence of a wrong decision ${p.stakes.consequence} of 4, influence of the simulations on it ${p.stakes.influence} of 4`
          : "not stated"}
      </dd>
    </dl>
  );
}

/** How the conditions of each application lie among those of the cases that were held against a truth. */
function Covered({ summary: { applications, points, waiting } }: { summary: Summary }) {
  return (
    <section className="mt-5" aria-label="Coverage of the application">
      <h2>Coverage of the application</h2>
      {waiting ? <p className="text-[12.5px] text-ink-2">{waiting} cases are still being worked out and do not count yet.</p> : null}
      {applications.length ? (
        applications.map((a) => (
          <article key={a.id} className="mt-2">
            <h3>
              <StateMark state={a.coverage.inside ? "holds" : "remark"} plain />{" "}
              <Link href={`/cases/${a.id}/question`} className="font-[600]">
                {a.title}
              </Link>
            </h3>
            <p className="mt-0.5 max-w-[90ch] text-[12.5px] text-ink-2">{a.coverage.sentence}</p>
            {a.coverage.conditions.length ? (
              <DataTable className="mt-1.5" rows={a.coverage.conditions} rowKey={(c) => c.key} columns={CONDITIONS} />
            ) : null}
            {a.coverage.nearest.length ? (
              <p className="mt-1 text-[12px] text-ink-3">
                Nearest over all conditions they share:{" "}
                {a.coverage.nearest.slice(0, 3).map((n, k) => (
                  <span key={n.id}>
                    {k ? "; " : ""}
                    <Link className="link" href={`/cases/${n.id}/comparison`}>
                      {n.title}
                    </Link>
                    , factor {significant(10 ** n.decades, 2)} over {n.shared}
                  </span>
                ))}
                .
              </p>
            ) : null}
          </article>
        ))
      ) : (
        <p className="mt-1 max-w-[90ch] text-[12.5px] text-ink-2">
          No case is marked as the application itself. Open a case's row on the{" "}
          <Link className="link" href="/">
            board
          </Link>{" "}
          and put it there; {points.length === 1 ? "1 case was" : `${points.length} cases were`} held against a truth and would cover it.
        </p>
      )}
    </section>
  );
}

type ConditionRow = Coverage["conditions"][number];

const CONDITIONS: readonly Column<ConditionRow>[] = [
  { header: "Condition", words: true, headClassName: "text-left w-44", cell: (c) => c.name },
  { header: "Application", cell: (c) => significant(c.value, 3) },
  { header: "Lowest", cell: (c) => (c.range ? significant(c.range[0], 3) : "–") },
  { header: "Highest", cell: (c) => (c.range ? significant(c.range[1], 3) : "–") },
  { header: "Factor to nearest", cell: (c) => (c.nearest ? significant(c.nearest.factor, 2) : "–") },
  {
    header: "Nearest",
    words: true,
    headClassName: "text-left",
    cell: (c) =>
      c.nearest ? (
        <Link className="link" href={`/cases/${c.nearest.id}/comparison`}>
          {c.nearest.title}
        </Link>
      ) : (
        "–"
      ),
  },
  {
    header: "",
    words: true,
    cell: (c) => (
      <>
        <StateMark state={c.state === "inside" ? "holds" : c.state === "beyond" ? "remark" : "none"} plain />{" "}
        {c.state === "inside" ? "inside" : c.state === "beyond" ? "extrapolation" : "no evidence"}
      </>
    ),
  },
];

/** Set-up rules made of findings: every case of the programme is held against them. */
function Rules({ p }: { p: ProgrammeEntry }) {
  const { save } = useSave();
  const columns: Column<ProgrammeEntry["rules"][number]>[] = [
    { header: "Rule", words: true, headClassName: "text-left", cell: (r) => r.name },
    { header: "Asks", words: true, headClassName: "text-left", className: "font-mono", cell: (r) => `${r.left} ${r.relation} ${r.right}` },
    { header: "Else", words: true, headClassName: "text-left", cell: (r) => r.severity },
    {
      header: "Because",
      words: true,
      headClassName: "text-left",
      className: "text-ink-2",
      cell: (r) => `${r.reason} (${r.by}, ${r.at.slice(0, 10)})`,
    },
    {
      header: <Unseen>Take away</Unseen>,
      words: true,
      cell: (r) => (
        <ConfirmButton
          className="link"
          label={`Take the rule ${r.name} away`}
          question={`Take the rule ${r.name} away?`}
          text="Set-ups that failed by it alone hold again. It has to be written again to come back."
          action="Take it away"
          onConfirm={() => void save("DELETE /programmes/{id}/rules/{rule}", { at: { id: p.id, rule: r.key } }, "The rule is gone.")}
        >
          take away
        </ConfirmButton>
      ),
    },
  ];
  return (
    <section className="mt-5" aria-label="Set-up rules of the programme's own">
      <h2>Set-up rules of its own</h2>
      <DataTable rows={p.rules} rowKey={(r) => r.key} columns={columns} />
    </section>
  );
}

function Wide({ id, wide }: { id: string; wide: Summary["wide"] }) {
  const { save } = useSave();
  return (
    <section className="mt-5" aria-label="Limits wider than the programme's">
      <h2>Limits wider than the programme's</h2>
      <DataTable
        rows={wide}
        rowKey={(w) => `${w.caseId} ${w.quantityKey}`}
        columns={[
          {
            header: "Case",
            words: true,
            headClassName: "text-left",
            cell: (w) => (
              <Link className="link" href={`/cases/${w.caseId}/question`}>
                {w.title}
              </Link>
            ),
          },
          { header: "Quantity", words: true, headClassName: "text-left", cell: (w) => w.quantity },
          { header: "Its limit", cell: (w) => percent(w.limit) },
          { header: "Programme's", cell: (w) => percent(w.allowed) },
        ]}
      />
      <ConfirmButton
        question={`Set ${wide.length} ${wide.length === 1 ? "limit" : "limits"} to the programme's?`}
        text="The verdicts of these cases are worked out anew. The limits they had are not kept."
        action="Set the limits"
        className="btn mt-2"
        label="Take the programme's limits over"
        onConfirm={() => void save("POST /programmes/{id}/limits", { at: { id } }, "The programme's limits stand in these cases now.")}
      >
        Take the programme's limits over
      </ConfirmButton>
    </section>
  );
}

function Programmes({ list, current }: { list: readonly ProgrammeEntry[]; current: string | undefined }) {
  const { save, busy, mistakes } = useSave();
  const remove = useRemoval(save);
  const router = useRouter();
  const [name, setName] = useState("");
  const columns: Column<ProgrammeEntry>[] = [
    { header: "Programme", words: true, headClassName: "text-left", cell: (p) => p.name },
    { header: "Cases", cell: (p) => p.cases },
    {
      header: <Unseen>Open</Unseen>,
      words: true,
      cell: (p) =>
        p.id === current ? (
          "open"
        ) : (
          <button
            type="button"
            className="link"
            onClick={async () => {
              if (await save("POST /programmes/{id}/open", { at: { id: p.id } }, `${p.name} is open.`)) router.push("/");
            }}
          >
            Open {p.name}
          </button>
        ),
    },
    {
      header: <Unseen>Delete</Unseen>,
      words: true,
      cell: (p) =>
        p.cases === 0 && list.length > 1 ? (
          <button
            type="button"
            className="link"
            onClick={() =>
              void remove(
                `${p.name} was deleted.`,
                ["DELETE /programmes/{id}", { at: { id: p.id } }],
                ["POST /programmes/{id}/restore", { at: { id: p.id } }],
              )
            }
          >
            Delete {p.name}
          </button>
        ) : null,
    },
  ];
  return (
    <section className="mt-6" aria-label="Programmes in this data folder">
      <h2>Programmes in this data folder</h2>
      <DataTable className="mt-1 w-auto min-w-[520px]" rows={list} rowKey={(p) => p.id} columns={columns} />
      <form
        className="mt-2 flex max-w-[520px] items-end gap-2"
        onSubmit={async (e) => {
          e.preventDefault();
          if (await save("POST /programmes", { input: { name } }, `${name} was made and is open.`)) router.push("/");
        }}
      >
        <div className="flex-1">
          <Field label="Name of a new programme" value={name} onChange={setName} words mistake={mistakes.name} />
        </div>
        <button type="submit" className="btn" disabled={busy || !name.trim()}>
          Make it
        </button>
      </form>
    </section>
  );
}

"use client";

import dynamic from "next/dynamic";
import Link from "next/link";
import { useState } from "react";
import { credibilityProfile } from "@/core/drawing/credibilityProfile";
import { significant } from "@/core/formatting/number";
import type { Credibility, FactorJudged } from "@/core/method/credibility/credibility";
import { codeWords } from "@/core/records/build";
import { useAsked } from "../../api/useAsked";
import { Drawing } from "../../charts/Drawing";
import { useSave } from "../../forms/useSave";
import { CsvButton } from "../../tables/CsvButton";
import { type Column, DataTable, Unseen } from "../../tables/DataTable";
import type { VerdictView } from "../../view";

// What opens at a press is fetched at the press.
const SayForm = dynamic(() => import("./SayForm").then((m) => m.SayForm));

interface CodeProof {
  readonly caseId: string;
  readonly title: string;
  readonly field: string;
  readonly method: string;
  readonly order?: number;
  readonly formalOrder: number;
  readonly verdict: string;
  readonly exercises: string;
}

interface View extends Credibility {
  readonly code: string;
  readonly proofs: readonly CodeProof[];
}

/** How credible the chosen quantity is: the profile, each factor with its reason and its gap, and what the code was proven by. */
export function CredibilitySection({ view }: { view: VerdictView }) {
  const version = `${view.version} ${JSON.stringify(view.setup.credibility ?? [])}`;
  const { data, error } = useAsked("GET /cases/{id}/credibility/{quantity}", { at: { id: view.id, quantity: view.quantityKey } }, version);
  const found = data as unknown as View | undefined;
  const [saying, setSaying] = useState<string>();
  return (
    <section className="mt-6" aria-label="Credibility">
      <div className="flex items-baseline justify-between">
        <h2>Credibility</h2>
        {found ? <CsvButton name="credibility" header={HEADER} rows={found.factors.map(rowOf)} /> : null}
      </div>
      {error ? <p className="mistake">{error.message}</p> : null}
      {found ? (
        <>
          <p className="text-[12.5px] text-ink-2">
            {found.sentence}{" "}
            {found.target === undefined ? (
              <Link className="link" href="/programme">
                Say what hangs on it
              </Link>
            ) : null}
          </p>
          <div className="mt-6">
            <Drawing svg={credibilityProfile(found)} name="credibility profile" />
          </div>
          <DataTable
            className="mt-2"
            rows={found.factors}
            rowKey={(f) => f.key}
            rowTestId={(f) => `factor-${f.key}`}
            columns={columnsOf(view, setSaying)}
            detail={(f) => (saying === f.key ? <SayForm view={view} factor={f} done={() => setSaying(undefined)} /> : null)}
          />
          <Proofs code={codeWords(found.code)} proofs={found.proofs} />
        </>
      ) : (
        <p className="text-[12.5px] text-ink-2">{error ? "" : "Being judged."}</p>
      )}
    </section>
  );
}

const HEADER = ["factor", "level", "from evidence", "asked for", "what it means", "because", "changed", "next"];
const rowOf = (f: FactorJudged) => [
  f.name,
  f.level ?? "does not apply",
  f.proposed ?? "",
  f.target ?? "",
  f.criterion,
  f.because,
  f.changed ?? "",
  f.gap?.sentence ?? "",
];

const columnsOf = (view: VerdictView, say: (key: string) => void): Column<FactorJudged>[] => [
  { header: "Factor", words: true, headClassName: "text-left w-36", className: "align-top font-[560]", cell: (f) => f.name },
  {
    header: "Level",
    headClassName: "w-12",
    className: "align-top",
    cell: (f) => (f.level === undefined ? "n/a" : f.target !== undefined && f.level < f.target ? <b className="text-pointer">{f.level}</b> : f.level),
  },
  {
    header: "Why, and what would bring it further",
    words: true,
    headClassName: "text-left",
    className: "text-ink-2",
    cell: (f) => (
      <>
        {f.because}
        {f.changed ? <b className="block font-[600] text-ink">{`${f.changed[0].toUpperCase()}${f.changed.slice(1)}.`}</b> : null}
        {f.gap ? (
          <span className="block">
            {f.gap.sentence}{" "}
            <Link className="link" href={`/cases/${view.id}/${f.gap.go}?q=${encodeURIComponent(view.quantityKey)}`}>
              Go to {f.gap.go}
            </Link>
          </span>
        ) : null}
      </>
    ),
  },
  {
    header: <Unseen>Say something of it</Unseen>,
    words: true,
    className: "align-top whitespace-nowrap",
    cell: (f) =>
      f.level === undefined ? null : f.stated ? (
        <TakeBack id={view.id} factor={f.key} name={f.name} />
      ) : (
        <button type="button" className="link text-[12px]" aria-label={`Lower or raise ${f.name}`} onClick={() => say(f.key)}>
          lower or raise
        </button>
      ),
  },
];

function TakeBack({ id, factor, name }: { id: string; factor: string; name: string }) {
  const { save } = useSave();
  return (
    <button
      type="button"
      className="link text-[12px]"
      aria-label={`Take back what was said of ${name}`}
      onClick={() => void save("DELETE /cases/{id}/credibility/{factor}", { at: { id, factor } }, "It was taken back; the evidence alone counts.")}
    >
      take back
    </button>
  );
}

const PROOF_COLUMNS: readonly Column<CodeProof>[] = [
  {
    header: "Case",
    words: true,
    headClassName: "text-left",
    className: "align-top",
    cell: (p) => (
      <Link className="link" href={`/cases/${p.caseId}/comparison`} title={p.exercises}>
        {p.title}
      </Link>
    ),
  },
  { header: "Field", words: true, headClassName: "text-left", cell: (p) => p.field },
  { header: "Order", cell: (p) => (p.order === undefined ? "–" : significant(p.order, 3)) },
  { header: "Formal", cell: (p) => p.formalOrder },
  { header: "Made with", words: true, headClassName: "text-left", className: "text-ink-2", cell: (p) => p.method },
  { header: "What it exercises", words: true, headClassName: "text-left", className: "text-ink-2", cell: (p) => p.exercises },
];

/** What the code was proven by, over every case of the data folder with an exact answer. */
function Proofs({ code, proofs }: { code: string; proofs: readonly CodeProof[] }) {
  return (
    <details className="mt-2 text-[12.5px]">
      <summary>
        {proofs.length ? `What ${code} was proven by: ${proofs.length} fields against exact answers` : `No exact case shows how ${code} converges`}
      </summary>
      {proofs.length ? (
        <DataTable rows={proofs} rowKey={(p) => `${p.caseId} ${p.field} ${p.method}`} columns={PROOF_COLUMNS} />
      ) : (
        <p className="mt-1 text-ink-2">
          Make a case of an exact template and bring in its error norms, or run it on the bench; a manufactured solution is made for any code.
        </p>
      )}
    </details>
  );
}

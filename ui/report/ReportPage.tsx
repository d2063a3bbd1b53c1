import Link from "next/link";
import type { ReportDocument } from "@/core/formats/reportDocument";
import { withNumbers } from "@/core/formats/reportNumbers";
import { columnText } from "@/core/formatting/cell";
import { SIGN_ROLES, type SignOff, type Withdrawal } from "@/core/records/signOff";
import { PrintButton } from "./PrintButton";
import { Prose } from "./Prose";

type Section = ReportDocument["sections"][number];
type Table = ReportDocument["tables"][number];

/** An issued report as a page that prints well: everything comes from the frozen document. */
export function ReportPage({ d: frozen, caseId, standing }: { d: ReportDocument; caseId: string; standing: Standing }) {
  const d = withNumbers(frozen);
  const decision = d.sections.filter((s) => s.stage === "decision");
  const rest = d.sections.filter((s) => s.stage !== "decision");
  return (
    <div className="min-h-screen bg-paper py-6 print:py-0">
      <Bar caseId={caseId} number={d.number} />
      <main id="main" className="paper mx-auto max-w-[860px] bg-plot px-12 py-10 text-ink print:max-w-none print:p-0">
        <p className="text-ink-2">{d.programme}</p>
        <h1 className="text-[24px]!">{d.title}</h1>
        <p className="text-ink-2">
          Report {d.number}, issued {d.issuedAt.slice(0, 16).replace("T", " ")} UTC by {d.issuedBy}
        </p>
        <Signatures {...standing} />
        <p className="font-mono text-[11px] text-ink-3">evidence {d.evidenceHash.slice(0, 32)}</p>
        {decision.map((s) => (
          <Chapter key={s.stage} d={d} s={s} />
        ))}
        <Verdicts verdicts={d.verdicts} />
        {rest.map((s) => (
          <Chapter key={s.stage} d={d} s={s} />
        ))}
      </main>
    </div>
  );
}

function Chapter({ d, s }: { d: ReportDocument; s: Section }) {
  return (
    <section className="mt-6">
      <h2 className="border-b border-tin pb-1 text-[15px]!">{s.title}</h2>
      {s.sentences.map((t) => (
        <p key={t} className="mt-1 text-[12.5px]">
          {t}
        </p>
      ))}
      {s.markdown ? <Prose markdown={s.markdown} /> : null}
      <Figures d={d} s={s} />
      {s.tables.map((key) => {
        const t = d.tables.find((x) => x.key === key);
        return t ? <Tabled key={key} t={t} /> : null;
      })}
    </section>
  );
}

/** What was said of a report since it was issued. */
export interface Standing {
  readonly signOffs: readonly SignOff[];
  readonly withdrawn: Withdrawal | null;
  /** number of the later report that stands in its place */
  readonly supersededBy: number | null;
}

function Signatures({ signOffs, withdrawn, supersededBy }: Standing) {
  return (
    <>
      {withdrawn ? (
        <p className="mt-2 border-l-2 border-pointer pl-3 font-[600]">
          Withdrawn by {withdrawn.by} on {withdrawn.at.slice(0, 10)}: {withdrawn.reason}
        </p>
      ) : supersededBy ? (
        <p className="mt-2 border-l-2 border-brass pl-3">Report {supersededBy} stands in its place.</p>
      ) : null}
      <p className="text-ink-2">
        {SIGN_ROLES.map((role) => {
          const s = signOffs.find((x) => x.role === role);
          return s ? `${role} by ${s.by} on ${s.at.slice(0, 10)}` : `not ${role}`;
        }).join("; ")}
      </p>
    </>
  );
}

function Bar({ caseId, number }: { caseId: string; number: number }) {
  return (
    <div className="no-print mx-auto mb-4 flex max-w-[860px] justify-between">
      <Link className="link" href={`/cases/${caseId}/report`}>
        Back to the case
      </Link>
      <span className="flex gap-4">
        <a className="link" href={`/api/cases/${caseId}/reports/${number}/pdf`}>
          PDF
        </a>
        <a className="link" href={`/api/cases/${caseId}/reports/${number}/docx`}>
          DOCX
        </a>
        <a className="link" href={`/api/cases/${caseId}/reports/${number}/zip`}>
          Evidence pack
        </a>
        <a className="link" href={`/api/cases/${caseId}/reports/${number}/html`}>
          HTML in one file
        </a>
        <PrintButton />
      </span>
    </div>
  );
}

function Verdicts({ verdicts }: Pick<ReportDocument, "verdicts">) {
  return (
    <table className="mt-4">
      <tbody>
        {verdicts.map((v) => (
          <tr key={v.quantity}>
            <td className="w w-52 align-top">{v.quantity}</td>
            <td className="w align-top font-semibold whitespace-nowrap">{v.word}</td>
            <td className="w text-ink-2">
              {v.claim ?? v.sentence} {v.reasons.length ? `Why: ${v.reasons.join("; ")}.` : ""}
              {v.byArgument ? (
                <b className="block font-[600] text-ink">Rests on reasons instead of measurements: {v.byArgument.join("; ")}.</b>
              ) : null}
              {v.next ? <span className="block">Next: {v.next}</span> : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A section's drawings and pictures of fields. */
function Figures({ d, s }: { d: ReportDocument; s: Section }) {
  const caption = "text-[11.5px] font-semibold";
  const pictures = d.pictures.filter((p) => p.stage === s.stage);
  return (
    <div className="mt-2 flex flex-wrap gap-4">
      {s.drawings.map((key) => {
        const g = d.drawings.find((x) => x.key === key);
        return g ? (
          <figure key={key}>
            <figcaption className={caption}>
              <Titled x={g} />
            </figcaption>
            <div dangerouslySetInnerHTML={{ __html: g.svg }} />
          </figure>
        ) : null;
      })}
      {pictures.map((p) => (
        <figure key={p.key}>
          <figcaption className={caption}>
            <Titled x={p} />
          </figcaption>
          {/* biome-ignore lint/performance/noImgElement: a picture frozen inside the document */}
          <img src={`data:image/png;base64,${p.pngBase64}`} alt={p.title} width="300" className="[image-rendering:pixelated]" />
        </figure>
      ))}
    </div>
  );
}

/** A title with what whoever issued the report says under it. */
function Titled({ x }: { x: { readonly title: string; readonly caption?: string | undefined } }) {
  return (
    <>
      {x.title}
      {x.caption ? <span className="block font-normal">{x.caption}</span> : null}
    </>
  );
}

/** columns that still have room at the usual size */
const MOST_ROOMY = 9;

function Tabled({ t }: { t: Table }) {
  const texts = textsOf(t);
  return (
    <div className="mt-3">
      <h3>
        <Titled x={t} />
      </h3>
      <table className={t.columns.length > MOST_ROOMY ? "narrow" : ""}>
        <thead>
          <tr>
            {t.columns.map((c) => (
              <th key={c.name} className="text-left whitespace-normal!">
                {c.unit && c.unit !== "1" ? `${c.name} (${c.unit})` : c.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {t.rows.map((r, i) => (
            <tr key={JSON.stringify(r)}>
              {r.map((v, k) => (
                <td key={t.columns[k].name} className={typeof v === "number" ? "" : "w [overflow-wrap:anywhere]"}>
                  {texts[k][i]}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Every column of a table as text. */
const textsOf = (t: Table) =>
  t.columns.map((c, k) =>
    columnText(
      t.rows.map((r) => r[k]),
      c.unit,
      c.name,
    ),
  );

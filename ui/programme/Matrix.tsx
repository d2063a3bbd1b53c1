"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import type { SmallRule } from "@/core/assessment/results/boardRow";
import { signedPercent } from "@/core/formatting/number";
import { Field } from "../forms/Field";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { type Column, DataTable } from "../tables/DataTable";
import { sourceSize } from "../tables/sourceSize";
import { byQuantity, bySource, type MatrixLine, type MatrixRow } from "./matrix";

interface Props {
  readonly lines: readonly MatrixLine[];
  readonly waiting: number;
  readonly programme: string;
  readonly what: "quantities" | "sources";
  /** quantity whose sources are shown; the leading one of each case where absent */
  readonly of: string | undefined;
}

const LEADING = "";

/** Cases against their quantities, or against their error sources, on one sheet. */
export function Matrix({ lines, waiting, programme, what, of }: Props) {
  const router = useRouter();
  const names = byQuantity(lines).columns;
  const go = (to: Record<string, string>) => router.push(`/matrix?${new URLSearchParams(to)}`);
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <div className="flex items-end justify-between gap-4">
        <div>
          <h1>Matrix</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-3">
            {what === "quantities"
              ? "Each case against each quantity: verdict, and difference from the yardstick that counts most."
              : "Each case against each error source, at 95 %, over the quantity's scale."}{" "}
            <Link className="link" href="/programme">
              {programme}
            </Link>
          </p>
        </div>
        <div className="no-print flex items-end gap-3">
          <div className="w-44">
            <Field
              label="Against"
              value={what}
              onChange={(v) => go({ what: v })}
              choices={[
                ["quantities", "quantities"],
                ["sources", "error sources"],
              ]}
            />
          </div>
          {what === "sources" ? (
            <div className="w-60">
              <Field
                label="Of the quantity"
                value={of ?? LEADING}
                onChange={(v) => go(v === LEADING ? { what } : { what, of: v })}
                choices={[[LEADING, "leading one of each case"], ...names.map((n) => [n, n] as const)]}
              />
            </div>
          ) : null}
          {what === "quantities" ? <QuantityCsv lines={lines} /> : <SourceCsv lines={lines} of={of} />}
        </div>
      </div>
      {waiting ? <p className="mt-3 text-[12.5px] text-ink-2">{waiting} cases are still being worked out; open the page again for them.</p> : null}
      {lines.length ? (
        // A wide table has to be scrolled by keyboard too.
        <section className="mt-3 overflow-x-auto" aria-label="Matrix of cases" tabIndex={0}>
          {what === "quantities" ? <Quantities lines={lines} /> : <Sources lines={lines} of={of} />}
        </section>
      ) : (
        <p className="mt-4 text-ink-2">
          No case has a quantity yet.{" "}
          <Link className="link" href="/new">
            New case
          </Link>
        </p>
      )}
    </main>
  );
}

const title = <Cell,>(stage: string): Column<MatrixRow<Cell>> => ({
  header: "Case",
  words: true,
  headClassName: "text-left align-bottom min-w-60 sticky left-0 bg-sheet",
  className: "sticky left-0 bg-sheet",
  cell: (r) => (
    <Link href={`/cases/${r.caseId}/${stage}`} className="font-[560]">
      {r.title}
      {r.quantity ? <small className="block text-[11.5px] font-normal text-ink-3">{r.quantity}</small> : null}
    </Link>
  ),
});

function Quantities({ lines }: { lines: readonly MatrixLine[] }) {
  const { columns, rows } = byQuantity(lines);
  return (
    <DataTable
      rows={rows}
      rowKey={(r) => r.caseId}
      columns={[
        title("verdict"),
        ...columns.map(
          (name): Column<MatrixRow<MatrixLine>> => ({
            header: name,
            headClassName: "max-w-28 min-w-24 align-bottom whitespace-normal",
            className: "whitespace-nowrap",
            cell: ({ caseId, cells: { [name]: l } }) =>
              l ? (
                <Link href={`/cases/${caseId}/verdict?q=${encodeURIComponent(l.key)}`} title={l.sentence}>
                  {l.rule.difference === undefined ? "" : signedPercent(l.rule.difference)}{" "}
                  <span className="ml-1">
                    <StateMark state={l.state} />
                  </span>
                </Link>
              ) : null,
          }),
        ),
      ]}
    />
  );
}

type Source = SmallRule["sources"][number];

function Sources({ lines, of }: { lines: readonly MatrixLine[]; of: string | undefined }) {
  const { columns, rows } = bySource(lines, of);
  const largest = new Map(rows.map((r) => [r.caseId, Math.max(0, ...Object.values(r.cells).map((s) => s.relative ?? 0))]));
  return (
    <>
      <DataTable
        rows={rows}
        rowKey={(r) => r.caseId}
        columns={[
          title("verdict"),
          ...columns.map(
            ({ key, name }): Column<MatrixRow<Source>> => ({
              header: name,
              headClassName: "min-w-20 align-bottom",
              className: "whitespace-nowrap",
              cell: ({ caseId, cells: { [key]: s } }) => {
                if (!s) return <span className="text-ink-3">none</span>;
                const most = s.relative !== undefined && s.relative > 0 && s.relative === largest.get(caseId);
                return (
                  <span
                    className={
                      most
                        ? "font-[680] underline decoration-blue decoration-2 underline-offset-4"
                        : s.relative === undefined
                          ? "border border-dashed border-ink-3 px-1"
                          : ""
                    }
                  >
                    {sourceSize(s, "n/a")}
                  </span>
                );
              },
            }),
          ),
        ]}
      />
      <p className="mt-2 text-[12px] text-ink-3">
        Underlined: the largest of the case. Dashed: open, nobody knows its size. ≤ bounded by argument, ≈ estimated, n/a does not apply; none: the
        case has no such source.
      </p>
    </>
  );
}

function QuantityCsv({ lines }: { lines: readonly MatrixLine[] }) {
  return (
    <CsvButton
      name="matrix-of-quantities"
      header={["case", "quantity", "verdict", "difference, fraction", "limit, fraction"]}
      rows={lines.map((l) => [l.title, l.name, l.state, l.rule.difference ?? "", l.limit])}
    />
  );
}

function SourceCsv({ lines, of }: { lines: readonly MatrixLine[]; of: string | undefined }) {
  const { columns, rows } = bySource(lines, of);
  return (
    <CsvButton
      name="matrix-of-error-sources"
      header={["case", "quantity", ...columns.map((c) => `${c.name}, 95 %, fraction`)]}
      rows={rows.map((r) => [r.title, r.quantity ?? "", ...columns.map((c) => (r.cells[c.key] ? (r.cells[c.key].relative ?? "open") : ""))])}
    />
  );
}

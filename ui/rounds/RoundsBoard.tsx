"use client";

import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { percent, signedPercent, significant } from "@/core/formatting/number";
import type { RoundCell, RoundLine, Rounds } from "@/core/study/rounds";
import { Field } from "../forms/Field";
import { useSave } from "../forms/useSave";
import { notify } from "../shell/notify";
import { StateMark } from "../shell/StateMark";
import { CsvButton } from "../tables/CsvButton";
import { type Column, DataTable } from "../tables/DataTable";
import { trendPoints } from "./trend";

interface View {
  readonly codes: readonly { readonly code: string; readonly versions: number }[];
  readonly rounds?: Rounds;
  readonly sentence: string;
  readonly benchVersion: string;
  readonly waiting: number;
}

/** versions shown at once, the newest */
const SHOWN = 6;

/** The benchmarks run again with every version of a code: what moved, by how much, with which version. */
export function RoundsBoard({ view }: { view: View }) {
  const { codes, rounds, sentence, waiting } = view;
  const router = useRouter();
  const [movedOnly, setMovedOnly] = useState(false);
  const versions = rounds?.versions.slice(-SHOWN) ?? [];
  const lines = rounds?.lines.filter((l) => !movedOnly || l.cells.some((c) => c.moved)) ?? [];
  return (
    <main id="main" tabIndex={-1} className="flex-1 bg-sheet px-6 py-4">
      <div className="flex items-end justify-between gap-4">
        <div>
          <h1>Code versions</h1>
          <p className="mt-0.5 text-[12.5px] text-ink-2">{sentence}</p>
        </div>
        <div className="no-print flex items-end gap-3">
          {codes.length ? (
            <div className="w-52">
              <Field
                label="Code"
                value={rounds?.code ?? ""}
                onChange={(code) => router.push(`/versions?code=${encodeURIComponent(code)}`)}
                choices={codes.map((c) => [c.code, `${c.code}, ${c.versions} ${c.versions === 1 ? "version" : "versions"}`] as const)}
              />
            </div>
          ) : null}
          {rounds ? <RoundsCsv rounds={rounds} /> : null}
          <BenchRound version={view.benchVersion} />
        </div>
      </div>
      {waiting ? <p className="mt-2 text-[12.5px] text-ink-2">{waiting} cases are still being worked out and are not in it yet.</p> : null}
      {rounds?.lines.length ? (
        <>
          <label className="mt-3 flex items-center gap-1.5 text-[12.5px]">
            <input type="checkbox" checked={movedOnly} onChange={(e) => setMovedOnly(e.target.checked)} /> only what moved beyond noise
          </label>
          <DataTable className="mt-1" rows={lines} rowKey={(l) => `${l.caseId} ${l.quantityKey}`} columns={columnsOf(versions)} />
          {lines.length ? null : <p className="mt-2 text-ink-2">Nothing moved beyond noise.</p>}
          <p className="mt-2 max-w-[110ch] text-[12px] text-ink-3">
            Changes against the version before, over the quantity's scale; half-filled where they are beyond what both records leave open. Weight: the
            largest of them over the numerical uncertainty of the quantity: below 1 the change is smaller than what the mesh leaves open anyway.
            {rounds.versions.length > SHOWN ? ` The newest ${SHOWN} of ${rounds.versions.length} versions are shown; the file has all.` : ""}
          </p>
        </>
      ) : (
        <p className="mt-4 max-w-[80ch] text-ink-2">
          A round is the same benchmarks run once more with another version of a code. Name the version where results are brought in, or run a round
          of the bench; what moved stands here then.
        </p>
      )}
    </main>
  );
}

const columnsOf = (versions: readonly string[]): Column<RoundLine>[] => [
  {
    header: "Benchmark and quantity",
    words: true,
    headClassName: "text-left w-64",
    className: "py-[6px]",
    cell: (l) => (
      <>
        <Link href={`/cases/${l.caseId}/runs`} className="font-[560]">
          {l.title}
        </Link>
        <small className="block text-[11.5px] text-ink-3">{l.name}</small>
      </>
    ),
  },
  { header: "Trend", headClassName: "w-28", cell: (l) => <Trend line={l} /> },
  ...versions.map(
    (v): Column<RoundLine> => ({
      header: v,
      headClassName: "whitespace-nowrap",
      className: "whitespace-nowrap",
      title: (l) => {
        const c = l.cells.find((x) => x.version === v);
        return c ? `${significant(c.value, 9)} ${l.unit}${c.noise === undefined ? "" : `, noise ${percent(c.noise)}`}` : undefined;
      },
      cell: (l) => <CellText line={l} cell={l.cells.find((c) => c.version === v)} />,
    }),
  ),
  {
    header: "Weight",
    cell: (l) => {
      const weights = l.cells.flatMap((c) => (c.moved && c.weight !== undefined ? [c.weight] : []));
      return weights.length ? significant(Math.max(...weights), 2) : "";
    },
  },
  { header: "Where it broke", words: true, headClassName: "text-left", className: "text-ink-2", cell: (l) => l.broke?.sentence ?? "" },
];

function CellText({ line, cell }: { line: RoundLine; cell: RoundCell | undefined }) {
  if (!cell) return <span className="text-ink-3">not run</span>;
  if (cell.change === undefined) return significant(cell.value, 5);
  return (
    <>
      {cell.change === 0 ? "0" : signedPercent(cell.change)}{" "}
      <span className="ml-1">
        <StateMark state={cell.moved ? "remark" : "holds"} plain />
        <span className="sr-only">{cell.moved ? `${line.name} moved beyond noise` : "not moved"}</span>
      </span>
    </>
  );
}

const W = 96;
const H = 22;

/** Values over the versions, small. */
function Trend({ line }: { line: RoundLine }) {
  const points = trendPoints(
    line.cells.map((c) => c.value),
    W,
    H,
  );
  return (
    <svg width={W} height={H} role="img" aria-label={`${line.name} over ${line.cells.length} versions`}>
      <polyline points={points.map((p) => p.join(",")).join(" ")} fill="none" stroke="#27506B" strokeWidth="1.3" />
      {points.map(([x, y], k) => (
        <circle key={line.cells[k].version} cx={x} cy={y} r={line.cells[k].moved ? 3 : 1.8} fill={line.cells[k].moved ? "#A87A1F" : "#27506B"} />
      ))}
    </svg>
  );
}

function RoundsCsv({ rounds }: { rounds: Rounds }) {
  return (
    <CsvButton
      name={`versions-of-${rounds.code}`}
      header={["case", "quantity", "unit", "version", "value", "change, fraction", "noise, fraction", "moved"]}
      rows={rounds.lines.flatMap((l) =>
        l.cells.map((c) => [
          l.title,
          l.name,
          l.unit,
          c.version,
          c.value,
          c.change ?? "",
          c.noise ?? "",
          c.moved === undefined ? "" : String(c.moved),
        ]),
      )}
    />
  );
}

function BenchRound({ version }: { version: string }) {
  const { save, busy } = useSave();
  const start = async () => {
    const made = await save("POST /rounds", { input: {} });
    if (!made) return;
    notify(
      made.runs.length
        ? `${made.runs.length} ${made.runs.length === 1 ? "run waits" : "runs wait"} on the bench.`
        : made.had
          ? `Every bench case was run by ${version} already.`
          : "There is no bench case with a finished run of the present set-up.",
    );
  };
  return (
    <button type="button" className="btn" disabled={busy} onClick={() => void start()} title={`npm run round does the same; the bench is ${version}`}>
      Run a round of the bench
    </button>
  );
}

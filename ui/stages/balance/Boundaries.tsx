import type { RunBalance } from "@/core/assessment/results/balance";
import { scientific } from "@/core/formatting/number";
import { columnScale } from "@/core/formatting/scale";
import type { BalanceRecord, BoundaryFlux } from "@/core/records/balance";
import { StateMark } from "../../shell/StateMark";
import { CsvButton } from "../../tables/CsvButton";
import { DataTable } from "../../tables/DataTable";
import type { RunLine } from "../../view";

const total = (parts: readonly number[] | undefined) => parts?.reduce((s, v) => s + v, 0);

interface Column {
  readonly name: string;
  readonly of: (b: BoundaryFlux) => number | undefined;
  readonly source?: number;
  readonly stored?: number;
  readonly net?: number;
}

function columnsOf(record: BalanceRecord, b: RunBalance, per: string): Column[] {
  const has = (of: Column["of"]) => record.boundaries.some((r) => of(r) !== undefined);
  const net = (what: string) => b.lines.find((l) => l.what === what)?.net;
  const scalars = [...new Set(record.boundaries.flatMap((r) => Object.keys(r.scalars ?? {})))];
  const columns: Column[] = [
    { name: `Mass, kg/s${per}`, of: (r) => r.mass, source: record.sources?.mass, stored: record.storage?.mass, net: net("mass") },
    {
      name: `x momentum, N${per}`,
      of: (r) => total(r.momentumX),
      source: record.bodyForce?.[0],
      stored: record.storage?.momentum?.[0],
      net: net("x momentum"),
    },
    { name: "of it pressure", of: (r) => r.momentumX?.[1] },
    { name: "of it shear", of: (r) => r.momentumX?.[2] },
    {
      name: `y momentum, N${per}`,
      of: (r) => total(r.momentumY),
      source: record.bodyForce?.[1],
      stored: record.storage?.momentum?.[1],
      net: net("y momentum"),
    },
    { name: `z momentum, N${per}`, of: (r) => total(r.momentumZ), net: net("z momentum") },
    ...scalars.flatMap((key): Column[] => [
      {
        name:
          key === "energy" ? `Energy, W${per}` : key === "species" ? `Species, kg/s${per}` : key === "temperature" ? `heat, K m²/s` : `${key}${per}`,
        of: (r) => total(r.scalars?.[key]),
        source: record.sources?.[key],
        stored: record.storage?.scalars?.[key],
        net: net(key),
      },
      { name: `of it by diffusion${scalars.length > 1 ? `, ${key}` : ""}`, of: (r) => r.scalars?.[key]?.[1] },
    ]),
  ];
  return columns.filter((c) => has(c.of) && (!c.name.startsWith("of it") || record.boundaries.some((r) => c.of(r))));
}

interface Row {
  readonly name: string;
  /** by column */
  readonly values: readonly (number | undefined)[];
}

const headOf = (name: string, factor: string) => (
  <>
    {name} {factor ? <span className="whitespace-nowrap font-mono">{factor}</span> : null}
  </>
);

const NetRow = ({ columns }: { columns: readonly Column[] }) => (
  <tr className="font-semibold">
    <td className="w">net</td>
    {columns.map((c) => (
      <td key={c.name}>{c.net === undefined ? "" : c.net === 0 ? "0" : scientific(c.net, 2)}</td>
    ))}
  </tr>
);

/** What goes through every boundary of a run, with what it has of sources and storage. */
export function Boundaries({ run, record, b }: { run: RunLine; record: BalanceRecord; b: RunBalance }) {
  const per = run.origin === "bench" ? " per m" : "";
  const columns = columnsOf(record, b, per);
  const extra = (pick: (c: Column) => number | undefined, sign: 1 | -1) =>
    columns.map((c) => (pick(c) === undefined ? undefined : sign * (pick(c) ?? 0)));
  const sources = extra((c) => c.source, -1);
  const stored = extra((c) => c.stored, 1);
  // One look at each column decides how many digits its figures need.
  const scales = columns.map((c, k) =>
    columnScale(
      [...record.boundaries.map(c.of), sources[k], stored[k]].filter((v): v is number => v !== undefined),
      4,
    ),
  );
  const figure = (v: number | undefined, k: number) => (v === undefined ? "–" : v === 0 ? "0" : scales[k].text(v));
  const rows: Row[] = [
    ...record.boundaries.map((r) => ({ name: r.name, values: columns.map((c) => c.of(r)) })),
    ...(sources.some((v) => v) ? [{ name: "sources, off", values: sources }] : []),
    ...(stored.some((v) => v) ? [{ name: "stored", values: stored }] : []),
  ];
  const { factor } = record;
  return (
    <>
      <div className="mt-5 flex items-center justify-between">
        <h2>
          Through every boundary of {b.label}{" "}
          <span className="text-[11.5px] font-normal text-ink-3">outward positive{record.from ? ", worked out from its surface" : ""}</span>
        </h2>
        <CsvButton
          name="boundaries"
          header={["boundary", ...columns.map((c) => c.name)]}
          rows={rows.map((r) => [r.name, ...r.values.map((v) => v ?? "")])}
        />
      </div>
      {factor !== undefined ? (
        <p className="text-[12.5px]">
          <StateMark state="remark" /> Every figure is of the whole: the model is one of {factor} parts, and the flows of the file were multiplied by{" "}
          {factor}, once.
        </p>
      ) : null}
      <div className="overflow-x-auto">
        <DataTable
          className="tight mt-1"
          rows={rows}
          rowKey={(r) => r.name}
          columns={[
            { header: "Boundary", words: true, className: "whitespace-nowrap", headClassName: "align-bottom", cell: (r) => r.name },
            ...columns.map((c, k) => ({
              header: headOf(c.name, scales[k].factor),
              headClassName: "whitespace-normal! align-bottom",
              cell: (r: Row) => figure(r.values[k], k),
            })),
          ]}
          after={<NetRow columns={columns} />}
        />
      </div>
      <p className="mt-2 text-[11.5px] text-ink-3">
        The net is in the column's unit. Mass against the larger of inflow and outflow, or, where nothing flows through, against the largest flux
        inside; momentum against the largest single term of either component.
      </p>
    </>
  );
}

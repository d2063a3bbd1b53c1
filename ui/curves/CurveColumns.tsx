"use client";

import { Field } from "../forms/Field";
import { Problems } from "../stages/bringIn/Told";
import { DataTable } from "../tables/DataTable";
import type { CurveFile } from "./useCurveFile";

const ROLES = [
  ["abscissa", "place along the curve"],
  ["station", "station"],
  ["value", "values of a curve"],
  ["uncertainty", "uncertainty of the values left of it"],
  ["place-uncertainty", "uncertainty of the place"],
  ["ignore", "left out"],
] as const;

/** The file of curves: what each column is, how uncertain its figures are, and what stands in the way. */
export function CurveColumns({ of }: { of: CurveFile }) {
  const { file, found, words, mistake, choose, change } = of;
  const at = (key: "roles" | "units", i: number, v: string) => change({ ...words, [key]: words[key].map((old, k) => (k === i ? v : old)) });
  return (
    <>
      <label htmlFor="curve-file">A table, one row a point: delimited text or a workbook (.xlsx); or several text files, one a station</label>
      <input
        id="curve-file"
        type="file"
        multiple
        accept=".csv,.txt,.dat,.tsv,.xlsx"
        className="block text-[12px]"
        onChange={(e) => void choose([...(e.target.files ?? [])])}
      />
      {mistake ? <p className="mistake mt-1">{mistake}</p> : null}
      {of.notes.map((n) => (
        <p key={n} className="mt-1 text-[12px] text-ink-2">
          {n}
        </p>
      ))}
      <ReadBefore of={of} />
      {found && file ? (
        <>
          <div className="mt-2 overflow-x-auto">
            <DataTable
              rows={found.sample}
              rowKey={(row) => row.join()}
              columns={found.header.map((name, i) => ({
                headClassName: "text-left align-top",
                header: (
                  <div className="grid min-w-[130px] gap-1">
                    <span className="truncate">{name}</span>
                    <Field
                      label={`What ${name} is`}
                      unseenLabel
                      value={words.roles[i] ?? "ignore"}
                      onChange={(v) => at("roles", i, v)}
                      choices={ROLES}
                    />
                    <Field
                      label={`Unit of ${name}`}
                      unseenLabel
                      value={words.units[i] ?? ""}
                      placeholder="unit, 1 for none"
                      onChange={(v) => at("units", i, v)}
                    />
                  </div>
                ),
                cell: (row: readonly string[]) => row[i]?.slice(0, 24),
              }))}
            />
          </div>
          <Problems problems={found.problems.map((p) => ({ ...p, file: file.name }))} />
          {found.notes.map((n) => (
            <p key={n} className="text-[12px] text-ink-2">
              {n}
            </p>
          ))}
        </>
      ) : null}
    </>
  );
}

/** How far a workbook or a large file is, its sheets, and what stands in its way. */
function ReadBefore({ of: { reading, chooseSheet } }: { of: CurveFile }) {
  if (!reading) return null;
  const { state, name, read, total, sheets, sheet, problems } = reading;
  return (
    <>
      {state === "reading" ? (
        <p className="mt-1 text-[12px] text-ink-2">
          Reading {name}
          {total ? `, ${Math.round((100 * read) / total)} %` : ""} …
        </p>
      ) : null}
      {sheets && sheets.length > 1 ? (
        <div className="mt-2 max-w-[240px]">
          <Field label="Sheet" value={sheet ?? sheets[0]} onChange={(s) => void chooseSheet(s)} choices={sheets.map((s) => [s, s] as const)} />
        </div>
      ) : null}
      {state === "refused" ? <Problems problems={problems.map((p) => ({ ...p, file: name }))} /> : null}
    </>
  );
}

/** How uncertain the figures of the file are, where no column says it. */
export function CurveUncertainty({ of }: { of: CurveFile }) {
  const { words, change } = of;
  return (
    <div className="mt-2 grid grid-cols-4 gap-2">
      <Field
        label="Uncertainties are"
        value={words.coverage === 2 ? "2" : "1"}
        onChange={(v) => change({ ...words, coverage: v === "2" ? 2 : 1 })}
        choices={[
          ["2", "95 % figures"],
          ["1", "standard uncertainties"],
        ]}
      />
      {words.roles.includes("uncertainty") ? null : (
        <Field label="Each point's own" value={words.own} placeholder="2 % or 0.05 m/s + 1 %" onChange={(own) => change({ ...words, own })} />
      )}
      <Field label="Shared by all points" value={words.shared} placeholder="calibration: 0.5 %" onChange={(shared) => change({ ...words, shared })} />
      {words.roles.includes("place-uncertainty") ? null : (
        <Field label="Of the place" value={words.place} placeholder="0.2 mm" onChange={(place) => change({ ...words, place })} />
      )}
    </div>
  );
}

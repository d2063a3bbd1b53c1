"use client";

import { useState } from "react";
import { count } from "@/core/formatting/number";
import type { SheetPreview } from "@/core/intake/historyImport";
import { useAsked } from "../../api/useAsked";
import { HistoryChart } from "../../charts/HistoryChart";
import { DataTable } from "../../tables/DataTable";
import { type Choices, columnChoices } from "./roleChoices";

const DELIMITERS: Readonly<Record<string, string>> = { ",": "commas", ";": "semicolons", "\t": "cells or tabs", " ": "blanks", json: "JSON" };

export interface Mapped {
  readonly roles: readonly string[];
  readonly units: readonly string[];
}

/** What each column of a sheet is, with its unit, its first rows and a plot of one column. */
export function Mapping(p: {
  caseId: string;
  readingId: string;
  preview: SheetPreview;
  mapped: Mapped;
  change: (m: Mapped) => void;
  quantities: readonly { readonly key: string; readonly name: string }[];
  notes: readonly string[];
}) {
  const { preview, mapped } = p;
  const [shown, setShown] = useState(() =>
    Math.max(
      0,
      mapped.roles.findIndex((r) => r.startsWith("quantity:")),
    ),
  );
  const choices = columnChoices(p.quantities);
  const set = (key: keyof Mapped, i: number, value: string) => p.change({ ...mapped, [key]: mapped[key].map((v, k) => (k === i ? value : v)) });
  return (
    <div className="mt-3">
      <h3>
        {count(preview.rows)} rows of {preview.header.length} columns, {DELIMITERS[preview.delimiter] ? `by ${DELIMITERS[preview.delimiter]}` : ""}
      </h3>
      <div className="overflow-x-auto">
        <DataTable
          className="mt-1"
          rows={preview.sample}
          rowKey={(row) => String(preview.sample.indexOf(row))}
          columns={preview.header.map((name, i) => ({
            headClassName: "text-left align-top",
            header: (
              <ColumnHead
                name={name}
                drawn={i === shown}
                draw={() => setShown(i)}
                role={mapped.roles[i]}
                setRole={(role) => set("roles", i, role)}
                unit={mapped.units[i]}
                setUnit={(unit) => set("units", i, unit)}
                choices={choices}
              />
            ),
            cell: (row: readonly string[]) => row[i]?.slice(0, 24),
          }))}
        />
      </div>
      <ColumnPlot caseId={p.caseId} readingId={p.readingId} index={shown} name={preview.header[shown]} log={mapped.roles[shown] === "residual"} />
      {p.notes.map((n) => (
        <p key={n} className="text-[12px] text-ink-2">
          {n}
        </p>
      ))}
    </div>
  );
}

interface ColumnHeadProps {
  readonly name: string;
  /** it is the column drawn below */
  readonly drawn: boolean;
  readonly draw: () => void;
  readonly role: string;
  readonly setRole: (role: string) => void;
  readonly unit: string;
  readonly setUnit: (unit: string) => void;
  readonly choices: Choices;
}

/** The name of a column, what it is, and its unit where that matters. */
function ColumnHead(p: ColumnHeadProps) {
  return (
    <div className="grid min-w-[120px] gap-1">
      <button
        type="button"
        className={`block max-w-[180px] truncate text-left ${p.drawn ? "font-semibold text-ink" : "link"}`}
        aria-pressed={p.drawn}
        title={`Draw ${p.name}`}
        onClick={p.draw}
      >
        {p.name}
      </button>
      <select aria-label={`Role of column ${p.name}`} className="field words" value={p.role} onChange={(e) => p.setRole(e.target.value)}>
        {p.choices.map(([v, n]) => (
          <option key={v} value={v}>
            {n}
          </option>
        ))}
      </select>
      <input
        aria-label={`Unit of column ${p.name}`}
        className="field"
        placeholder="unit"
        disabled={!/^(time|boundary-|quantity:)/.test(p.role)}
        value={p.unit}
        onChange={(e) => p.setUnit(e.target.value)}
      />
    </div>
  );
}

/** One column against its rows, before anything is stored. */
function ColumnPlot(p: { caseId: string; readingId: string; index: number; name: string; log: boolean }) {
  const at = { id: p.caseId, reading: p.readingId, index: String(p.index) };
  const { data: picture } = useAsked("GET /cases/{id}/readings/{reading}/columns/{index}", { at });
  if (!picture) return <div className="h-[128px]" />;
  return (
    <div className="mt-2 max-w-[760px]">
      <p className="text-[12px] text-ink-2">
        {p.name} against its rows{picture.gaps ? `, ${count(picture.gaps)} gaps` : ""}
      </p>
      <HistoryChart
        title={`${p.name} against its rows`}
        iteration={picture.at}
        series={[{ name: p.name, values: picture.values.map((v) => v ?? Number.NaN) }]}
        log={p.log && picture.values.every((v) => v === null || v > 0)}
        height={110}
      />
    </div>
  );
}

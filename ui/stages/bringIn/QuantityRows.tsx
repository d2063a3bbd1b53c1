"use client";

import { significant } from "@/core/formatting/number";
import { DataTable, Unseen } from "../../tables/DataTable";
import type { Choices } from "./roleChoices";

export interface QuantitiesPreview {
  readonly rows: readonly { line: number; name: string; value: number; unit?: string }[];
  readonly roles: readonly string[];
}

export const SIGN_WORDS = [
  ["outward", "positive outward"],
  ["inward", "positive inward"],
  ["by-name", "all positive, the name says which way"],
] as const;

/** Rows of a table of results: what each is, and its unit. */
export function QuantityRows(p: {
  preview: QuantitiesPreview;
  roles: readonly string[];
  change: (roles: readonly string[]) => void;
  units: readonly string[];
  changeUnits: (units: readonly string[]) => void;
  choices: Choices;
}) {
  const changed = (list: readonly string[], at: number, value: string) => list.map((x, k) => (k === at ? value : x));
  return (
    <div className="mt-3">
      <h3>Quantities</h3>
      <DataTable
        className="mt-1 max-w-[760px]"
        rows={p.preview.rows}
        rowKey={(r) => String(r.line)}
        columns={[
          { header: <Unseen>Name</Unseen>, words: true, cell: (r) => r.name },
          { header: <Unseen>Value</Unseen>, cell: (r) => significant(r.value, 6) },
          {
            header: <Unseen>Unit</Unseen>,
            words: true,
            cell: (r, i) => (
              <input
                aria-label={`Unit of row ${r.name}`}
                className="field"
                placeholder="unit"
                value={p.units[i] ?? ""}
                onChange={(e) => p.changeUnits(changed(p.units, i, e.target.value))}
              />
            ),
          },
          {
            header: <Unseen>What it is</Unseen>,
            words: true,
            cell: (r, i) => (
              <select
                aria-label={`Role of row ${r.name}`}
                className="field words"
                value={p.roles[i]}
                onChange={(e) => p.change(changed(p.roles, i, e.target.value))}
              >
                {p.choices.map(([v, n]) => (
                  <option key={v} value={v}>
                    {n}
                  </option>
                ))}
              </select>
            ),
          },
        ]}
      />
    </div>
  );
}

"use client";

import { saveFile } from "../charts/saveFile";

type Rows = readonly (readonly (string | number)[])[];

/** Saves a table as CSV with all its digits; long ones are made when they are asked for. */
export function CsvButton({ name, header, rows }: { name: string; header: readonly string[]; rows: Rows | (() => Rows) }) {
  // The writer is fetched when it is asked for: most visits save no table.
  const save = async () => {
    const { writeCsv } = await import("@/core/formats/csv");
    saveFile(name, "csv", writeCsv(header, typeof rows === "function" ? rows() : rows), "text/csv");
  };
  return (
    <button type="button" className="link no-print text-[11.5px]" onClick={save}>
      CSV
    </button>
  );
}

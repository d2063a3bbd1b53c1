"use client";

import { writeCsv } from "@/core/formats/csv";
import { saveFile } from "../charts/saveFile";

/** Saves a table as CSV with all its digits. */
export function CsvButton({ name, header, rows }: { name: string; header: readonly string[]; rows: readonly (readonly (string | number)[])[] }) {
  const save = () => saveFile(name, "csv", writeCsv(header, rows), "text/csv");
  return (
    <button type="button" className="link no-print text-[11.5px]" onClick={save}>
      CSV
    </button>
  );
}

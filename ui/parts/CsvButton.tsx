"use client";

import { writeCsv } from "@/core/formats/delimited";

/** Saves a table as CSV with all its digits. */
export function CsvButton({ name, header, rows }: { name: string; header: readonly string[]; rows: readonly (readonly (string | number)[])[] }) {
  const save = () => {
    const url = URL.createObjectURL(new Blob([writeCsv(header, rows)], { type: "text/csv" }));
    const a = document.createElement("a");
    a.href = url;
    a.download = `${name}.csv`;
    a.click();
    URL.revokeObjectURL(url);
  };
  return (
    <button type="button" className="link no-print text-[11.5px]" onClick={save}>
      CSV
    </button>
  );
}

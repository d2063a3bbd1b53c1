"use client";

import { count } from "@/core/formatting/number";
import { useAsked } from "../../api/useAsked";
import type { ReadingView } from "./useReading";

type Source = { readonly file: File } | { readonly log: string; readonly name: string };

/** Where results come from: files, a log on the server, a table of results. */
export function Chooser(p: {
  reading: ReadingView | undefined;
  choose: (source: Source | undefined) => void;
  chooseFamily: (files: readonly File[]) => void;
  chooseTable: (file: File | undefined) => void;
}) {
  const { data: logs = [], refetch } = useAsked("GET /logs", {});
  return (
    <div className="grid grid-cols-3 gap-4">
      <div>
        <label htmlFor="history-file">History: one line an iteration</label>
        <input
          id="history-file"
          type="file"
          multiple
          accept=".csv,.txt,.dat,.tsv,.log,.out,.json,.xlsx"
          className="block text-[12px]"
          onChange={(e) => {
            const chosen = [...(e.target.files ?? [])];
            if (chosen.length > 1) p.chooseFamily(chosen);
            else p.choose(chosen[0] && { file: chosen[0] });
          }}
        />
        <p className="text-[11.5px] text-ink-3">text of any shape, .xlsx, or JSON by our schema; several at once become a family</p>
      </div>
      <div>
        <label htmlFor="log-file">or a log on the server</label>
        <select
          id="log-file"
          className="field words"
          value={p.reading?.log ? (logs.find((l) => l.name === p.reading?.name)?.path ?? "") : ""}
          onFocus={() => void refetch()}
          onChange={(e) => {
            const log = logs.find((l) => l.path === e.target.value);
            p.choose(log && { log: log.path, name: log.name });
          }}
        >
          <option value="">{logs.length ? "choose" : "none in the watched folders"}</option>
          {logs.map((l) => (
            <option key={l.path} value={l.path}>
              {l.name}, {count(Math.ceil(l.bytes / 1024))} kB
            </option>
          ))}
        </select>
        <p className="text-[11.5px] text-ink-3">followed while it is being written</p>
      </div>
      <div>
        <label htmlFor="quantities-file">Quantities: name, value, unit (CSV)</label>
        <input
          id="quantities-file"
          type="file"
          accept=".csv,.txt,.dat,.tsv"
          className="block text-[12px]"
          onChange={(e) => p.chooseTable(e.target.files?.[0])}
        />
      </div>
    </div>
  );
}

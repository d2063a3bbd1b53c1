"use client";

import { useState } from "react";
import { Field } from "../forms/Field";
import { useSave } from "../forms/useSave";

/** Number of runs at once. */
export function CoresForm({ cores }: { cores: number }) {
  const { save, busy } = useSave();
  const [n, setN] = useState(String(cores));
  return (
    <form
      className="mt-3 flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void save("PUT /settings/cores", { input: { cores: Number(n) } }, `The bench now uses ${n} ${n === "1" ? "core" : "cores"}.`);
      }}
    >
      <div className="w-40">
        <Field label="Cores used at once" value={n} onChange={setN} choices={["1", "2", "3", "4", "6", "8"].map((c) => [c, c] as const)} />
      </div>
      <button type="submit" className="btn" disabled={busy}>
        Set cores
      </button>
    </form>
  );
}

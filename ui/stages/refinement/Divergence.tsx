"use client";

import { useState } from "react";
import type { QuantitySpec } from "@/core/records/quantity";
import { useSave } from "../../forms/useSave";
import type { RefinementView } from "../../view";
import { DecideForm } from "./DecideForm";

type Refined = RefinementView["assessment"]["refinement"][number];

/** Whether a quantity is known not to converge: said by its template, or by a person, who can take it back. */
export function Divergence({ caseId, r, q }: { caseId: string; r: Refined; q: QuantitySpec }) {
  const [open, setOpen] = useState(false);
  const { save, busy } = useSave();
  if (r.divergent)
    return (
      <p className="mt-1 text-[12px] text-ink-2">
        Known not to converge, by {r.divergent.by}: {r.divergent.reason}.
        {r.divergent.by === "the template" ? null : (
          <button
            type="button"
            className="link ml-2"
            disabled={busy}
            onClick={() =>
              void save("DELETE /cases/{id}/studies/{kind}/{of}", { at: { id: caseId, kind: "divergent", of: q.key } }, `${q.name} counts again.`)
            }
          >
            Count it again
          </button>
        )}
      </p>
    );
  if (r.state !== "fails") return null;
  if (!open)
    return (
      <button type="button" className="link mt-1 text-[12px]" onClick={() => setOpen(true)}>
        It cannot converge, and I know why
      </button>
    );
  return (
    <DecideForm
      caseId={caseId}
      what={{ kind: "divergent", quantityKey: q.key }}
      words="Declare it divergent"
      said={`${q.name} is known not to converge; no claim rests on it.`}
      done={() => setOpen(false)}
    />
  );
}

"use client";

import { useState } from "react";
import { spreadSentence } from "@/core/assessment/comparison/sayings";
import { useSave } from "../../forms/useSave";
import type { ComparisonView } from "../../view";
import { DecideForm } from "../refinement/DecideForm";

/** What u_val is made of, and how the error of the finest mesh is taken to lie: stated beside the figures, and chosen here. */
export function NumericalSpread({ view }: { view: ComparisonView }) {
  const [choosing, setChoosing] = useState(false);
  const { save, busy } = useSave();
  const chosen = view.evidence.spread;
  const shifted = chosen?.spread === "shifted";
  const back = () =>
    save("DELETE /cases/{id}/studies/{kind}/{of}", { at: { id: view.id, kind: "spread", of: "case" } }, "u_num is half the 95 % figure again.");
  return (
    <>
      <p className="mt-1 text-[11.5px] text-ink-3">
        u_val from numerical, input and yardstick uncertainty, k = 2. {spreadSentence(chosen)} A difference inside 2 u_val neither shows nor excludes
        an error.{" "}
        {choosing ? null : (
          <button type="button" className="link no-print" disabled={busy} onClick={() => (shifted ? void back() : setChoosing(true))}>
            {shifted ? "Take the error to lie about the result" : "Take the error to lie to one side"}
          </button>
        )}
      </p>
      {choosing ? (
        <DecideForm
          caseId={view.id}
          what={{ kind: "spread", spread: "shifted" }}
          words="Divide by 1.15"
          said="u_num is the 95 % figure of refinement over 1.15."
          done={() => setChoosing(false)}
        />
      ) : null}
    </>
  );
}

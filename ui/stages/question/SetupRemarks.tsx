"use client";

import { useState } from "react";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import type { QuestionView } from "../../view";

const day = (iso: string) => iso.slice(0, 10);

/** What the set-up rules say; each remark can be answered, and the answer stands with its date. */
export function SetupRemarks({ view }: { view: QuestionView }) {
  const { remarks } = view.assessment.setup;
  const spoken = new Set(remarks.map((r) => r.sentence));
  const past = (view.setup.answers ?? []).filter((a) => !spoken.has(a.sentence));
  return (
    <>
      {remarks.map((r) => (
        <RemarkLine key={r.rule} id={view.id} remark={r} />
      ))}
      {past.length ? (
        <p className="mt-2 text-[11.5px] text-ink-3">
          Answered earlier, to other figures: {past.map((a) => `${a.rule}, ${day(a.at)}, "${a.reason}"`).join("; ")}.
        </p>
      ) : null}
    </>
  );
}

function RemarkLine({ id, remark }: { id: string; remark: QuestionView["assessment"]["setup"]["remarks"][number] }) {
  const { save, busy, mistakes } = useSave();
  const [reason, setReason] = useState<string>();
  const { rule, answered } = remark;
  return (
    <div className="mt-2 text-[12.5px]">
      <p className="flex gap-2">
        <StateMark state={answered ? "holds" : remark.severity === "stop" ? "fails" : remark.severity === "doubt" ? "remark" : "none"} />
        <span>
          {remark.sentence}{" "}
          {answered ? (
            <>
              <b className="font-[600]">
                Accepted on {day(answered.at)} because {answered.reason}
              </b>{" "}
              <button
                type="button"
                className="link"
                disabled={busy}
                onClick={() => void save("DELETE /cases/{id}/answers/{rule}", { at: { id, rule } }, "The answer was taken back.")}
              >
                take back
              </button>
            </>
          ) : reason === undefined && remark.severity !== "note" ? (
            <button type="button" className="link" onClick={() => setReason("")}>
              accept it
            </button>
          ) : null}{" "}
          <a className="link text-ink-3" href={`/method#${rule}`}>
            {rule}
          </a>
        </span>
      </p>
      {reason !== undefined && !answered ? (
        <div className="mt-1 ml-6 grid grid-cols-[1fr_auto_auto] items-end gap-2">
          <Field label="Accepted because" words value={reason} onChange={setReason} mistake={mistakes.reason} />
          <button
            type="button"
            className="btn"
            disabled={busy || !reason.trim()}
            onClick={async () => {
              if (await save("POST /cases/{id}/answers", { at: { id }, input: { rule, reason } }, "The answer was kept.")) setReason(undefined);
            }}
          >
            Keep the answer
          </button>
          <button type="button" className="btn quiet" onClick={() => setReason(undefined)}>
            Leave it
          </button>
        </div>
      ) : null}
    </div>
  );
}

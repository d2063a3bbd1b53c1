"use client";

import { useState } from "react";
import { significant } from "@/core/formatting/number";
import { FACT_GROUPS, FACTS, type FactSpec } from "@/core/method/setup/facts";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import { entryText } from "@/core/units/entry";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";
import { StateMark } from "../../shell/StateMark";
import type { CaseView } from "../../view";

/** A fact as typed: its number with its unit, or nothing while it is not known. */
export function factText(spec: FactSpec, value: number | undefined, typed?: string): string {
  if (value === undefined) return "";
  return spec.choices ? String(value) : entryText(typed, value, spec.unit);
}

/** What else is known of the set-up: each entry lets the rules check more; empty ones are simply not checked. */
export function SetupFacts(p: {
  facts: Readonly<Record<string, string>>;
  onFacts: (facts: Record<string, string>) => void;
  mistakes: Readonly<Record<string, string>>;
}) {
  const filled = FACTS.filter((f) => p.facts[f.key]).length;
  return (
    <details className="col-span-2 border-line border-t pt-2" open={filled > 0 || undefined}>
      <summary className="cursor-pointer font-[620] text-[13px]">
        What else is known of the set-up{" "}
        <span className="font-normal text-ink-3">({filled ? `${filled} entries` : "nothing yet"}; each lets more be checked)</span>
      </summary>
      <div className="mt-2 space-y-3">
        {FACT_GROUPS.map((group) => (
          <fieldset key={group}>
            <legend className="mb-1 text-[12px] font-[600] text-ink-2">{group}</legend>
            <div className="grid grid-cols-4 gap-2">
              {FACTS.filter((f) => f.group === group).map((f) => (
                <Field
                  key={f.key}
                  label={f.label}
                  help={f.help}
                  value={p.facts[f.key] ?? ""}
                  placeholder={f.unit}
                  mistake={p.mistakes[`fact-${f.key}`]}
                  choices={f.choices ? [["", "not known"], ...f.choices.map(([v, name]) => [String(v), name] as const)] : undefined}
                  onChange={(v) => p.onFacts({ ...p.facts, [f.key]: v })}
                />
              ))}
            </div>
          </fieldset>
        ))}
      </div>
    </details>
  );
}

const day = (iso: string) => iso.slice(0, 10);

/** What the set-up rules say; each remark can be answered, and the answer stands with its date. */
export function SetupRemarks({ view }: { view: CaseView }) {
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

function RemarkLine({ id, remark }: { id: string; remark: CaseView["assessment"]["setup"]["remarks"][number] }) {
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

/** A path of the set-up by the words its field has on this page. */
function entryName(problemId: string | null, path: string): string {
  const [head, key] = path.split(".");
  const spec = head === "parameters" ? parameterSpecs(problemId).find((s) => s.key === key) : undefined;
  return spec ? `${spec.label}${spec.unit ? `, ${spec.unit}` : ""}` : path;
}

const figure = (text: string) => (text !== "" && Number.isFinite(Number(text)) ? significant(Number(text), 7) : text);

/** The set-up beside that of another case: only what differs. */
export function CompareSetups({ view }: { view: CaseView }) {
  const [open, setOpen] = useState(false);
  const [other, choose] = useState("");
  const { data: others, error } = useAsked("GET /cases/{id}/others", open ? { at: { id: view.id } } : undefined);
  const { data: found, error: refused } = useAsked("GET /cases/{id}/compare/{other}", other ? { at: { id: view.id, other } } : undefined);
  const mistake = error ?? refused;
  if (mistake) return <p className="mistake mt-3">{mistake.message}</p>;
  if (!others)
    return (
      <button type="button" className="btn quiet mt-3" onClick={() => setOpen(true)}>
        Compare with another case's set-up
      </button>
    );
  const title = others.find((o) => o.id === other)?.title ?? "";
  return (
    <div className="mt-3">
      <Field
        label="Compare with"
        value={other}
        onChange={choose}
        choices={[["", others.length ? "choose a case" : "there is no other case"], ...others.map((o) => [o.id, o.title] as const)]}
      />
      {found ? (
        found.length ? (
          <table className="tight mt-2">
            <thead>
              <tr>
                <th className="w">Entry</th>
                <th>here</th>
                <th>{title}</th>
              </tr>
            </thead>
            <tbody>
              {found.map((d) => (
                <tr key={d.path}>
                  <td className="w">{entryName(view.setup.problemId, d.path)}</td>
                  <td>{figure(d.left)}</td>
                  <td>{figure(d.right)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : (
          <p className="mt-2 text-[12.5px]">The two set-ups are the same in every entry.</p>
        )
      ) : null}
    </div>
  );
}

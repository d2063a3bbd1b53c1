"use client";

import { useState } from "react";
import { significant } from "@/core/formatting/number";
import { parameterSpecs } from "@/core/problems/describe/caseSetup";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { DataTable } from "../../tables/DataTable";
import type { QuestionView } from "../../view";

/** A path of the set-up by the words its field has on this page. */
function entryName(problemId: string | null, path: string): string {
  const [head, key] = path.split(".");
  const spec = head === "parameters" ? parameterSpecs(problemId).find((s) => s.key === key) : undefined;
  return spec ? `${spec.label}${spec.unit ? `, ${spec.unit}` : ""}` : path;
}

const figure = (text: string) => (text !== "" && Number.isFinite(Number(text)) ? significant(Number(text), 7) : text);

/** The set-up beside that of another case: only what differs. */
export function CompareSetups({ view }: { view: QuestionView }) {
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
          <DataTable
            className="tight mt-2"
            rows={found}
            rowKey={(d) => d.path}
            columns={[
              { header: "Entry", words: true, cell: (d) => entryName(view.setup.problemId, d.path) },
              { header: "here", cell: (d) => figure(d.left) },
              { header: title, cell: (d) => figure(d.right) },
            ]}
          />
        ) : (
          <p className="mt-2 text-[12.5px]">The two set-ups are the same in every entry.</p>
        )
      ) : null}
    </div>
  );
}

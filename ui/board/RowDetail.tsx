"use client";

import Link from "next/link";
import { useState } from "react";
import type { BoardRow, QuantityLine } from "@/core/assessment/results/boardRow";
import { percent, sentenceCase, significant, unitText } from "@/core/formatting/number";
import { LEVEL_WORDS, LEVELS, type Level } from "@/core/records/programme";
import { useAsked } from "../api/useAsked";
import { Field } from "../forms/Field";
import { useSave } from "../forms/useSave";
import { StateMark } from "../shell/StateMark";
import { type Column, DataTable, Unseen } from "../tables/DataTable";

/** What a case says of each of its quantities, opened below its row of the board; and where the case stands. */
export function RowDetail({ row, stamp }: { row: BoardRow; stamp: string }) {
  const { data, error } = useAsked("GET /cases/{id}/lines", { at: { id: row.id } }, stamp);
  const [placing, setPlacing] = useState(false);
  const lines = data as unknown as readonly QuantityLine[] | undefined;
  return (
    <div className="border-l-2 border-tin px-4 py-2">
      {error ? <p className="mistake">{error.message}</p> : null}
      {lines?.length ? (
        <DataTable rows={lines} rowKey={(l) => l.key} columns={columnsOf(row.id)} />
      ) : (
        <p className="text-[12.5px] text-ink-2">{lines ? "Nothing is worked out of it yet." : "Looking it up."}</p>
      )}
      <div className="mt-1.5 flex items-center gap-4 text-[12px]">
        {row.tags.length ? <span className="text-ink-3">{row.tags.join(", ")}</span> : null}
        <button type="button" className="link" aria-expanded={placing} onClick={() => setPlacing(!placing)}>
          Move or mark {row.title}
        </button>
        <Link className="link" href={`/cases/${row.id}/verdict`}>
          Its verdict page
        </Link>
      </div>
      {placing ? <Place row={row} done={() => setPlacing(false)} /> : null}
    </div>
  );
}

const columnsOf = (id: string): Column<QuantityLine>[] => [
  {
    header: "Quantity",
    words: true,
    headClassName: "text-left w-52",
    className: "align-top",
    cell: (l) => (
      <Link className="link" href={`/cases/${id}/verdict?q=${encodeURIComponent(l.key)}`}>
        {l.name}
      </Link>
    ),
  },
  {
    header: "Value",
    className: "align-top whitespace-nowrap",
    cell: (l) => (l.value === undefined ? "–" : `${significant(l.value, 5)} ${unitText(l.unit)}`.trimEnd()),
  },
  {
    header: "Numerical, 95 %",
    className: "align-top whitespace-nowrap",
    cell: (l) => `${l.open.length ? "at least " : ""}${percent(l.numerical)}`,
  },
  { header: <Unseen>State</Unseen>, words: true, className: "w-6 align-top", cell: (l) => <StateMark state={l.state} /> },
  {
    header: "What may be claimed, and what comes next",
    words: true,
    headClassName: "text-left",
    className: "text-ink-2",
    cell: (l) => (
      <>
        {l.sentence}
        {l.next ? (
          <>
            {" Next: "}
            <Link className="link" href={`/cases/${id}/${l.next.go}?q=${encodeURIComponent(l.key)}`}>
              {sentenceCase(l.next.sentence)}
            </Link>
            .
          </>
        ) : null}
      </>
    ),
  },
];

/** Programme, level and tags of a case. */
function Place({ row, done }: { row: BoardRow; done: () => void }) {
  const { data } = useAsked("GET /programmes", {});
  const { save, busy, mistakes } = useSave();
  const [level, setLevel] = useState<Level>(row.level);
  const [tags, setTags] = useState(row.tags.join(", "));
  const [programmeId, setProgramme] = useState(row.programmeId);
  const put = async () => {
    const words = tags
      .split(",")
      .map((t) => t.trim())
      .filter(Boolean);
    if (await save("PUT /cases/{id}/place", { at: { id: row.id }, input: { level, tags: words, programmeId } }, `${row.title} stands there now.`))
      done();
  };
  return (
    <form
      className="mt-2 grid max-w-[860px] grid-cols-[1.2fr_1.2fr_1fr_auto] items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        void put();
      }}
    >
      <Field label="Step towards the application" value={level} onChange={setLevel} choices={LEVELS.map((l) => [l, LEVEL_WORDS[l]])} />
      <Field label="Tags, separated by commas" value={tags} onChange={setTags} words mistake={mistakes.tags} />
      <Field
        label="Programme"
        value={programmeId}
        onChange={setProgramme}
        choices={(data?.list ?? [{ id: row.programmeId, name: "this one" }]).map((p) => [p.id, p.name])}
      />
      <button type="submit" className="btn" disabled={busy}>
        Put it there
      </button>
    </form>
  );
}

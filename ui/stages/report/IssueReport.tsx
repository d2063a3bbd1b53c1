"use client";

import { useState } from "react";
import { moved, REPORT_BLOCKS } from "@/core/formats/reportBlocks";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";

const ALL: readonly string[] = REPORT_BLOCKS.map((b) => b.key);

/** Composes and issues a report: which chapters in which order, with words of one's own; what was composed can be kept as a template. */
export function IssueReport({ id, next, underWay }: { id: string; next: number; underWay: React.ReactNode }) {
  const { save, busy, mistakes } = useSave();
  const [issuedBy, setIssuedBy] = useState("");
  const [open, setOpen] = useState(false);
  const [blocks, setBlocks] = useState<readonly string[]>(ALL);
  const [text, setText] = useState("");
  const composed = { ...(blocks.join() === ALL.join() ? {} : { blocks: [...blocks] }), ...(text.trim() ? { text } : {}) };
  return (
    <>
      <form
        className="flex items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void save("POST /cases/{id}/reports", { at: { id }, input: { issuedBy, ...composed } }, `Report ${next} was issued.`);
        }}
      >
        <div className="w-64">
          <Field label="Issued by, initials" words value={issuedBy} onChange={setIssuedBy} mistake={mistakes.issuedBy} />
        </div>
        <button type="submit" className="btn" disabled={busy || issuedBy.trim() === "" || !blocks.length}>
          {busy ? "Issuing" : `Issue report ${next}`}
        </button>
        <button type="button" className="btn quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          Compose it
        </button>
        {blocks.join() === ALL.join() && !text.trim() ? null : (
          <span className="pb-2 text-[12px] text-ink-2">
            {blocks.length} of {ALL.length} chapters{text.trim() ? ", with words of your own" : ""}
          </span>
        )}
      </form>
      {busy ? underWay : null}
      {open ? <Compose blocks={blocks} setBlocks={setBlocks} text={text} setText={setText} /> : null}
    </>
  );
}

interface ComposeProps {
  readonly blocks: readonly string[];
  readonly setBlocks: (blocks: readonly string[]) => void;
  readonly text: string;
  readonly setText: (text: string) => void;
}

function Compose({ blocks, setBlocks, text, setText }: ComposeProps) {
  // What is left out stands below what is in, in its own order.
  const rows = [...blocks, ...ALL.filter((k) => !blocks.includes(k))];
  return (
    <div className="mt-3 grid max-w-[980px] grid-cols-2 gap-6 border border-line bg-margin p-3">
      <fieldset>
        <legend className="text-[12px] text-ink-2">Chapters, after the page for the decision, which is always first</legend>
        <ul className="mt-1">
          {rows.map((key) => {
            const name = REPORT_BLOCKS.find((b) => b.key === key)?.name ?? key;
            const on = blocks.includes(key);
            return (
              <li key={key} className="flex min-h-7 items-center gap-2 text-[12.5px]">
                <label className="flex min-h-6 flex-1 items-center gap-1.5">
                  <input
                    type="checkbox"
                    className="size-5"
                    checked={on}
                    onChange={() => setBlocks(on ? blocks.filter((b) => b !== key) : [...blocks, key])}
                  />{" "}
                  {name}
                </label>
                {on ? (
                  <>
                    <button
                      type="button"
                      className="link min-h-6 min-w-8"
                      aria-label={`${name} further up`}
                      onClick={() => setBlocks(moved(blocks, key, -1))}
                    >
                      up
                    </button>
                    <button
                      type="button"
                      className="link min-h-6 min-w-8"
                      aria-label={`${name} further down`}
                      onClick={() => setBlocks(moved(blocks, key, 1))}
                    >
                      down
                    </button>
                  </>
                ) : null}
              </li>
            );
          })}
        </ul>
      </fieldset>
      <div>
        <Field label="In your own words, a paragraph a line" value={text} onChange={setText} words rows={9} />
        <Templates
          blocks={blocks}
          text={text}
          take={(t) => {
            setBlocks(t.blocks.filter((b) => ALL.includes(b)));
            setText(t.text);
          }}
        />
      </div>
    </div>
  );
}

function Templates({
  blocks,
  text,
  take,
}: {
  blocks: readonly string[];
  text: string;
  take: (t: { blocks: readonly string[]; text: string }) => void;
}) {
  const { data, refetch } = useAsked("GET /report-templates", {});
  const { save, busy, mistakes } = useSave();
  const [name, setName] = useState("");
  const keep = async () => {
    if (await save("PUT /report-templates", { input: { name, blocks: [...blocks], text } }, `The template ${name} is kept.`)) {
      setName("");
      void refetch();
    }
  };
  return (
    <div className="mt-3 text-[12.5px]">
      {data?.length ? (
        <ul>
          {data.map((t) => (
            <li key={t.name} className="flex gap-3">
              <button type="button" className="link flex-1 text-left" onClick={() => take(t)}>
                Take template {t.name}
              </button>
              <button
                type="button"
                className="link"
                aria-label={`Delete template ${t.name}`}
                onClick={async () => {
                  await save("PUT /report-templates", { input: { name: t.name, blocks: [], text: "" } }, `The template ${t.name} is gone.`);
                  void refetch();
                }}
              >
                delete
              </button>
            </li>
          ))}
        </ul>
      ) : null}
      <span className="mt-1 flex items-end gap-2">
        <span className="flex-1">
          <Field label="Keep this as a template named" value={name} onChange={setName} words mistake={mistakes.name} />
        </span>
        <button type="button" className="btn quiet" disabled={busy || !name.trim() || !blocks.length} onClick={() => void keep()}>
          Keep it
        </button>
      </span>
    </div>
  );
}

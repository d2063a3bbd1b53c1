"use client";

import { useState } from "react";
import { moved, REPORT_BLOCKS } from "@/core/formats/reportBlocks";
import { useAsked } from "../../api/useAsked";
import { Field } from "../../forms/Field";
import { useSave } from "../../forms/useSave";

const ALL: readonly string[] = REPORT_BLOCKS.map((b) => b.key);

/** What is composed of a report before it is issued. */
interface Composition {
  readonly blocks: readonly string[];
  readonly text: string;
  /** words under figures and tables, by their key */
  readonly captions: Readonly<Record<string, string>>;
  /** other cases that stand in it too */
  readonly also: readonly string[];
}

const PLAIN: Composition = { blocks: ALL, text: "", captions: {}, also: [] };

/** Composes and issues a report: which chapters of which cases in which order, with words and captions of one's own; what was composed can be kept as a template. */
export function IssueReport({ id, next, underWay }: { id: string; next: number; underWay: React.ReactNode }) {
  const { save, busy, mistakes } = useSave();
  const [issuedBy, setIssuedBy] = useState("");
  const [open, setOpen] = useState(false);
  const [made, setMade] = useState(PLAIN);
  const composed = sentOf(made);
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
        <button type="submit" className="btn" disabled={busy || issuedBy.trim() === "" || !made.blocks.length}>
          {busy ? "Issuing" : `Issue report ${next}`}
        </button>
        <button type="button" className="btn quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          Compose it
        </button>
        {Object.keys(composed).length ? <span className="pb-2 text-[12px] text-ink-2">{summaryOf(made)}</span> : null}
      </form>
      {busy ? underWay : null}
      {open ? <Compose id={id} made={made} change={(part) => setMade({ ...made, ...part })} /> : null}
    </>
  );
}

/** What is sent of a composition: nothing of what is as it always is. */
function sentOf({ blocks, text, captions, also }: Composition) {
  const written = Object.fromEntries(Object.entries(captions).filter(([, t]) => t.trim()));
  return {
    ...(blocks.join() === ALL.join() ? {} : { blocks: [...blocks] }),
    ...(text.trim() ? { text } : {}),
    ...(Object.keys(written).length ? { captions: written } : {}),
    ...(also.length ? { also: [...also] } : {}),
  };
}

function summaryOf({ blocks, text, captions, also }: Composition): string {
  const count = Object.values(captions).filter((t) => t.trim()).length;
  return [
    `${blocks.length} of ${ALL.length} chapters`,
    also.length ? `of ${also.length + 1} cases` : "",
    text.trim() ? "words of your own" : "",
    count ? `${count} ${count > 1 ? "captions" : "caption"}` : "",
  ]
    .filter(Boolean)
    .join(", ");
}

interface ComposeProps {
  readonly id: string;
  readonly made: Composition;
  readonly change: (part: Partial<Composition>) => void;
}

function Compose({ id, made, change }: ComposeProps) {
  const { blocks, text } = made;
  return (
    <div className="mt-3 grid max-w-[980px] grid-cols-2 gap-6 border border-line bg-margin p-3">
      <div>
        <Chapters blocks={blocks} setBlocks={(next) => change({ blocks: next })} />
        <OtherCases id={id} also={made.also} setAlso={(also) => change({ also, captions: {} })} />
      </div>
      <div>
        <Field label="In your own words, in Markdown" value={text} onChange={(next) => change({ text: next })} words rows={9} />
        <Templates blocks={blocks} text={text} take={(t) => change({ blocks: t.blocks.filter((b) => ALL.includes(b)), text: t.text })} />
      </div>
      <Captions id={id} made={made} change={change} />
    </div>
  );
}

function Chapters({ blocks, setBlocks }: { blocks: readonly string[]; setBlocks: (blocks: readonly string[]) => void }) {
  // What is left out stands below what is in, in its own order.
  const rows = [...blocks, ...ALL.filter((k) => !blocks.includes(k))];
  return (
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
  );
}

/** Cases that stand in the report after this one, in the order they were added. */
function OtherCases({ id, also, setAlso }: { id: string; also: readonly string[]; setAlso: (also: readonly string[]) => void }) {
  const { data } = useAsked("GET /cases", {});
  const others = (data ?? []).filter((c) => c.id !== id);
  if (!others.length) return null;
  return (
    <div className="mt-3 text-[12.5px]">
      <Field
        label="Another case in the same report"
        value=""
        onChange={(next) => (next ? setAlso([...also, next]) : undefined)}
        choices={[["", "none"], ...others.filter((c) => !also.includes(c.id)).map((c) => [c.id, c.title] as const)]}
      />
      <ul>
        {also.map((one) => {
          const title = others.find((c) => c.id === one)?.title ?? "a deleted case";
          return (
            <li key={one} className="flex gap-3">
              <span className="flex-1">{title}</span>
              <button type="button" className="link" aria-label={`Leave out ${title}`} onClick={() => setAlso(also.filter((x) => x !== one))}>
                leave out
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}

/** Words under the figures and tables the report would have, which are worked out when they are asked for. */
function Captions({ id, made, change }: ComposeProps) {
  const { blocks, also, captions } = made;
  const [asked, setAsked] = useState<string>();
  const now = JSON.stringify([blocks, also]);
  const wanted = asked === now;
  const { data, error, isFetching } = useAsked(
    "POST /cases/{id}/report-outline",
    wanted ? { at: { id }, input: { blocks: [...blocks], ...(also.length ? { also: [...also] } : {}) } } : undefined,
    now,
  );
  const count = (list: readonly { readonly key: string; readonly title: string }[], title: string) =>
    list.map((x) => (
      <li key={x.key}>
        <Field
          label={`${title}: ${x.title}`}
          value={captions[x.key] ?? ""}
          onChange={(text) => change({ captions: { ...captions, [x.key]: text } })}
          words
        />
      </li>
    ));
  return (
    <section className="col-span-2 border-t border-line pt-2" aria-label="Captions">
      <button type="button" className="btn quiet small" disabled={!blocks.length || isFetching} onClick={() => setAsked(now)}>
        {isFetching ? "Looking what it will show" : "Write captions"}
      </button>
      {error ? <p className="mistake">{error.message}</p> : null}
      {wanted && data ? (
        <ul className="mt-2 grid grid-cols-2 gap-x-6 gap-y-1">{data.flatMap((s) => [...count(s.figures, "Figure"), ...count(s.tables, "Table")])}</ul>
      ) : null}
    </section>
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

"use client";

import { useEffect, useId, useRef } from "react";

/** A value and the words it is chosen by. */
export type Choice<Value extends string> = readonly [Value, string];

/** Choices that are called what they are. */
export const asChoices = <Value extends string>(list: readonly Value[]): Choice<Value>[] => list.map((v) => [v, v]);

/** A labelled entry with its mistake below it. */
export function Field<Value extends string>(p: {
  label: string;
  value: Value;
  onChange: (v: Value) => void;
  mistake?: string;
  help?: string;
  words?: boolean;
  rows?: number;
  choices?: readonly Choice<Value>[];
  placeholder?: string;
  /** the label is for those who hear the page; what stands around says it to the others */
  unseenLabel?: boolean;
}) {
  const id = useId();
  const own = useRef<HTMLElement & { value: string }>(null);
  const first = useRef(p);
  // A page can be typed into before it listens: what stands in the entry by then counts.
  useEffect(() => {
    const typed = own.current?.value;
    if (typed !== undefined && typed !== first.current.value) first.current.onChange(typed as Value);
  }, []);
  const shared = {
    id,
    ref: own as never,
    value: p.value,
    "aria-invalid": p.mistake ? true : undefined,
    "aria-describedby": p.mistake ? `${id}-m` : undefined,
    placeholder: p.placeholder,
    title: p.help,
  };
  return (
    <div>
      <label htmlFor={id} className={p.unseenLabel ? "sr-only" : undefined}>
        {p.label}
      </label>
      {p.choices ? (
        <select {...shared} className="field words" onChange={(e) => p.onChange(e.target.value as Value)}>
          {p.choices.map(([v, name]) => (
            <option key={v} value={v}>
              {name}
            </option>
          ))}
        </select>
      ) : p.rows ? (
        <textarea {...shared} rows={p.rows} className="field words" onChange={(e) => p.onChange(e.target.value as Value)} />
      ) : (
        <input {...shared} className={`field ${p.words ? "words" : ""}`} onChange={(e) => p.onChange(e.target.value as Value)} />
      )}
      {p.mistake ? (
        <p id={`${id}-m`} className="mistake">
          {p.mistake}
        </p>
      ) : null}
    </div>
  );
}

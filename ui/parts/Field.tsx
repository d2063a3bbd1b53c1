"use client";

import { useId } from "react";

/** A labelled entry with its mistake below it. */
export function Field(p: {
  label: string;
  value: string;
  onChange: (v: string) => void;
  mistake?: string;
  help?: string;
  words?: boolean;
  rows?: number;
  choices?: readonly (readonly [string, string])[];
  placeholder?: string;
}) {
  const id = useId();
  const shared = {
    id,
    value: p.value,
    "aria-invalid": p.mistake ? true : undefined,
    "aria-describedby": p.mistake ? `${id}-m` : undefined,
    placeholder: p.placeholder,
    title: p.help,
  };
  return (
    <div>
      <label htmlFor={id}>{p.label}</label>
      {p.choices ? (
        <select {...shared} className="field words" onChange={(e) => p.onChange(e.target.value)}>
          {p.choices.map(([v, name]) => (
            <option key={v} value={v}>
              {name}
            </option>
          ))}
        </select>
      ) : p.rows ? (
        <textarea {...shared} rows={p.rows} className="field words" onChange={(e) => p.onChange(e.target.value)} />
      ) : (
        <input {...shared} className={`field ${p.words ? "words" : ""}`} onChange={(e) => p.onChange(e.target.value)} />
      )}
      {p.mistake ? (
        <p id={`${id}-m`} className="mistake">
          {p.mistake}
        </p>
      ) : null}
    </div>
  );
}

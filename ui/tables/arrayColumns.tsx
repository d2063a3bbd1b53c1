import type { ReactNode } from "react";
import { type Choice, Field } from "../forms/Field";
import type { Column } from "./DataTable";

/** An array of a file, as a person is asked what it is. */
export interface AskedArray {
  readonly name: string;
  readonly on: "cells" | "points";
  readonly components: number;
}

/** What an array is said to be. */
export interface SaidArray<Role extends string> {
  readonly role: Role;
  readonly unit: string;
}

export const arrayKey = ({ name, on }: Pick<AskedArray, "name" | "on">): string => `${on} ${name}`;

interface Asked<Role extends string, A extends AskedArray> {
  readonly said: Readonly<Record<string, SaidArray<Role>>>;
  readonly choices: readonly Choice<Role>[];
  /** role of arrays that are left out, which have no unit */
  readonly ignored: Role;
  readonly set: (array: A, change: Partial<SaidArray<Role>>) => void;
  readonly mistakes: Readonly<Record<string, string>>;
  /** a column of its own, before what it is */
  readonly more?: { readonly header: string; readonly cell: (a: A) => ReactNode };
}

/** Columns of a table in which the arrays of a file are given a meaning and a unit. */
export function arrayColumns<Role extends string, A extends AskedArray>(p: Asked<Role, A>): Column<A>[] {
  const said = (a: A) => p.said[arrayKey(a)];
  return [
    { header: "Array", words: true, headClassName: "text-left", cell: (a) => a.name },
    { header: "On", words: true, headClassName: "text-left w-16", cell: (a) => a.on },
    { header: "Components", headClassName: "w-24", cell: (a) => a.components },
    ...(p.more ? [{ ...p.more, headClassName: "w-44" }] : []),
    {
      header: "It is",
      words: true,
      headClassName: "text-left w-60",
      cell: (a) => (
        <Field unseenLabel label={`What ${a.name} on ${a.on} is`} value={said(a).role} onChange={(role) => p.set(a, { role })} choices={p.choices} />
      ),
    },
    {
      header: "Unit",
      words: true,
      headClassName: "text-left w-32",
      cell: (a) =>
        said(a).role === p.ignored ? null : (
          <Field
            unseenLabel
            label={`Unit of ${a.name} on ${a.on}`}
            value={said(a).unit}
            onChange={(unit) => p.set(a, { unit })}
            mistake={p.mistakes[a.name]}
          />
        ),
    },
  ];
}

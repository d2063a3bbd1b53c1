"use client";

import type { ReactElement } from "react";
import { type DefaultValues, type FieldPath, type FieldValues, useController, useForm, useFormState, useWatch } from "react-hook-form";
import { proposedKind, type QuantityKind } from "@/core/units/quantityKind";
import { type Choice, Field } from "./Field";
import { KindChoice } from "./KindChoice";
import { useSave } from "./useSave";

/**
 * A form whose entries keep what is typed in them. What the server says of an entry it refuses is shown below that entry,
 * wherever in the form it stands.
 */
export function useEntries<Entries extends FieldValues>(defaultValues: DefaultValues<Entries>) {
  const form = useForm<Entries>({ defaultValues });
  const { save, busy } = useSave((mistakes) => {
    form.clearErrors("root");
    for (const [key, message] of Object.entries(mistakes)) form.setError(`root.${key}`, { message });
  });
  return { form, save, busy };
}

interface EntryProps<Name extends string> {
  readonly name: Name;
  readonly label: string;
  /** the name the server gives a mistake of it, where it is not its own */
  readonly mistake?: string;
  readonly help?: string;
  readonly words?: boolean;
  readonly rows?: number;
  readonly choices?: readonly Choice<string>[];
  readonly placeholder?: string;
  readonly unseenLabel?: boolean;
  /** shown while nothing was typed */
  readonly preset?: string;
}

function Entry({ name, mistake = name, preset = "", ...shown }: EntryProps<string>) {
  const { field } = useController({ name });
  // A mistake comes under a name of the server's, not of this entry: what the controller says of its own entry does not hold it.
  const { errors } = useFormState();
  return <Field {...shown} value={field.value ?? preset} onChange={field.onChange} mistake={errors.root?.[mistake]?.message} />;
}

/** The entries of one form: each is named by its place in the form, which is checked. */
export const entryOf = <Entries extends FieldValues>() => Entry as (p: EntryProps<FieldPath<Entries>>) => ReactElement;

/** A mistake of several entries together. */
export function Mistake({ of, className = "" }: { of: string; className?: string }) {
  const { errors } = useFormState();
  const message = errors.root?.[of]?.message;
  return message ? <p className={`mistake ${className}`}>{message}</p> : null;
}

/** Name and kind of a quantity that is being added. */
export interface NamedKind {
  readonly name: string;
  readonly kind?: QuantityKind;
}

/** The kind that was chosen, or the one its name proposes. */
export const kindOf = (typed: NamedKind): QuantityKind => typed.kind ?? proposedKind(typed.name);

/** What a quantity is, proposed from its name until a person chooses. */
export function KindEntry({ named = "name", name = "kind" }: { named?: string; name?: string }) {
  const typed: string = useWatch({ name: named });
  const { field } = useController({ name });
  return <KindChoice kind={field.value ?? proposedKind(typed)} onChange={field.onChange} />;
}

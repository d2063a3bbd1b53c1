"use client";

import { useController, useWatch } from "react-hook-form";
import { PHYSICS_CHOICES } from "@/core/problems/describe/caseSetup";
import { asChoices, Field } from "../../forms/Field";
import { QuestionEntry } from "./entries";

/** What another code solved and how, asked once and used by every rule; what is not known may stay so. */
export function ForeignPhysics() {
  const part = useWatch({ name: "physics.part" });
  return (
    <div className="grid grid-cols-2 gap-2">
      <QuestionEntry name="physics.time" label="Time" choices={asChoices(PHYSICS_CHOICES.time)} />
      <QuestionEntry name="physics.model" label="Flow model" choices={asChoices(PHYSICS_CHOICES.model)} />
      <Density />
      <QuestionEntry name="physics.space" label="Space" choices={asChoices(PHYSICS_CHOICES.space)} />
      <QuestionEntry name="physics.part" label="Part modelled" choices={asChoices(PHYSICS_CHOICES.part)} />
      {part === "whole" ? (
        <span />
      ) : (
        <QuestionEntry
          name="physics.share"
          mistake="share"
          label="Share of the whole"
          placeholder={part === "half model" ? "0.5" : "1/n as 0.0833"}
        />
      )}
      <QuestionEntry name="stated.schemeOrder" label="Order of its convective scheme" choices={SCHEME_ORDERS} />
      <QuestionEntry
        name="stated.dropOrders"
        mistake="statedDrop"
        label="Orders it let residuals fall"
        placeholder="not known"
        help="3 for a stopping tolerance of 1e-3."
      />
    </div>
  );
}

const SCHEME_ORDERS = [
  ["", "not known"],
  ["1", "first"],
  ["2", "second"],
] as const;

function Density() {
  const { field } = useController({ name: "physics.compressible" });
  return (
    <Field
      label="Density"
      value={field.value ? "compressible" : "incompressible"}
      onChange={(v) => field.onChange(v === "compressible")}
      choices={asChoices(["incompressible", "compressible"])}
    />
  );
}

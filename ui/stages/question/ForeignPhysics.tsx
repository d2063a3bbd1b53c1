"use client";

import { PHYSICS_CHOICES } from "@/core/problems/describe/caseSetup";
import type { Input } from "../../api/call";
import { Field } from "../../forms/Field";

type Question = Input<"PUT /cases/{id}">;

export type PhysicsTexts = Required<NonNullable<Question["physics"]>>;

export type StatedTexts = NonNullable<Question["stated"]>;

const choices = <Choice extends string>(list: readonly Choice[]) => list.map((c) => [c, c] as const);

/** What another code solved and how, asked once and used by every rule; what is not known may stay so. */
export function ForeignPhysics(p: {
  physics: PhysicsTexts;
  stated: StatedTexts;
  mistakes: Readonly<Record<string, string>>;
  onPhysics: (next: PhysicsTexts) => void;
  onStated: (next: StatedTexts) => void;
}) {
  const { physics, stated } = p;
  const set = (change: Partial<PhysicsTexts>) => p.onPhysics({ ...physics, ...change });
  return (
    <div className="grid grid-cols-2 gap-2">
      <Field label="Time" value={physics.time} onChange={(time) => set({ time })} choices={choices(PHYSICS_CHOICES.time)} />
      <Field label="Flow model" value={physics.model} onChange={(model) => set({ model })} choices={choices(PHYSICS_CHOICES.model)} />
      <Field
        label="Density"
        value={physics.compressible ? "compressible" : "incompressible"}
        onChange={(v) => set({ compressible: v === "compressible" })}
        choices={choices(["incompressible", "compressible"])}
      />
      <Field label="Space" value={physics.space} onChange={(space) => set({ space })} choices={choices(PHYSICS_CHOICES.space)} />
      <Field label="Part modelled" value={physics.part} onChange={(part) => set({ part })} choices={choices(PHYSICS_CHOICES.part)} />
      {physics.part === "whole" ? (
        <span />
      ) : (
        <Field
          label="Share of the whole"
          value={physics.share}
          placeholder={physics.part === "half model" ? "0.5" : "1/n as 0.0833"}
          onChange={(share) => set({ share })}
          mistake={p.mistakes.share}
        />
      )}
      <Field
        label="Order of its convective scheme"
        value={stated.schemeOrder}
        onChange={(schemeOrder) => p.onStated({ ...stated, schemeOrder })}
        choices={[
          ["", "not known"],
          ["1", "first"],
          ["2", "second"],
        ]}
      />
      <Field
        label="Orders it let residuals fall"
        value={stated.dropOrders}
        placeholder="not known"
        help="3 for a stopping tolerance of 1e-3."
        onChange={(dropOrders) => p.onStated({ ...stated, dropOrders })}
        mistake={p.mistakes.statedDrop}
      />
    </div>
  );
}

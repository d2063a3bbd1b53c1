"use client";

import { useEffect, useState } from "react";
import { MADE_FIELDS, type MadeKind, type SpaceArray, type SpaceSaid, type Wish } from "@/core/monitors/space/said";
import { asChoices, type Choice, Field } from "../../forms/Field";
import { typedNumber } from "../../forms/typedNumber";
import { sentenceOf } from "../../shell/notify";
import { askVolume } from "./askVolume";
import { fieldChoices } from "./entries";
import { METRES } from "./metres";
import { Tick } from "./PanelParts";
import type { Result, useResults } from "./useResults";

type Made = ReturnType<typeof useResults>;

/** What a case says of its fluid. */
export interface FluidSaid {
  readonly densityKgM3?: number;
  readonly viscosityPaS?: number;
}

interface Props {
  readonly results: readonly Result[];
  readonly make: Made["make"];
  readonly difference: Made["difference"];
  readonly fluid: FluidSaid;
  /** shows the field that was made, by the key of its choice */
  readonly shown: (key: string) => void;
}

const ROLES: readonly Choice<SpaceArray["role"]>[] = [
  ["ignore", "not used"],
  ["velocity", "velocity"],
  ["pressure", "pressure"],
  ["temperature", "temperature"],
  ["density", "density"],
  ["other", "used in formulas"],
];
type Kind = MadeKind | "difference";
const KINDS = [...(Object.entries(MADE_FIELDS) as [MadeKind, string][]), ["difference", "difference to the other result"]] as [Kind, string][];
/** which further entries each kind needs */
const NEEDS_GAS: readonly Kind[] = ["mach", "totalTemperature", "entropy"];
const NEEDS_FAR: readonly Kind[] = ["pressureCoefficient", "entropy"];
const NEEDS_DENSITY: readonly Kind[] = ["totalPressure", "pressureCoefficient", "yPlus"];
const NEEDS_WALLS: readonly Kind[] = ["wallShear", "yPlus"];

interface Entries {
  readonly length: string;
  readonly density: string;
  readonly viscosity: string;
  /** boundaries of the file that are walls */
  readonly walls: readonly string[];
  readonly gamma: string;
  readonly gasConstant: string;
  readonly pressure: string;
  readonly speed: string;
  readonly temperature: string;
  readonly of: string;
  readonly formula: string;
  readonly name: string;
}

const numberText = (v: number | undefined): string => (v === undefined ? "" : String(v));

/** Fields made of those the file has: what each array is, is said once. */
export function MadeFields({ results, make, difference, fluid, shown }: Props) {
  const first = results.find((r) => r.look);
  const [kind, setKind] = useState<Kind>("speed");
  const [arrays, setArrays] = useState<readonly SpaceArray[]>(first?.look?.guessed ?? []);
  const [e, setE] = useState<Entries>(() => ({
    length: first?.run?.length || "m",
    density: numberText(fluid.densityKgM3),
    viscosity: numberText(fluid.viscosityPaS),
    walls: [],
    gamma: "1.4",
    gasConstant: "287.05",
    pressure: "",
    speed: "",
    temperature: "",
    of: "",
    formula: "",
    name: "own",
  }));
  const [mistakes, setMistakes] = useState<readonly string[]>([]);
  const [busy, setBusy] = useState(false);
  const set = (change: Partial<Entries>) => setE((was) => ({ ...was, ...change }));
  const look = first?.look;
  if (!first || !look) return null;
  const said = (): SpaceSaid => saidOf(e, arrays, kind);
  const put = async () => {
    setMistakes([]);
    setBusy(true);
    try {
      const made = kind === "difference" ? await differ(results, e.of, difference) : await ofOne(kind, e, said, make);
      if (typeof made !== "string") setMistakes(made);
      else shown(made);
    } catch (error) {
      setMistakes([sentenceOf(error)]);
    } finally {
      setBusy(false);
    }
  };
  // A pressure over density, in m^2/s^2, needs it whatever is made of it.
  const kinematic = arrays.some((a) => a.role === "pressure" && a.unit.includes("s"));
  const single = look.arrays.filter((a) => a.components === 1 || kind === "difference");
  return (
    <form
      className="flex flex-col gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        void put();
      }}
    >
      <Field label="Make" words value={kind} choices={KINDS.filter(([k]) => k !== "difference" || results.length > 1)} onChange={setKind} />
      {kind === "difference" || kind === "slope" ? (
        <Field
          label="Of"
          words
          value={e.of}
          choices={[["", "choose"], ...single.map((a) => [`${a.on} ${a.name}`, `${a.name}${a.on === "cells" ? " (cells)" : ""}`] as const)]}
          onChange={(of) => set({ of })}
        />
      ) : null}
      {kind === "formula" ? <Formula first={first} e={e} set={set} said={said} /> : null}
      {NEEDS_DENSITY.includes(kind) || kinematic ? (
        <Field label="Density, kg/m³, where no field has it" value={e.density} onChange={(v) => set({ density: v })} />
      ) : null}
      {NEEDS_WALLS.includes(kind) ? <Walls names={look.boundaries} e={e} set={set} /> : null}
      {NEEDS_GAS.includes(kind) ? (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Ratio of heats" value={e.gamma} onChange={(gamma) => set({ gamma })} />
          <Field label="Gas constant" value={e.gasConstant} onChange={(gasConstant) => set({ gasConstant })} help="J/(kg K)" />
        </div>
      ) : null}
      {NEEDS_FAR.includes(kind) ? (
        <div className="grid grid-cols-2 gap-2">
          <Field label="Pressure far away, Pa" value={e.pressure} onChange={(pressure) => set({ pressure })} />
          {kind === "entropy" ? (
            <Field label="Temperature there, K" value={e.temperature} onChange={(temperature) => set({ temperature })} />
          ) : (
            <Field label="Speed there, m/s" value={e.speed} onChange={(speed) => set({ speed })} />
          )}
        </div>
      ) : null}
      {kind === "difference" ? null : (
        <details>
          <summary className="cursor-pointer text-[12px]">
            What its arrays are:{" "}
            {arrays
              .filter((a) => a.role !== "ignore")
              .map((a) => `${a.name} ${a.role === "other" ? "" : a.role}`)
              .join("; ") || "nothing said"}
          </summary>
          <div className="mt-1 flex flex-col gap-1.5">
            <Field label="Unit of length" words value={e.length} choices={asChoices(Object.keys(METRES))} onChange={(length) => set({ length })} />
            {arrays.map((a, k) => (
              <div key={`${a.on} ${a.name}`} className="grid grid-cols-[1fr_76px] gap-2">
                <Field
                  label={`${a.name}, on ${a.on}`}
                  words
                  value={a.role}
                  choices={ROLES}
                  onChange={(role) => setArrays(arrays.map((x, i) => (i === k ? { ...x, role } : x)))}
                />
                <Field label="unit" value={a.unit} onChange={(unit) => setArrays(arrays.map((x, i) => (i === k ? { ...x, unit } : x)))} />
              </div>
            ))}
          </div>
        </details>
      )}
      <button type="submit" className="btn quiet small self-start" disabled={busy}>
        {busy ? "Making it" : "Make it"}
      </button>
      <div aria-live="polite">
        {mistakes.map((m) => (
          <p key={m} className="mistake">
            {m}
          </p>
        ))}
      </div>
      {look.arrays
        .filter((a) => a.made)
        .map((a) => (
          <p key={`${a.on} ${a.name}`} className="text-[11.5px] text-ink-2">
            {a.made}
          </p>
        ))}
    </form>
  );
}

/** The viscosity, and which of the boundaries the file names are walls. */
function Walls({ names, e, set }: { readonly names: readonly string[]; readonly e: Entries; readonly set: (change: Partial<Entries>) => void }) {
  return (
    <>
      <Field label="Viscosity, Pa s" value={e.viscosity} onChange={(viscosity) => set({ viscosity })} />
      {names.length ? (
        <fieldset className="flex flex-col gap-0.5">
          <legend className="text-[11.5px] text-ink-2">Standing walls</legend>
          {names.map((name) => (
            <Tick
              key={name}
              label={name}
              value={e.walls.includes(name)}
              onChange={(on) => set({ walls: on ? [...e.walls, name] : e.walls.filter((w) => w !== name) })}
            />
          ))}
        </fieldset>
      ) : null}
    </>
  );
}

/** A formula, and the names it may use. */
function Formula({ first, e, set, said }: { first: Result; e: Entries; set: (change: Partial<Entries>) => void; said: () => SpaceSaid }) {
  const [names, setNames] = useState("");
  const asked = JSON.stringify(said().arrays);
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is said is new at every draw; its words tell whether it changed
  useEffect(() => {
    let late = false;
    askVolume("names", { id: first.id, said: said() }).then(
      (found) => !late && setNames(`Known are ${found.join(", ")}.`),
      (error: unknown) => !late && setNames(sentenceOf(error)),
    );
    return () => {
      late = true;
    };
  }, [first.id, first.edition, asked]);
  return (
    <>
      <Field label="Formula" value={e.formula} onChange={(formula) => set({ formula })} placeholder="p + 0.5 * 1.2 * U_x^2" />
      <p className="text-[11px] break-words text-ink-3">{names}</p>
      <Field label="Its name" words value={e.name} onChange={(name) => set({ name })} />
    </>
  );
}

function saidOf(e: Entries, arrays: readonly SpaceArray[], kind: Kind): SpaceSaid {
  const number = (text: string, what: string): number => {
    const v = typedNumber(text);
    if (!Number.isFinite(v)) throw new Error(`${what}: "${text}" is not a number.`);
    return v;
  };
  const gas = NEEDS_GAS.includes(kind) ? { gamma: number(e.gamma, "Ratio of heats"), gasConstant: number(e.gasConstant, "Gas constant") } : undefined;
  const far = NEEDS_FAR.includes(kind)
    ? {
        pressurePa: number(e.pressure, "Pressure far away"),
        speedMS: kind === "entropy" ? 1 : number(e.speed, "Speed far away"),
        ...(kind === "entropy" ? { temperatureK: number(e.temperature, "Temperature far away") } : {}),
      }
    : undefined;
  return {
    unitM: METRES[e.length] ?? 1,
    arrays,
    ...(e.walls.length ? { walls: e.walls } : {}),
    ...(NEEDS_WALLS.includes(kind) ? { viscosityPaS: number(e.viscosity, "Viscosity") } : {}),
    ...(e.density.trim() ? { densityKgM3: number(e.density, "Density") } : {}),
    ...(gas ? { gas } : {}),
    ...(far ? { far } : {}),
  };
}

/** @returns the key of what was made, or what stood in the way */
async function ofOne(kind: MadeKind, e: Entries, said: () => SpaceSaid, make: Made["make"]): Promise<string | readonly string[]> {
  const wish = wishOf(kind, e);
  if (typeof wish === "string") return [wish];
  const words = said();
  const { mistakes, made } = await make(words, wish);
  if (mistakes.length || !made) return mistakes;
  return fieldChoices([made])[0].key;
}

function wishOf(kind: MadeKind, e: Entries): Wish | string {
  if (kind === "formula") return e.formula.trim() ? { kind, text: e.formula.trim(), name: e.name.trim() || "own" } : "Type a formula.";
  if (kind !== "slope") return { kind };
  const [on, ...name] = e.of.split(" ");
  return on === "cells" || on === "points" ? { kind, of: { on, name: name.join(" ") } } : "Choose what the slope is of.";
}

async function differ(results: readonly Result[], of: string, difference: Made["difference"]): Promise<string | readonly string[]> {
  const [first, second] = results.filter((r) => r.look);
  const [on, ...name] = of.split(" ");
  if (on !== "cells" && on !== "points") return ["Choose what the difference is of."];
  const key = { on, name: name.join(" ") } as const;
  const unit = (r: Result) => r.look?.arrays.find((a) => a.name === key.name && a.on === key.on)?.unit ?? "";
  const made = await difference(first.id, second, key, unit(first));
  return fieldChoices([made])[0].key;
}

"use client";

import { useState } from "react";
import type { Split } from "@/core/dataset/patches";
import { Field } from "../../../forms/Field";
import { typedNumber } from "../../../forms/typedNumber";
import { placeText } from "../../../space/placeText";
import { type Typed3, vectorOf } from "./said";
import { Typed3Field } from "./Typed3Field";

interface Props {
  readonly named: readonly string[];
  readonly splits: readonly Split[];
  readonly set: (splits: readonly Split[]) => void;
}

const WAYS = [
  ["plane", "on one side of a plane"],
  ["box", "within a box"],
  ["normal", "facing a way"],
  ["smooth", "smooth from a place"],
] as const;
type Way = (typeof WAYS)[number][0];

/** what the two entries of a way are called */
const ENTRIES: Readonly<Record<Way, readonly [first: string, second: string]>> = {
  plane: ["Place on the plane", "Its normal"],
  box: ["Least corner", "Greatest corner"],
  normal: ["Direction", "Within, degrees"],
  smooth: ["Place", "Edges less sharp than, degrees"],
};

const ZERO: Typed3 = ["0", "0", "0"];
const PRESET_DEGREES = "30";

/** Parts of patches, or of what has no name, given another name: by plane, box, direction, or smooth from a place. */
export function Splits({ named, splits, set }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <section className="mt-2" aria-label="Parts given another name">
      {splits.map((s, k) => (
        <p key={`${s.name} ${s.by} ${k}`} className="text-[12.5px]">
          {sayOf(s)}{" "}
          <button
            type="button"
            className="link text-ink-3"
            aria-label={`Take the split ${s.name} out`}
            onClick={() => set(splits.filter((_, i) => i !== k))}
          >
            take it out
          </button>
        </p>
      ))}
      {open ? (
        <OneSplit
          named={named}
          add={(s) => {
            set([...splits, s]);
            setOpen(false);
          }}
          leave={() => setOpen(false)}
        />
      ) : (
        <button type="button" className="link text-[12.5px]" onClick={() => setOpen(true)}>
          Give part of a patch another name
        </button>
      )}
    </section>
  );
}

function sayOf(s: Split): string {
  const of = s.of ? `of “${s.of}”` : "of what has no name";
  switch (s.by) {
    case "plane":
      return `“${s.name}” is what ${of} lies beyond ${placeText(s.at)} along ${placeText(s.normal)};`;
    case "box":
      return `“${s.name}” is what ${of} lies from ${placeText(s.low)} to ${placeText(s.high)};`;
    case "normal":
      return `“${s.name}” is what ${of} faces ${placeText(s.direction)} within ${s.withinDeg} degrees;`;
    case "smooth":
      return `“${s.name}” is what ${of} goes on from ${placeText(s.at)} over edges less sharp than ${s.degrees} degrees;`;
    default:
      return s satisfies never;
  }
}

function OneSplit({ named, add, leave }: { readonly named: readonly string[]; readonly add: (s: Split) => void; readonly leave: () => void }) {
  const [by, setBy] = useState<Way>("plane");
  const [of, setOf] = useState("");
  const [name, setName] = useState("");
  const [first, setFirst] = useState(ZERO);
  const [second, setSecond] = useState<Typed3>(["0", "0", "1"]);
  const [degrees, setDegrees] = useState(PRESET_DEGREES);
  const [mistake, setMistake] = useState("");
  const put = () => {
    try {
      if (!name.trim()) throw new Error("The part needs a name.");
      add(splitOf(by, { of, name: name.trim(), first, second, degrees }));
    } catch (error) {
      setMistake((error as Error).message);
    }
  };
  const byAngle = by === "normal" || by === "smooth";
  return (
    <div className="mt-1 flex flex-wrap items-end gap-3 border border-line p-2">
      <div className="w-44">
        <Field label="Of" words value={of} onChange={setOf} choices={[["", "what has no name"], ...named.map((n) => [n, n] as const)]} />
      </div>
      <div className="w-48">
        <Field label="What lies" words value={by} onChange={setBy} choices={WAYS} />
      </div>
      <Typed3Field label={ENTRIES[by][0]} value={first} set={setFirst} />
      {byAngle ? (
        <div className="w-40">
          <Field label={ENTRIES[by][1]} value={degrees} onChange={setDegrees} />
        </div>
      ) : (
        <Typed3Field label={ENTRIES[by][1]} value={second} set={setSecond} />
      )}
      <div className="w-36">
        <Field label="Is called" words value={name} onChange={setName} />
      </div>
      <button type="button" className="btn quiet" onClick={leave}>
        Leave it
      </button>
      <button type="button" className="btn quiet" onClick={put}>
        Call it so
      </button>
      {mistake ? <p className="mistake w-full">{mistake}</p> : null}
    </div>
  );
}

interface TypedSplit {
  readonly of: string;
  readonly name: string;
  readonly first: Typed3;
  readonly second: Typed3;
  readonly degrees: string;
}

/** @throws {Error} an entry that is no number */
function splitOf(by: Way, { of, name, first, second, degrees }: TypedSplit): Split {
  const [a, b] = [vectorOf(first, ENTRIES[by][0]), by === "plane" || by === "box" ? vectorOf(second, ENTRIES[by][1]) : ([0, 0, 0] as const)];
  const angle = typedNumber(degrees);
  if ((by === "normal" || by === "smooth") && !(angle >= 0 && angle <= 180))
    throw new Error(`${ENTRIES[by][1]}: "${degrees}" is no angle from 0 to 180.`);
  switch (by) {
    case "plane":
      return { by, of, name, at: a, normal: b };
    case "box":
      return { by, of, name, low: a, high: b };
    case "normal":
      return { by, of, name, direction: a, withinDeg: angle };
    case "smooth":
      return { by, of, name, at: a, degrees: angle };
    default:
      return by satisfies never;
  }
}

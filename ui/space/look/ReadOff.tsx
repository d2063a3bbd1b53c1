"use client";

import { useState } from "react";
import { drawChart } from "@/core/drawing/chart";
import { count, significant, unitText } from "@/core/formatting/number";
import { Drawing } from "../../charts/Drawing";
import { useAnswer } from "../../engine/useAnswer";
import { Field } from "../../forms/Field";
import { typedNumber } from "../../forms/typedNumber";
import { CsvButton } from "../../tables/CsvButton";
import { askVolume } from "./askVolume";
import { cornersOf, type FieldChoice, typedPlace } from "./entries";
import { KeepLine } from "./KeepLine";
import type { Result } from "./useResults";

/** A line values are read along, as it is typed. */
export interface LineEntry {
  readonly on: boolean;
  readonly from: string;
  readonly to: string;
  /** corners between the ends, with semicolons between them */
  readonly by: string;
}

interface Props {
  readonly results: readonly Result[];
  readonly place: string;
  readonly setPlace: (text: string) => void;
  readonly line: LineEntry;
  readonly setLine: (line: LineEntry) => void;
  readonly colour: FieldChoice | undefined;
  readonly smooth: boolean;
}

/** Values read at a place and along a line, of every result that is open. */
export function ReadOff(p: Props) {
  const loaded = p.results.filter((r) => r.look);
  if (!loaded.length) return null;
  return (
    <section aria-label="Values read off" className="mt-2 flex flex-wrap items-start gap-x-8 gap-y-3">
      <AtPlace {...p} results={loaded} />
      <AlongLine {...p} results={loaded} />
    </section>
  );
}

function AtPlace({ results, place, setPlace }: Props) {
  const at = typedPlace(place);
  const editions = results.map((r) => `${r.id} ${r.edition}`).join();
  const { value, mistake } = useAnswer(
    at && (() => Promise.all(results.map(async (r) => ({ name: r.name, found: await askVolume("probe", { id: r.id, place: at }) })))),
    [editions, place],
  );
  const wrong = place.trim() && !at ? `"${place}" is no place: three numbers, such as 0.1, 0, 2.` : undefined;
  const units = new Map(results.flatMap((r) => r.look?.arrays ?? []).map((a) => [`${a.on} ${a.name}`, a.unit]));
  return (
    <div className="w-[340px]">
      <Field label="Values at a place: press on the view, or type x, y, z" value={place} onChange={setPlace} mistake={wrong ?? mistake} />
      {value?.map(({ name, found }) => (
        <div key={name} className="mt-1 text-[12px]">
          <p className="text-ink-2">
            {results.length > 1 ? `${name}: ` : ""}
            {found ? `cell ${count(found.cell)}` : "no cell lies there"}
          </p>
          {found?.values.map((v) => (
            <p key={`${v.key.on} ${v.key.name}`} className="flex justify-between gap-3 font-mono text-[11.5px]">
              <span className="truncate">{v.key.name}</span>
              <span>
                {v.values.map((x) => significant(x, 5)).join(", ")} {unitText(unitNotInName(v.key.name, units.get(`${v.key.on} ${v.key.name}`)))}
              </span>
            </p>
          ))}
        </div>
      ))}
    </div>
  );
}

const unitNotInName = (name: string, unit = ""): string => (name.includes(unit) ? "" : unit);

const PLACES = 201;

function AlongLine({ results: open, line, setLine, colour, smooth }: Props) {
  // Of a field that one of them has not, the others are read all the same.
  const results = open.filter((r) => r.look?.arrays.some((a) => a.name === colour?.array.name && a.on === colour.array.on));
  const [places, setPlaces] = useState(String(PLACES));
  const [from, to] = [typedPlace(line.from), typedPlace(line.to)];
  const corners = cornersOf(line);
  const number = Math.round(typedNumber(places));
  const able = line.on && corners && colour && number >= 2 && number <= 10_000;
  const editions = results.map((r) => `${r.id} ${r.edition}`).join();
  const { value, mistake } = useAnswer(
    able
      ? () =>
          Promise.all(
            results.map(async (r) => ({
              result: r,
              profile: await askVolume("line", {
                id: r.id,
                of: { ...colour.array, component: colour.component },
                smooth,
                corners,
                count: number,
              }),
            })),
          )
      : undefined,
    [editions, line, places, colour?.key, smooth],
  );
  const wrong = (text: string, found: unknown) => (text.trim() && !found ? "three numbers, such as 0.1, 0, 2" : undefined);
  if (!line.on)
    return (
      <button type="button" className="btn quiet self-end" onClick={() => setLine(spanOf(open[0]))}>
        Read along a line
      </button>
    );
  const name = colour ? `${colour.words}${colour.unit ? `, ${unitText(colour.unit)}` : ""}` : "";
  return (
    <div className="min-w-[480px] flex-1">
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-36">
          <Field label="Line from" value={line.from} onChange={(v) => setLine({ ...line, from: v })} mistake={wrong(line.from, from)} />
        </div>
        <div className="w-36">
          <Field label="to" value={line.to} onChange={(v) => setLine({ ...line, to: v })} mistake={wrong(line.to, to)} />
        </div>
        <div className="w-44">
          <Field
            label="by way of, if it turns"
            value={line.by}
            placeholder="x, y, z; x, y, z"
            onChange={(v) => setLine({ ...line, by: v })}
            mistake={from && to && !corners ? "places of three numbers, semicolons between them" : undefined}
          />
        </div>
        <div className="w-24">
          <Field label="Places" value={places} onChange={setPlaces} mistake={number >= 2 && number <= 10_000 ? undefined : "from 2 to 10,000"} />
        </div>
        <button type="button" className="btn quiet" onClick={() => setLine({ ...line, on: false })}>
          Leave it
        </button>
      </div>
      {mistake ? <p className="mistake">{mistake}</p> : null}
      {value?.length && colour ? (
        <>
          <p className="mt-1 text-[11.5px] text-ink-2">{value[0].profile.said}</p>
          <div className="mt-6">
            <Drawing
              wide
              name={`${colour.words} along a line`}
              of={value.map((v) => v.result.name).join(", ")}
              svg={drawChart({
                title: `${colour.words} along a line`,
                width: 720,
                height: 260,
                x: { label: "way along the line, in the file's unit" },
                y: { label: name },
                series: value.map(({ result, profile }) => ({
                  name: result.name,
                  kind: "line",
                  points: profile.way.flatMap((s, k) => (Number.isFinite(profile.values[k]) ? [[s, profile.values[k]] as const] : [])),
                })),
                legend: value.length > 1,
              })}
            />
          </div>
          <CsvButton
            name={`${colour.words} along a line`}
            header={["result", "way", name]}
            rows={() => value.flatMap(({ result, profile }) => profile.way.map((s, k) => [result.name, s, profile.values[k]] as const))}
          />
          {value.map(({ result }) =>
            result.run && corners && !colourMade(result, colour) ? (
              <KeepLine key={result.id} run={result.run} colour={colour} smooth={smooth} corners={corners} count={number} />
            ) : null,
          )}
        </>
      ) : null}
    </div>
  );
}

/** Fields made in the page are not in the file the server reads. */
const colourMade = (r: Result, colour: FieldChoice): boolean =>
  r.look?.arrays.find((a) => a.name === colour.array.name && a.on === colour.array.on)?.made !== undefined;

/** A line through the middle, along the longest side. */
function spanOf(r: Result | undefined): LineEntry {
  const { low = [0, 0, 0], high = [1, 1, 1] } = r?.look ?? {};
  const longest = [0, 1, 2].reduce((a, b) => (high[b] - low[b] > high[a] - low[a] ? b : a));
  const end = (ends: readonly number[]) => [0, 1, 2].map((d) => Number((d === longest ? ends[d] : (low[d] + high[d]) / 2).toPrecision(5))).join(", ");
  return { on: true, from: end(low), to: end(high), by: "" };
}

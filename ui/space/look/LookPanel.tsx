"use client";

import Link from "next/link";
import type { Dispatch, SetStateAction } from "react";
import { useId } from "react";
import { count } from "@/core/formatting/number";
import { Field } from "../../forms/Field";
import { type FieldChoice, type LookEntries, type LookMistakes, middlePlane, roundedOut } from "./entries";
import { Level, middleOf, Seeds, seedLine } from "./levelAndLines";
import { type FluidSaid, MadeFields } from "./MadeFields";
import { Part, Tick } from "./PanelParts";
import { PlaneFields } from "./PlaneFields";
import { ReachPart } from "./ReachPart";
import type { Result, RunFile, useResults } from "./useResults";

interface Props extends ReturnType<typeof useResults> {
  readonly runs: readonly RunFile[];
  readonly caseId: string | undefined;
  readonly caseTitle: string | undefined;
  readonly fluid: FluidSaid;
  readonly entries: LookEntries;
  readonly setEntries: Dispatch<SetStateAction<LookEntries>>;
  readonly choices: readonly FieldChoice[];
  readonly vectors: readonly FieldChoice[];
  readonly mistakes: LookMistakes;
  readonly first: Result | undefined;
  readonly full: boolean;
}

/** What is open, and everything that is said about how it is to be seen. */
export function LookPanel(p: Props) {
  const { entries: e, setEntries, choices, vectors, mistakes, first } = p;
  const set = (change: Partial<LookEntries>) => setEntries((was) => ({ ...was, ...change }));
  const none = [["", "none"] as const];
  const list = choices.map((c) => [c.key, c.words] as const);
  return (
    <aside aria-label="What is seen" className="no-print w-[286px] shrink-0 overflow-y-auto border-r border-line bg-margin px-4 py-3">
      <h1>Look in space</h1>
      {p.caseId ? (
        <p className="text-[12px]">
          <Link className="link" href={`/cases/${p.caseId}/runs`}>
            {p.caseTitle}
          </Link>
        </p>
      ) : null}
      <Open {...p} />
      {first?.look ? (
        <>
          <Colours {...p} set={set} list={list} />
          <Cuts {...p} set={set} list={list} look={first.look} />
          {first.look.solid ? (
            <>
              <Part name="Surface of one value">
                <Field
                  label="Of"
                  words
                  value={e.level}
                  choices={[...none, ...list]}
                  onChange={(level) => set({ level, value: middleOf(choices.find((c) => c.key === level)) })}
                />
                {e.level ? <Level choice={choices.find((c) => c.key === e.level)} e={e} set={set} mistake={mistakes.value} /> : null}
              </Part>
              <Part name="Along a velocity">
                <Field
                  label="Lines along"
                  words
                  value={e.lines}
                  choices={[...none, ...vectors.map((c) => [c.key, c.words] as const)]}
                  onChange={(lines) => set({ lines, ...(lines && !e.planes.length && e.from === "cut" ? seedLine(first) : {}) })}
                />
                {e.lines ? <Seeds e={e} set={set} mistakes={mistakes} /> : null}
                <Field
                  label="Arrows on the cuts, of"
                  words
                  value={e.arrows}
                  choices={[...none, ...vectors.map((c) => [c.key, c.words] as const)]}
                  onChange={(arrows) => set({ arrows })}
                />
              </Part>
              <Part name="How far it reaches">
                <ReachPart first={first} choice={choices.find((c) => c.key === e.colour)} reach={p.reach} set={set} />
              </Part>
              <Part name="Fields made of others">
                <MadeFields results={p.results} make={p.make} difference={p.difference} fluid={p.fluid} shown={(colour) => set({ colour })} />
              </Part>
            </>
          ) : null}
          <Part name="What it holds">
            <p className="text-[12px]">
              {count(first.look.cells)} cells ({first.look.kinds.map((k) => `${count(k.count)} ${k.name}`).join(", ")}), {count(first.look.points)}{" "}
              points.
            </p>
            {[...first.notes, ...first.look.notes].map((n) => (
              <p key={n} className="text-[11.5px] text-ink-2">
                {n}
              </p>
            ))}
          </Part>
        </>
      ) : null}
    </aside>
  );
}

interface Shared extends Props {
  readonly set: (change: Partial<LookEntries>) => void;
}

function Colours({ entries: e, mistakes, set, list }: Shared & { readonly list: readonly (readonly [string, string])[] }) {
  return (
    <Part name="Colours">
      <Field label="Coloured by" words value={e.colour} choices={[["", "nothing, lit"], ...list]} onChange={(colour) => set({ colour })} />
      <Tick label="cell values brought to points" value={e.smooth} onChange={(smooth) => set({ smooth })} />
      <Field
        label="Colours reach over"
        words
        value={e.range}
        choices={[
          ["seen", "what is seen"],
          ["whole", "all there is"],
          ["typed", "values of my own"],
        ]}
        onChange={(range) => set({ range })}
      />
      {e.range === "typed" ? (
        <div className="grid grid-cols-2 gap-2">
          <Field label="From" value={e.low} onChange={(low) => set({ low })} mistake={mistakes.low} />
          <Field label="to" value={e.high} onChange={(high) => set({ high })} mistake={mistakes.high} />
        </div>
      ) : null}
      <Field
        label="Lines of equal value, so many"
        value={e.equal}
        onChange={(equal) => set({ equal })}
        mistake={mistakes.equal}
        help="On what is coloured by values on points, or by cell values brought to points"
      />
    </Part>
  );
}

function Cuts({
  entries: e,
  choices,
  list,
  mistakes,
  set,
  look,
}: Shared & { readonly list: readonly (readonly [string, string])[]; readonly look: NonNullable<Result["look"]> }) {
  return (
    <Part name="Outside and cuts">
      <Field
        label="Outside"
        words
        value={e.outside}
        choices={[
          ["whole", "its faces"],
          ["outline", "its edges alone"],
        ]}
        onChange={(outside) => set({ outside })}
      />
      <Field
        label="Only cells by"
        words
        value={e.keep}
        choices={[["", "all of them"], ...list]}
        onChange={(keep) => {
          const found = choices.find((c) => c.key === keep);
          set({ keep, least: found ? roundedOut(found.low, false) : "", most: found ? roundedOut(found.high, true) : "" });
        }}
      />
      {e.keep ? (
        <div className="grid grid-cols-2 gap-2">
          <Field label="From" value={e.least} onChange={(least) => set({ least })} mistake={mistakes.least} />
          <Field label="to" value={e.most} onChange={(most) => set({ most })} mistake={mistakes.most} />
        </div>
      ) : null}
      <div className="grid grid-cols-2 gap-2">
        <Field
          label="Mirrored across"
          words
          value={e.mirror}
          choices={[
            ["", "not at all"],
            ["0", "x"],
            ["1", "y"],
            ["2", "z"],
          ]}
          onChange={(mirror) => set({ mirror })}
          help="A half model with its image beside it, for looking alone"
        />
        {e.mirror ? <Field label="at" value={e.mirrorAt} onChange={(mirrorAt) => set({ mirrorAt })} mistake={mistakes.mirrorAt} /> : null}
      </div>
      {e.planes.map((plane, k) => (
        <PlaneFields
          key={`${k} of ${e.planes.length}`}
          number={k}
          plane={plane}
          room={look}
          mistake={mistakes[`plane ${k}`]}
          clipped={e.clip === String(k)}
          clip={(on) => set({ clip: on ? String(k) : "" })}
          set={(change) => set({ planes: e.planes.map((old, i) => (i === k ? { ...old, ...change } : old)) })}
          remove={() => set({ planes: e.planes.filter((_, i) => i !== k), clip: "" })}
        />
      ))}
      {look.solid ? (
        <button
          type="button"
          className="btn quiet small self-start"
          disabled={e.planes.length >= 3}
          onClick={() =>
            set({
              planes: [...e.planes, middlePlane(look)],
              ...(e.planes.length ? {} : { outside: "outline" }),
            })
          }
        >
          Cut with a plane
        </button>
      ) : (
        <p className="text-[11.5px] text-ink-3">It has no cells in space that could be cut.</p>
      )}
    </Part>
  );
}

/** Results that are open, and how another comes beside them. */
function Open({ results, runs, addFiles, addRun, remove, full }: Props) {
  const id = useId();
  const left = runs.filter((r) => !results.some((x) => x.run?.id === r.runId));
  return (
    <section aria-label="Open results" className="mt-2 flex flex-col gap-1.5">
      {results.map((r) => (
        <p key={r.id} className="flex min-h-7 items-center justify-between gap-2 text-[12px]">
          <span className="truncate">{r.name}</span>
          <button type="button" className="link min-h-6 text-ink-3" aria-label={`Close ${r.name}`} onClick={() => remove(r.id)}>
            close
          </button>
        </p>
      ))}
      {full ? null : (
        <>
          {left.length ? (
            <Field
              label={results.length ? "Beside it, of a run" : "Of a run"}
              words
              value=""
              choices={[["", "choose"], ...left.map((r) => [r.runId, `${r.label}: ${r.file}`] as const)]}
              onChange={(runId) => {
                const run = left.find((r) => r.runId === runId);
                if (run) void addRun(run);
              }}
            />
          ) : null}
          <label htmlFor={id}>{results.length ? "Beside it, files of one result, or a picture" : "Files of one result"}</label>
          <input
            id={id}
            type="file"
            multiple
            className="block w-full text-[11.5px]"
            accept=".vtu,.vtp,.vts,.vtr,.vti,.cgns,.pvd,.pvtu,.pvtp,.pvts,.pvtr,.pvti,.stl,.ply,image/png,image/jpeg"
            onChange={(e) => {
              void addFiles([...(e.target.files ?? [])]);
              e.target.value = "";
            }}
          />
        </>
      )}
    </section>
  );
}

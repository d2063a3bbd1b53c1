"use client";

import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { SpaceScene } from "@/core/drawing/spaceScene";
import { axisText } from "@/core/formatting/number";
import { scaleText } from "@/core/formatting/scale";
import { FieldLegend } from "../../field/FieldLegend";
import { crosses } from "../crosses";
import { type Camera, FIRST_LOOK } from "../scene";
import { type ShownLayers, ViewControls } from "../ViewControls";
import { cornersOf, FIRST_ENTRIES, fieldChoices, type LookEntries, sceneOf, typedPlace, vectorChoices } from "./entries";
import { Integrals } from "./Integrals";
import { LookPanel } from "./LookPanel";
import type { FluidSaid } from "./MadeFields";
import { Moments } from "./Moments";
import { type LineEntry, ReadOff } from "./ReadOff";
import { MOST_RESULTS, type Result, type RunFile, useResults } from "./useResults";
import { VolumePane } from "./VolumePane";

type Place = readonly [number, number, number];

interface Props {
  /** runs whose files can be looked at, and which are opened at once */
  readonly runs: readonly RunFile[];
  readonly open: readonly string[];
  readonly caseTitle: string | undefined;
  readonly caseId: string | undefined;
  readonly fluid: FluidSaid;
  /** a run that is followed, whose results are written beside its log */
  readonly followed?: { readonly runId: string; readonly label: string } | undefined;
}

/** Results in space, several side by side: what is seen, the camera, the colours and the places that are read are those of all. */
export function Look(p: Props) {
  const all = useResults();
  const { results, addRun, addWatched } = all;
  const [entries, setEntries] = useState<LookEntries>(FIRST_ENTRIES);
  const [camera, setCamera] = useState<Camera>(FIRST_LOOK);
  const [layers, setLayers] = useState<ShownLayers>({ mesh: false, outline: true, size: true });
  const [place, setPlace] = useState("");
  const [line, setLine] = useState<LineEntry>({ on: false, from: "", to: "", by: "" });
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current) return;
    begun.current = true;
    void (async () => {
      for (const id of p.open) {
        const run = p.runs.find((r) => r.runId === id);
        if (run) await addRun(run);
      }
      if (p.followed) await addWatched(p.followed.runId, p.followed.label);
    })();
  }, [p.open, p.runs, p.followed, addRun, addWatched]);
  const first = results.find((r) => r.look);
  const choices = useMemo(() => fieldChoices(first?.look?.arrays ?? []), [first?.look]);
  const vectors = useMemo(() => vectorChoices(first?.look?.arrays ?? []), [first?.look]);
  useFirstColour(choices, entries, setEntries);
  const { asked, mistakes } = useMemo(() => sceneOf(entries, [...choices, ...vectors]), [entries, choices, vectors]);
  const { scenes, keep, shared } = useScenes(results, entries.range === "typed");
  const marks = useMemo(() => marksOf(place, line, first), [place, line, first]);
  const pick = useCallback((at: Place) => setPlace(at.map((v) => Number(v.toPrecision(5))).join(", ")), []);
  const box = useRef<HTMLDivElement>(null);
  const size = useRoom(box, results.length);
  // As the views have it: two colours that meet in the middle reach as far either way.
  const legend = results.map((r) => scenes.get(r.id)).find((s) => s?.coloured);
  const colour = choices.find((c) => c.key === entries.colour);
  return (
    <main id="main" tabIndex={-1} className="flex h-[calc(100vh-64px)] bg-sheet">
      <LookPanel
        {...all}
        runs={p.runs}
        caseId={p.caseId}
        caseTitle={p.caseTitle}
        fluid={p.fluid}
        entries={entries}
        setEntries={setEntries}
        choices={choices}
        vectors={vectors}
        mistakes={mistakes}
        first={first}
        full={results.length >= MOST_RESULTS}
      />
      <div className="min-w-0 flex-1 overflow-y-auto px-4 pt-2 pb-3">
        <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-[12px]">
          <ViewControls camera={camera} setCamera={setCamera} layers={layers} setLayers={setLayers} />
        </div>
        <div ref={box} className={`mt-1 grid content-start gap-3 ${results.length > 1 ? "grid-cols-2" : ""}`}>
          {results.length ? null : <Nothing hasRuns={p.runs.length > 0} />}
          {results.map((r) => (
            <VolumePane
              key={r.id}
              result={r}
              asked={asked}
              shared={shared}
              layers={layers}
              camera={camera}
              setCamera={setCamera}
              marks={marks}
              pick={pick}
              found={keep(r.id)}
              {...size}
            />
          ))}
        </div>
        {colour && legend ? (
          <div className="mt-1">
            <FieldLegend
              range={[legend.range[0], legend.range[1]]}
              scale={scaleText([legend.range[0], legend.range[1]])}
              width={Math.min(720, size.width)}
              colors={legend.scheme}
            />
            <p className="text-[11.5px] text-ink-3">
              {colour.unit ? axisText({ name: colour.words, unit: colour.unit }) : `${colour.words}, no unit said`};{" "}
              {howShown(colour.array.on, entries.smooth)}; colours reach over{" "}
              {entries.range === "typed" ? "what was typed" : entries.range === "whole" ? "all there is" : "what is seen"}
              {results.length > 1 && entries.range !== "typed" ? ", in all views alike" : ""}
            </p>
          </div>
        ) : null}
        <Moments results={results} goTo={all.goTo} />
        <Integrals results={results} scenes={scenes} unit={colour?.unit ?? ""} />
        <ReadOff results={results} place={place} setPlace={setPlace} line={line} setLine={setLine} colour={colour} smooth={entries.smooth} />
      </div>
    </main>
  );
}

const howShown = (on: "cells" | "points", smooth: boolean): string =>
  on === "points" ? "values on points, even between them" : smooth ? "cell values brought to points" : "cell values, as they are";

function Nothing({ hasRuns }: { hasRuns: boolean }) {
  return (
    <div className="max-w-[620px] pt-10 text-[13px] text-ink-2">
      <h2>Nothing is open yet</h2>
      <p className="mt-1">
        Choose a result in space{hasRuns ? " of a run of this case, or a file" : ""}: grids of VTK’s XML format (vtu, vtp, vts, vtr, vti) or of the
        CGNS standard (cgns, in HDF5), several of them as moments in time or with the pvd or parallel file that names them, surfaces as STL or PLY.
        They are read in this page; nothing is stored. A second one opens beside the first.
      </p>
    </div>
  );
}

/** The first field of the first result, as soon as there is one. */
function useFirstColour(choices: readonly { readonly key: string }[], entries: LookEntries, set: (e: LookEntries) => void): void {
  const known = choices.some((c) => c.key === entries.colour);
  const first = choices[0]?.key;
  const was = useRef(false);
  useEffect(() => {
    if (was.current || !first) return;
    was.current = true;
    if (!known) set({ ...entries, colour: first });
  }, [first, known, entries, set]);
}

/** What each view shows, and the ends of the colours all of them share. */
function useScenes(results: readonly Result[], typed: boolean) {
  const [scenes, setScenes] = useState<ReadonlyMap<string, SpaceScene>>(new Map());
  const keepers = useRef(new Map<string, (scene: SpaceScene | undefined) => void>());
  const keep = useCallback((id: string) => {
    const known = keepers.current.get(id);
    if (known) return known;
    const made = (scene: SpaceScene | undefined) =>
      setScenes((all) => {
        const next = new Map(all);
        if (scene) next.set(id, scene);
        else next.delete(id);
        return next;
      });
    keepers.current.set(id, made);
    return made;
  }, []);
  const coloured = results.flatMap((r) => scenes.get(r.id) ?? []).filter((s) => s.coloured);
  const natural = coloured.flatMap((s) => s.natural);
  const [low, high] = [Math.min(...natural), Math.max(...natural)];
  const many = coloured.length > 1 && low < high && !typed;
  const shared = useMemo(() => (many ? ([low, high] as const) : undefined), [many, low, high]);
  return { scenes, keep, shared };
}

/** The place that is read, and the line, as strokes in the grid's unit. */
function marksOf(place: string, line: LineEntry, first: Result | undefined): Place[][] {
  const at = typedPlace(place);
  const corners = line.on ? cornersOf(line) : undefined;
  const marks: Place[][] = at && first?.look ? crosses([at], first.look) : [];
  return corners ? [...marks, ...corners.slice(1).map((to, k) => [corners[k], to])] : marks;
}

/** least size of a view, px */
const LEAST = { width: 320, height: 260 };
const CAPTION = 46;
/** of the window's height, for what stands above the views and below them */
const BARS = 240;

/** The room each view has. */
function useRoom(box: React.RefObject<HTMLDivElement | null>, count: number) {
  const [room, setRoom] = useState({ width: 900, height: 520 });
  useEffect(() => {
    const own = box.current;
    if (!own) return undefined;
    const measure = () => {
      setRoom({ width: own.clientWidth, height: Math.max(360, window.innerHeight - BARS) });
    };
    const watch = new ResizeObserver(measure);
    watch.observe(own);
    window.addEventListener("resize", measure);
    return () => {
      watch.disconnect();
      window.removeEventListener("resize", measure);
    };
  }, [box]);
  const [columns, rows] = [count > 1 ? 2 : 1, count > 2 ? 2 : 1];
  return {
    width: Math.max(LEAST.width, Math.floor((room.width - 12 * (columns - 1)) / columns) - 2),
    height: Math.max(LEAST.height, Math.floor(room.height / rows) - CAPTION),
  };
}

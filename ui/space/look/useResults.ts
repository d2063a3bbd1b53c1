"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import type { ShownArray, VolumeLook } from "@/core/drawing/volume";
import type { ReachAsked } from "@/core/drawing/volumeReach";
import type { SpaceSaid, Wish } from "@/core/monitors/space/said";
import { call } from "../../api/call";
import { sentenceOf } from "../../shell/notify";
import { bytesAt } from "../bytesAt";
import { askVolume } from "./askVolume";

/** Where the bytes of one piece of a moment come from. */
type Piece = () => Promise<Uint8Array>;

/** A result that is looked at: its moments, and which of them is shown. */
export interface Result {
  readonly id: string;
  readonly name: string;
  /** a picture, such as a figure of a paper, in place of cells: where it is shown from */
  readonly picture?: string;
  /** run beside whose log its files are written, and what was seen of them last */
  readonly watched?: { readonly runId: string; readonly seen: string };
  /** run it belongs to, where it is one's */
  readonly run?: { readonly id: string; readonly label: string; readonly length: string };
  readonly moments: readonly { readonly pieces: readonly Piece[]; readonly time?: number }[];
  readonly at: number;
  /** counts its moments and the fields made of it: whatever rests on them is asked for anew */
  readonly edition: number;
  readonly look?: VolumeLook;
  readonly notes: readonly string[];
  readonly busy?: string;
  readonly mistake?: string;
}

/** A run whose file can be looked at. */
export interface RunFile {
  readonly runId: string;
  readonly label: string;
  readonly file: string;
  /** unit of length its file is counted in, where it was said */
  readonly length: string;
}

/** how often files beside a log are looked for */
const WATCH_MS = 3000;

/** Result files beside a run's log as moments, by the numbers in their names, and what tells whether they changed. */
async function momentsBeside(runId: string): Promise<{ readonly moments: Result["moments"]; readonly seen: string }> {
  const files = await call("GET /runs/{id}/watched", { at: { id: runId } });
  const moments = files.map(({ name }) => ({ pieces: [() => bytesAt(`/api/runs/${runId}/watched/${encodeURIComponent(name)}`, "run")] }));
  return { moments, seen: files.map((f) => `${f.name} ${f.changedMs}`).join() };
}

/** results side by side */
export const MOST_RESULTS = 4;
/** files that may name others are read before any cells are */
const NAMES_OTHERS = /\.(pvd|p(vtu|vtp|vts|vtr|vti))$/i;

const bytesOf = async (file: File): Promise<Uint8Array> => new Uint8Array(await file.arrayBuffer());

/** Results that are looked at side by side. */
export function useResults() {
  const [results, setResults] = useState<readonly Result[]>([]);
  const now = useRef(results);
  now.current = results;
  const next = useRef(0);
  const change = useCallback((id: string, of: Partial<Result>) => setResults((all) => all.map((r) => (r.id === id ? { ...r, ...of } : r))), []);

  const load = useLoad(setResults, change);

  const begin = useCallback((name: string, run?: Result["run"]): string => {
    const id = String(next.current++);
    const fresh: Result = { id, name, ...(run ? { run } : {}), moments: [], at: 0, edition: 0, notes: [], busy: `Reading ${name}` };
    setResults((all) => [...all, fresh].slice(0, MOST_RESULTS));
    return id;
  }, []);

  const opening = useOpening(now, begin, change, load);
  useWatching(now, change, load);

  const remove = useCallback((id: string) => {
    const { picture } = now.current.find((r) => r.id === id) ?? {};
    if (picture) URL.revokeObjectURL(picture);
    setResults((all) => all.filter((r) => r.id !== id));
    void askVolume("forget", { id }).catch(() => undefined);
  }, []);

  /** Shows a moment; of the others the one of the same number. */
  const goTo = useCallback(
    (at: number) => Promise.all(now.current.map((r) => (r.moments.length > 1 && at < r.moments.length ? load(r.id, r.moments, at) : undefined))),
    [load],
  );

  /** Makes a field of every result that has what it needs. @returns the one that was made of the first, and what stood in the way of the others */
  const make = useCallback(async (said: SpaceSaid, wish: Wish): Promise<{ readonly made?: ShownArray; readonly mistakes: readonly string[] }> => {
    const mistakes: string[] = [];
    let first: ShownArray | undefined;
    for (const r of now.current) {
      if (!r.look) continue;
      try {
        const { made, look } = await askVolume("make", { id: r.id, said, wish });
        first ??= made;
        setResults((all) => all.map((x) => (x.id === r.id ? { ...x, look, edition: x.edition + 1 } : x)));
      } catch (error) {
        mistakes.push(now.current.length > 1 ? `${r.name}: ${sentenceOf(error)}` : sentenceOf(error));
      }
    }
    return { ...(first ? { made: first } : {}), mistakes };
  }, []);

  const difference = useCallback(async (id: string, other: Result, key: { readonly name: string; readonly on: "cells" | "points" }, unit: string) => {
    const { made, look } = await askVolume("difference", { id, other: other.id, key, unit, name: other.name });
    setResults((all) => all.map((x) => (x.id === id ? { ...x, look, edition: x.edition + 1 } : x)));
    return made;
  }, []);

  /** How far a disturbance reaches in one result; the departure becomes a field of it. */
  const reach = useCallback(async (id: string, asked: ReachAsked) => {
    const { look, ...found } = await askVolume("reach", { id, asked });
    setResults((all) => all.map((x) => (x.id === id ? { ...x, look, edition: x.edition + 1 } : x)));
    return found;
  }, []);

  return { results, ...opening, remove, goTo, make, difference, reach };
}

type Load = ReturnType<typeof useLoad>;
type Change = (id: string, of: Partial<Result>) => void;
type Begin = (name: string, run?: Result["run"]) => string;
interface Now {
  readonly current: readonly Result[];
}

/** Ways in which a result is opened. */
function useOpening(now: Now, begin: Begin, change: Change, load: Load) {
  const addFiles = useCallback(
    async (files: readonly File[]) => {
      if (!files.length || now.current.length >= MOST_RESULTS) return;
      if (files.every((f) => f.type.startsWith("image/"))) {
        for (const f of files) change(begin(f.name), { busy: undefined, picture: URL.createObjectURL(f) });
        return;
      }
      const id = begin(files.length === 1 ? files[0].name : `${files[0].name} and ${files.length - 1} more`);
      try {
        const told = await Promise.all(
          files.map(async (f) => (NAMES_OTHERS.test(f.name) ? { name: f.name, bytes: await bytesOf(f) } : { name: f.name })),
        );
        const { moments, notes } = await askVolume("sort", { files: told });
        const own = moments.map((m) => ({
          ...(m.time === undefined ? {} : { time: m.time }),
          pieces: m.files.map(
            (name): Piece =>
              () =>
                bytesOf(files.find((f) => f.name === name) as File),
          ),
        }));
        if (!own.length) throw new Error(`No file with cells was chosen. ${notes.join(" ")}`);
        change(id, { moments: own, notes });
        await load(id, own, 0);
      } catch (error) {
        change(id, { busy: undefined, mistake: sentenceOf(error) });
      }
    },
    [now, begin, change, load],
  );

  const addRun = useCallback(
    async (of: RunFile) => {
      if (now.current.length >= MOST_RESULTS) return;
      const id = begin(of.label, { id: of.runId, label: of.label, length: of.length });
      const moments = [{ pieces: [() => bytesAt(`/api/runs/${of.runId}/space/file`, "run")] }];
      change(id, { moments });
      await load(id, moments, 0);
    },
    [now, begin, change, load],
  );

  /** Result files beside the log of a run that is followed: moments that become more while its code writes. */
  const addWatched = useCallback(
    async (runId: string, label: string) => {
      if (now.current.length >= MOST_RESULTS) return;
      const id = begin(`${label}, beside its log`);
      try {
        const { moments, seen } = await momentsBeside(runId);
        if (!moments.length) throw new Error("No result file (vtu, vtp, vts, vtr, vti, cgns) stands beside its log yet.");
        change(id, { moments, watched: { runId, seen } });
        await load(id, moments, moments.length - 1);
      } catch (error) {
        change(id, { busy: undefined, mistake: sentenceOf(error), watched: { runId, seen: "" } });
      }
    },
    [now, begin, change, load],
  );
  return { addFiles, addRun, addWatched };
}

/** Looks for further files beside the logs of runs whose results are open. */
function useWatching(now: Now, change: Change, load: Load): void {
  useEffect(() => {
    const look = async () => {
      for (const r of now.current) {
        if (!r.watched || r.busy) continue;
        const { moments, seen } = await momentsBeside(r.watched.runId).catch(() => ({ moments: r.moments, seen: r.watched?.seen ?? "" }));
        if (seen === r.watched.seen || !moments.length) continue;
        // Whoever looks at the last one goes on with the next; whoever went back stays there.
        const last = r.at >= r.moments.length - 1;
        change(r.id, { moments, watched: { ...r.watched, seen } });
        if (last) await load(r.id, moments, moments.length - 1);
      }
    };
    const timer = setInterval(() => void look(), WATCH_MS);
    return () => clearInterval(timer);
  }, [now, change, load]);
}

/** Reads a moment of a result. */
function useLoad(setResults: (of: (all: readonly Result[]) => readonly Result[]) => void, change: (id: string, of: Partial<Result>) => void) {
  return useCallback(
    async (id: string, moments: Result["moments"], at: number) => {
      change(id, { busy: "Reading the cells", at });
      try {
        const pieces = await Promise.all(moments[at].pieces.map((p) => p()));
        const look = await askVolume("load", { id, pieces });
        setResults((all) => all.map((r) => (r.id === id ? { ...r, look, edition: r.edition + 1, busy: undefined, mistake: undefined } : r)));
      } catch (error) {
        change(id, { busy: undefined, mistake: sentenceOf(error) });
      }
    },
    [setResults, change],
  );
}

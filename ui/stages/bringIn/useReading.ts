"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import type { SheetPreview } from "@/core/intake/historyImport";
import { call, type Input, Refused } from "../../api/call";

export interface Problem {
  readonly file?: string;
  readonly line: number;
  readonly column?: string;
  readonly sentence: string;
}

/** What the server says of a file being read. */
export interface ReadingView {
  readonly id: string;
  readonly name: string;
  readonly log: boolean;
  readonly state: "reading" | "done" | "refused" | "stopped";
  readonly read: number;
  readonly total: number;
  readonly rows: number;
  readonly sheets?: readonly string[];
  readonly sheet?: string;
  readonly preview?: SheetPreview;
  readonly problems: readonly Problem[];
}

type Source = { readonly file: File } | { readonly log: string; readonly name: string };

const ASK_MS = 250;

/** Sends a file to the server, or names a log there, and follows its reading; a later choice replaces an earlier one. */
export function useReading(caseId: string, said: (sentence: string) => void) {
  const [reading, setReading] = useState<ReadingView>();
  const turn = useRef(0);
  const sent = useRef<{ name: string; hash: string }>(undefined);
  const current = useRef<string>(undefined);

  const discard = useCallback(() => {
    turn.current++;
    const id = current.current;
    current.current = undefined;
    if (id) void call("DELETE /cases/{id}/readings/{reading}", { at: { id: caseId, reading: id } }).catch(() => undefined);
    setReading(undefined);
  }, [caseId]);
  // What was read and not brought in is forgotten with the page.
  useEffect(() => discard, [discard]);

  const watch = useCallback(
    async (input: Input<"POST /cases/{id}/readings">, name: string, log: boolean, sheet?: string) => {
      const mine = ++turn.current;
      const base: ReadingView = { id: "", name, log, state: "reading", read: 0, total: 0, rows: 0, sheet, problems: [] };
      setReading(base);
      try {
        const { id } = await call("POST /cases/{id}/readings", { at: { id: caseId }, input });
        current.current = id;
        for (;;) {
          const state = await call("GET /cases/{id}/readings/{reading}", { at: { id: caseId, reading: id } });
          if (turn.current !== mine) return;
          setReading({ ...base, ...(state as Omit<ReadingView, "id" | "log">), id, log, sheet });
          if (state.state !== "reading") return;
          await new Promise((resolve) => setTimeout(resolve, ASK_MS));
        }
      } catch (error) {
        if (turn.current !== mine) return;
        setReading(undefined);
        said(error instanceof Refused ? error.message : String(error));
      }
    },
    [caseId, said],
  );

  const choose = useCallback(
    async (source: Source | undefined) => {
      discard();
      if (!source) return;
      if ("log" in source) return watch({ log: source.log }, source.name, true);
      const mine = ++turn.current;
      setReading({ id: "", name: source.file.name, log: false, state: "reading", read: 0, total: 0, rows: 0, problems: [] });
      const answer = await fetch("/api/uploads", { method: "POST", body: source.file }).catch(() => undefined);
      const data = (await answer?.json().catch(() => undefined)) as { hash?: string; error?: string } | undefined;
      if (turn.current !== mine) return;
      if (!answer?.ok || !data?.hash) {
        setReading(undefined);
        return said(data?.error ?? "The server does not answer. Start it again and choose the file once more.");
      }
      sent.current = { name: source.file.name, hash: data.hash };
      await watch(sent.current, source.file.name, false);
    },
    [discard, watch, said],
  );

  /** Reads another sheet of the same workbook. */
  const chooseSheet = useCallback(
    async (sheet: string) => {
      if (sent.current) await watch({ ...sent.current, sheet }, sent.current.name, false, sheet);
    },
    [watch],
  );
  /** What was read is now a run's own: it is not to be forgotten. */
  const release = useCallback(() => {
    current.current = undefined;
  }, []);
  return { reading, choose, chooseSheet, discard, release };
}

import { useCallback, useEffect, useRef, useState } from "react";
import { joinStations } from "@/core/intake/joinStations";
import { type Answer, call, type Input, Refused } from "../api/call";
import { useReading } from "../stages/bringIn/useReading";

type Found = Answer<"POST /curves/preview">;
/** What is sent of a file: its text, or the reading it was read by. */
type Sent = Input<"POST /curves/preview">["file"];

/** How the columns of a file are read, as typed. */
export interface CurveWords {
  readonly roles: readonly string[];
  readonly units: readonly string[];
  readonly coverage: 1 | 2;
  readonly own: string;
  readonly shared: string;
  readonly place: string;
}

/** time without another key after which a file is read again */
const REST_MS = 300;
/** files up to this size are sent with every question; larger ones and workbooks are read once */
const SENT_WHOLE = 8 * 1024 * 1024;

const PLAIN = { coverage: 2, own: "", shared: "", place: "" } as const;

/** A table of curves a person has chosen, in one file or a file a station: what its columns seem to be, what they are said to be, and the curves they make. */
export function useCurveFile(caseId: string) {
  const [file, setFile] = useState<{ name: string; sent: Sent }>();
  const [found, setFound] = useState<Found>();
  const [notes, setNotes] = useState<readonly string[]>([]);
  const [words, setWords] = useState<CurveWords>({ roles: [], units: [], ...PLAIN });
  const [mistake, setMistake] = useState("");
  const turn = useRef(0);
  const { reading, choose: begin, chooseSheet, discard, release } = useReading(caseId, setMistake);
  const read = useCallback(async (of: { sent: Sent }, said?: CurveWords) => {
    // A file is sent whole: only where typing rests, and what comes after a later question is dropped.
    const mine = ++turn.current;
    if (said) await new Promise((rest) => setTimeout(rest, REST_MS));
    if (turn.current !== mine) return;
    try {
      const answer = await call("POST /curves/preview", { input: { file: of.sent, ...(said ? { mapping: sentOf(said) } : {}) } });
      if (turn.current !== mine) return;
      setMistake("");
      setFound(answer);
      if (!said) setWords({ ...PLAIN, roles: answer.roles, units: answer.units.map((u) => u ?? "") });
    } catch (error) {
      if (turn.current !== mine) return;
      setMistake(error instanceof Refused ? error.message : String(error));
      if (!said) setFound(undefined);
    }
  }, []);
  // A workbook, or a large file, is there once it has been read to its end.
  const done = reading?.state === "done" ? reading : undefined;
  const doneId = done?.id;
  const doneName = done?.name;
  useEffect(() => {
    if (!doneId) return;
    const next = { name: doneName ?? "", sent: { reading: doneId } };
    setFile(next);
    void read(next);
  }, [doneId, doneName, read]);
  return {
    file,
    found,
    words,
    mistake,
    notes,
    reading,
    chooseSheet,
    /** what was read is stored now */
    release,
    choose: async (chosen: readonly File[]) => {
      turn.current++;
      discard();
      setFound(undefined);
      setMistake("");
      setNotes([]);
      setFile(undefined);
      const [first] = chosen;
      if (!first) return;
      const large = (f: File) => f.size > SENT_WHOLE || /\.xlsx$/i.test(f.name);
      if (chosen.length === 1 && large(first)) return begin({ file: first });
      const next = await textOf(chosen, chosen.find(large));
      if ("sentence" in next) return setMistake(next.sentence);
      setNotes(next.notes);
      setFile(next.file);
      await read(next.file);
    },
    change: (next: CurveWords) => {
      setWords(next);
      if (file) void read(file, next);
    },
  };
}

/** One text of one file or of several. */
async function textOf(
  chosen: readonly File[],
  large: File | undefined,
): Promise<{ readonly file: { readonly name: string; readonly sent: Sent }; readonly notes: readonly string[] } | { readonly sentence: string }> {
  if (large) return { sentence: `${large.name} cannot be one of several files: a workbook, or a file of more than 8 MB, is brought in by itself.` };
  const texts = await Promise.all(chosen.map(async (f) => ({ name: f.name, text: await f.text() })));
  if (texts.length === 1) return { file: { name: texts[0].name, sent: texts[0] }, notes: [] };
  const joined = joinStations(texts);
  if (!joined.ok) return joined;
  const { name, text, notes } = joined;
  return { file: { name, sent: { name, text } }, notes };
}

/** A mapping as it is sent: units that were left empty are none. */
export const sentOf = (w: CurveWords) => ({ ...w, roles: [...w.roles] as Found["roles"] as never, units: w.units.map((u) => u.trim() || null) });

export type CurveFile = ReturnType<typeof useCurveFile>;

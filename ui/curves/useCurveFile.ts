import { useRef, useState } from "react";
import { type Answer, call, Refused } from "../api/call";

type Found = Answer<"POST /curves/preview">;

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

const PLAIN = { coverage: 2, own: "", shared: "", place: "" } as const;

/** A table of curves a person has chosen: what its columns seem to be, what they are said to be, and the curves they make. */
export function useCurveFile() {
  const [file, setFile] = useState<{ name: string; text: string }>();
  const [found, setFound] = useState<Found>();
  const [words, setWords] = useState<CurveWords>({ roles: [], units: [], ...PLAIN });
  const [mistake, setMistake] = useState("");
  const turn = useRef(0);
  const read = async (of: NonNullable<typeof file>, said?: CurveWords) => {
    // A file is sent whole: only where typing rests, and what comes after a later question is dropped.
    const mine = ++turn.current;
    if (said) await new Promise((rest) => setTimeout(rest, REST_MS));
    if (turn.current !== mine) return;
    try {
      const answer = await call("POST /curves/preview", { input: { file: of, ...(said ? { mapping: sentOf(said) } : {}) } });
      if (turn.current !== mine) return;
      setMistake("");
      setFound(answer);
      if (!said) setWords({ ...PLAIN, roles: answer.roles, units: answer.units.map((u) => u ?? "") });
    } catch (error) {
      if (turn.current !== mine) return;
      setMistake(error instanceof Refused ? error.message : String(error));
      if (!said) setFound(undefined);
    }
  };
  return {
    file,
    found,
    words,
    mistake,
    choose: async (chosen: File | undefined) => {
      turn.current++;
      setFound(undefined);
      setMistake("");
      const next = chosen && { name: chosen.name, text: await chosen.text() };
      setFile(next);
      if (next) await read(next);
    },
    change: (next: CurveWords) => {
      setWords(next);
      if (file) void read(file, next);
    },
  };
}

/** A mapping as it is sent: units that were left empty are none. */
export const sentOf = (w: CurveWords) => ({ ...w, roles: [...w.roles] as Found["roles"] as never, units: w.units.map((u) => u.trim() || null) });

export type CurveFile = ReturnType<typeof useCurveFile>;

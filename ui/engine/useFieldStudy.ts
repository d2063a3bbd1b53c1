import { useCallback, useEffect, useRef, useState } from "react";
import type { StudiedField, StudyTold, StudyWish } from "./fieldStudyAsks";

interface Under {
  readonly share: number;
  readonly what: string;
}

/** A field study in a worker of its own, which keeps the fields it has read; stopping it ends the worker. */
export function useFieldStudy() {
  const worker = useRef<Worker>(undefined);
  const [under, setUnder] = useState<Under>();
  const [studied, setStudied] = useState<StudiedField>();
  const [mistake, setMistake] = useState("");
  const stop = useCallback(() => {
    worker.current?.terminate();
    worker.current = undefined;
    setUnder(undefined);
  }, []);
  useEffect(() => stop, [stop]);
  const start = useCallback((wish: StudyWish) => {
    const at = worker.current ?? new Worker(new URL("./fieldStudy.worker.ts", import.meta.url), { type: "module" });
    worker.current = at;
    setMistake("");
    setUnder({ share: 0, what: "Reading the fields" });
    at.onmessage = ({ data }: MessageEvent<StudyTold>) => {
      if (data.kind === "share") return setUnder({ share: data.share, what: data.what });
      setUnder(undefined);
      if (data.kind === "mistake") setMistake(data.sentence);
      else setStudied(data.studied);
    };
    at.onerror = (e) => {
      worker.current = undefined;
      setUnder(undefined);
      setMistake(e.message || "The part that compares fields broke off. Try again.");
    };
    at.postMessage(wish);
  }, []);
  return { under, studied, mistake, start, stop };
}

/** What a worker could not do, in its words. */
export class EngineError extends Error {}

interface Waiting {
  readonly resolve: (answer: never) => void;
  readonly reject: (error: EngineError) => void;
}

interface Answered {
  readonly id: number;
  readonly ok: boolean;
  readonly answer?: unknown;
  readonly sentence?: string;
}

/**
 * Asks a worker by name, any number of questions at once; it is opened with the first and opened again after it broke.
 * @param make opens it
 * @param broke what is said where it says nothing itself
 * @param lost called when it broke: what it knew is gone
 */
export function asker(make: () => Worker, broke: string, lost: () => void = () => {}) {
  let worker: Worker | undefined;
  let next = 1;
  const waiting = new Map<number, Waiting>();
  function open(): Worker {
    if (worker) return worker;
    worker = make();
    worker.onmessage = ({ data }: MessageEvent<Answered>) => {
      const found = waiting.get(data.id);
      waiting.delete(data.id);
      if (data.ok) found?.resolve(data.answer as never);
      else found?.reject(new EngineError(data.sentence ?? broke));
    };
    worker.onerror = (e) => {
      // A worker that broke answers nobody: everyone who waits is told, and the next question opens another.
      for (const w of waiting.values()) w.reject(new EngineError(e.message || broke));
      waiting.clear();
      worker?.terminate();
      worker = undefined;
      lost();
    };
    return worker;
  }
  return (kind: string, ask: () => unknown): Promise<never> =>
    new Promise((resolve, reject) => {
      const id = next++;
      waiting.set(id, { resolve, reject });
      const to = open();
      to.postMessage({ id, kind, ask: ask() });
    });
}

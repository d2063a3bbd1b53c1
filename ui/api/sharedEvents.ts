import { call } from "./call";
import type { RunMessage } from "./runMessage";

// A browser opens six connections to a server: seven tabs with a stream each would leave none for anything else. So one tab listens for all.

const NAME = "tin-ruler-events";

type Told = { readonly caseId: string; readonly event: RunMessage } | { readonly connected: boolean };

interface Ears {
  readonly hear: (event: RunMessage) => void;
  readonly connected: (connected: boolean) => void;
  /** runs that were under way when the stream was there to be heard: whoever takes another one for that missed its end */
  readonly caughtUp: (runs: ReadonlySet<string>) => void;
}

/** Listens at the server until the signal, and tells. */
const listen = (tell: (told: Told) => void, signal: AbortSignal) =>
  new Promise<void>((resolve) => {
    const source = new EventSource("/api/events");
    source.onopen = () => tell({ connected: true });
    source.onerror = () => tell({ connected: false });
    source.onmessage = (m) => tell(JSON.parse(m.data) as Told);
    signal.addEventListener("abort", () => {
      source.close();
      resolve();
    });
  });

/** Hears what happens to the runs of a case, through one stream that all tabs share. @returns what ends it */
export function hearRuns(caseId: string, ears: Ears): () => void {
  const ending = new AbortController();
  const { signal } = ending;
  const others = new BroadcastChannel(NAME);
  const catchUp = () =>
    call("GET /cases/{id}/under-way", { at: { id: caseId } }).then(
      (events) => {
        if (signal.aborted) return;
        for (const e of events as unknown as RunMessage[]) ears.hear(e);
        ears.caughtUp(new Set((events as unknown as RunMessage[]).map((e) => e.runId)));
      },
      () => undefined,
    );
  const take = (told: Told) => {
    if ("connected" in told) {
      ears.connected(told.connected);
      if (told.connected) void catchUp();
    } else if (told.caseId === caseId) ears.hear(told.event);
  };
  others.onmessage = (m: MessageEvent<Told>) => take(m.data);
  const lead = () =>
    listen((told) => {
      others.postMessage(told);
      take(told);
    }, signal);
  // The lock goes to the next tab when this one is closed or goes elsewhere.
  if (navigator.locks) void navigator.locks.request(NAME, { signal }, lead).catch(() => undefined);
  else void lead();
  void catchUp();
  return () => {
    ending.abort();
    others.close();
  };
}

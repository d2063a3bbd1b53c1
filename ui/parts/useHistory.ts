"use client";

import { useEffect, useState } from "react";
import { readHistory } from "@/core/records/history";
import type { HistoryEvidence } from "@/core/records/run";

/** The stored record of a run, thinned for drawing; read anew when `version` changes. */
export function useHistory(runId: string | undefined, version: string): HistoryEvidence | undefined {
  const [found, setFound] = useState<{ runId: string; history: HistoryEvidence }>();
  useEffect(() => {
    if (!runId) return;
    const gone = new AbortController();
    // The state is part of the address so that a finished run is not answered from a cache.
    fetch(`/api/runs/${runId}/history?points=1200&at=${encodeURIComponent(version)}`, { signal: gone.signal })
      .then((r) => (r.ok ? r.json() : undefined))
      .then((written) => written && setFound({ runId, history: readHistory(written) }))
      .catch(() => undefined);
    return () => gone.abort();
  }, [runId, version]);
  return found?.runId === runId ? found?.history : undefined;
}

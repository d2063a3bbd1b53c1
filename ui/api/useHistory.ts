"use client";

import { useMemo } from "react";
import { readHistory } from "@/core/records/history";
import type { HistoryEvidence } from "@/core/records/run";
import { useAsked } from "./useAsked";

/** The stored record of a run, thinned for drawing; read anew when `version` changes. */
export function useHistory(runId: string | undefined, version: string): HistoryEvidence | undefined {
  const { data } = useAsked("GET /runs/{id}/history", runId ? { at: { id: runId } } : undefined, version);
  return useMemo(() => (data ? readHistory(data) : undefined), [data]);
}

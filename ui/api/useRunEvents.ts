"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import type { RunStatus } from "@/core/problems/build/benchJob";
import type { LiveField } from "../field/FieldView";
import type { RunMessage } from "./runMessage";
import { hearRuns } from "./sharedEvents";

export interface LiveRun {
  /** state last heard of */
  readonly state?: string;
  readonly starts?: Readonly<Record<string, number>>;
  readonly rows: readonly (readonly number[])[];
  readonly climbing?: { readonly cells: number; readonly left: number };
  readonly columns?: readonly { readonly role: string; readonly key: string }[];
  readonly field?: LiveField;
  readonly status?: RunStatus;
  readonly iteration?: number;
}

function floats(base64: string): Float32Array {
  const raw = atob(base64);
  const bytes = new Uint8Array(raw.length);
  for (let i = 0; i < raw.length; i++) bytes[i] = raw.charCodeAt(i);
  return new Float32Array(bytes.buffer);
}

/**
 * Listens to the runs of a case; the page is read anew when a run changes its state.
 * @param busy runs the page takes for being under way: one of a moment may end before anybody listens
 */
export function useRunEvents(caseId: string, busy: readonly string[]): { live: Readonly<Record<string, LiveRun>>; connected: boolean } {
  const router = useRouter();
  const [live, setLive] = useState<Record<string, LiveRun>>({});
  const [connected, setConnected] = useState(true);
  const pending = useRef<Record<string, LiveRun>>({});
  const taken = useRef(busy);
  taken.current = busy;
  useEffect(() => {
    let frame = 0;
    const show = () => {
      frame = 0;
      setLive({ ...pending.current });
    };
    const update = (runId: string, change: Partial<LiveRun>) => {
      pending.current[runId] = { ...(pending.current[runId] ?? { rows: [] }), ...change };
      // Many messages, one drawing a frame.
      if (!frame) frame = requestAnimationFrame(show);
    };
    const hear = (m: RunMessage) => {
      if (m.type === "state") {
        update(m.runId, { state: m.state });
        router.refresh();
      } else if (m.type === "climbing") update(m.runId, { climbing: { cells: m.cells, left: m.left } });
      else if (m.type === "field") update(m.runId, { field: { name: m.name, names: m.names, values: floats(m.values) }, iteration: m.iteration });
      else if (m.type === "status") update(m.runId, { status: m.status });
      else {
        // A run that was begun anew tells its record from the start.
        const before = m.from === 0 ? [] : (pending.current[m.runId]?.rows ?? []);
        update(m.runId, { climbing: undefined, starts: m.starts, columns: m.columns, rows: [...before, ...m.rows] });
      }
    };
    const caughtUp = (underWay: ReadonlySet<string>) => {
      if (taken.current.some((id) => !underWay.has(id))) router.refresh();
    };
    const end = hearRuns(caseId, { hear, connected: setConnected, caughtUp });
    return () => {
      end();
      if (frame) cancelAnimationFrame(frame);
    };
  }, [caseId, router]);
  return { live, connected };
}

"use client";

import { keepPreviousData, skipToken, useQuery } from "@tanstack/react-query";
import { meanFields } from "@/core/monitors/phases";
import type { CellField } from "@/core/solver/simulation";
import { addressOf, Refused } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import type { RunView } from "../../view";

/** Fields of a moment of a run in time, or the mean of several; the last ones shown stay while the next are on their way. */
export function useMomentFields(runId: string, moments: readonly KeptMoment[]): readonly CellField[] | undefined {
  const { data } = useQuery({
    queryKey: ["moment", runId, moments.map((m) => m.at)],
    queryFn: moments.length
      ? async ({ signal }) => meanFields(await Promise.all(moments.map((m) => Promise.all(m.fields.map((f) => momentField(runId, m, f, signal))))))
      : skipToken,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return moments.length ? data : undefined;
}

const momentField = (runId: string, m: KeptMoment, of: NamedUnit, signal: AbortSignal): Promise<CellField> =>
  unpackedField(addressOf("/runs/{id}/moments/{at}/{name}", { id: runId, at: String(m.at), name: of.name }), of, signal);

/** The stored fields of a finished run. */
export function useStoredFields(run: RunView): readonly CellField[] | undefined {
  const wanted = run.finished;
  const { data: list } = useAsked("GET /runs/{id}/fields", wanted ? { at: { id: run.id } } : undefined);
  const { data } = useQuery({
    queryKey: ["fields", run.id, list],
    queryFn: list ? ({ signal }) => Promise.all(list.map((f) => fieldOf(run.id, f, signal))) : skipToken,
  });
  return data;
}

interface NamedUnit {
  readonly name: string;
  readonly unit: string;
}

/** A time at which the fields of a run were kept. */
export interface KeptMoment {
  readonly at: number;
  readonly timeS: number;
  readonly fields: readonly NamedUnit[];
}

const fieldOf = (id: string, of: NamedUnit, signal: AbortSignal): Promise<CellField> =>
  unpackedField(`${addressOf("/runs/{id}/fields/{name}", { id, name: of.name })}?precision=single`, of, signal);

async function unpackedField(address: string, { name, unit }: NamedUnit, signal: AbortSignal): Promise<CellField> {
  const answer = await fetch(address, { signal });
  if (!answer.ok || !answer.body) throw new Refused(`The field ${name} cannot be read.`, {});
  const plain = await new Response(answer.body.pipeThrough(new DecompressionStream("gzip"))).arrayBuffer();
  return { name, unit, values: Float64Array.from(new Float32Array(plain)) };
}

"use client";

import { skipToken, useQuery } from "@tanstack/react-query";
import type { CellField } from "@/core/solver/simulation";
import { addressOf, Refused } from "../../api/call";
import { useAsked } from "../../api/useAsked";
import type { RunView } from "../../view";

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

async function fieldOf(id: string, { name, unit }: { name: string; unit: string }, signal: AbortSignal): Promise<CellField> {
  const answer = await fetch(`${addressOf("/runs/{id}/fields/{name}", { id, name })}?precision=single`, { signal });
  if (!answer.ok || !answer.body) throw new Refused(`The field ${name} cannot be read.`, {});
  const plain = await new Response(answer.body.pipeThrough(new DecompressionStream("gzip"))).arrayBuffer();
  return { name, unit, values: Float64Array.from(new Float32Array(plain)) };
}

"use client";

import type { Dependence } from "@/core/assessment/dependence";
import { dependenceGraph } from "@/core/drawing/dependenceGraph";
import { useAsked } from "../../api/useAsked";
import { Drawing } from "../../charts/Drawing";

/** What the report rests on, from files and set-up over runs to verdicts: what is stale is dashed. */
export function RestsOn({ id, version }: { id: string; version: string }) {
  const { data, error } = useAsked("GET /cases/{id}/dependence", { at: { id } }, version);
  const found = data as unknown as Dependence | undefined;
  const stale = found?.nodes.filter((n) => !n.fresh).length ?? 0;
  return (
    <section className="mt-6" aria-label="What it rests on">
      <h2>What it rests on</h2>
      {error ? <p className="mistake">{error.message}</p> : null}
      {found ? (
        <>
          <p className="mb-6 text-[12.5px] text-ink-2">
            {stale ? `${stale} of ${found.nodes.length} are stale: dashed, with the lines that lead to them.` : "Nothing is stale."}
          </p>
          <Drawing svg={dependenceGraph(found, id)} name="what rests on what" wide />
        </>
      ) : null}
    </section>
  );
}

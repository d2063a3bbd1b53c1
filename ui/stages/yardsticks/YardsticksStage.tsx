"use client";

import Link from "next/link";
import { useState } from "react";
import { Empty, StageHeader } from "../../shell/StageHeader";
import type { YardsticksView } from "../../view";
import { AddYardstick } from "./AddYardstick";
import { OneYardstick } from "./OneYardstick";

/** The truths a case is compared with: plotted, tabulated, with range, source and uncertainty. */
export function YardsticksStage({ view }: { view: YardsticksView }) {
  const [adding, setAdding] = useState(false);
  const { yardsticks } = view.evidence;
  return (
    <>
      <StageHeader title="Yardsticks" question="What is the truth, where does it come from, and how far can it be trusted?">
        <Link href={`/library?case=${view.id}`} className="btn quiet">
          From the library
        </Link>
        <button type="button" className="btn quiet" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          {adding ? "Close" : "Add a value"}
        </button>
      </StageHeader>
      {adding ? <AddYardstick view={view} done={() => setAdding(false)} /> : null}
      {yardsticks.length === 0 ? (
        <Empty>
          No yardstick holds for this case. Add a measured or published value with its source, or change the conditions to those of a table.
        </Empty>
      ) : null}
      {yardsticks.map((y) => (
        <OneYardstick key={y.key} y={y} view={view} />
      ))}
    </>
  );
}

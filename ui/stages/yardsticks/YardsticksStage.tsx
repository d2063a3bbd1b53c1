"use client";

import dynamic from "next/dynamic";
import Link from "next/link";
import { useState } from "react";
import { Empty, StageHeader } from "../../shell/StageHeader";
import type { YardsticksView } from "../../view";
import { AddYardstick } from "./AddYardstick";
import { OneYardstick } from "./OneYardstick";

// What opens at a press is fetched at the press.
const BringCurves = dynamic(() => import("../../curves/BringCurves").then((m) => m.BringCurves));

const ReadFigure = dynamic(() => import("../../figure/ReadFigure").then((m) => m.ReadFigure));

type Panel = "value" | "curves" | "figure";

/** The truths a case is compared with: plotted, tabulated, with range, source and uncertainty. */
export function YardsticksStage({ view }: { view: YardsticksView }) {
  const [open, setOpen] = useState<Panel>();
  const toggle = (panel: Panel) => setOpen(open === panel ? undefined : panel);
  const { yardsticks } = view.evidence;
  return (
    <>
      <StageHeader title="Yardsticks" question="What is the truth, where does it come from, and how far can it be trusted?">
        <Link href={`/library?case=${view.id}`} className="btn quiet">
          From the library
        </Link>
        <button type="button" className="btn quiet" onClick={() => toggle("curves")} aria-expanded={open === "curves"}>
          {open === "curves" ? "Close" : "Bring in curves"}
        </button>
        <button type="button" className="btn quiet" onClick={() => toggle("figure")} aria-expanded={open === "figure"}>
          {open === "figure" ? "Close" : "Read a figure"}
        </button>
        <button type="button" className="btn quiet" onClick={() => toggle("value")} aria-expanded={open === "value"}>
          {open === "value" ? "Close" : "Add a value"}
        </button>
      </StageHeader>
      {open === "value" ? <AddYardstick view={view} done={() => setOpen(undefined)} /> : null}
      {open === "figure" ? <ReadFigure view={view} known={view.profiles} done={() => setOpen(undefined)} /> : null}
      {open === "curves" ? <BringCurves view={view} known={view.profiles} done={() => setOpen(undefined)} /> : null}
      {yardsticks.length === 0 ? (
        <Empty>
          No yardstick holds for this case. Take one from the library, bring in measured curves, add a value with its source, or change the conditions
          to those of a table.
        </Empty>
      ) : null}
      {yardsticks.map((y) => (
        <OneYardstick key={y.key} y={y} view={view} />
      ))}
    </>
  );
}

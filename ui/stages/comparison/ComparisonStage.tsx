"use client";

import dynamic from "next/dynamic";
import { Empty, StageHeader } from "../../shell/StageHeader";
import type { ComparisonView } from "../../view";
import { Codes } from "./Codes";
import { ExactField } from "./ExactField";
import { Profiles } from "./Profiles";
import { SingleValues } from "./SingleValues";

// It reads which runs left fields, and draws when two are chosen.
const BetweenFields = dynamic(() => import("./BetweenFields").then((m) => m.BetweenFields), { ssr: false });

/** How far from the truth, and what may be said of it. */
export function ComparisonStage({ view }: { view: ComparisonView }) {
  const { values, profiles, orders, methods } = view.assessment.comparison;
  const finest = view.runs.find((r) => r.id === view.assessment.ladder[0]);
  const compared = view.evidence.quantities.some((q) => values[q.key]?.length);
  if (!compared && !profiles.length && !orders) {
    return (
      <>
        <StageHeader title="Comparison" question="How far from the truth, and what may be said of it?" />
        <Empty>Needs a finished run and a yardstick that holds for this case.</Empty>
        <BetweenFields view={view} />
      </>
    );
  }
  return (
    <>
      <StageHeader title="Comparison" question={`How far is ${finest?.label ?? "the finest run"} from the truth, and what may be said of it?`} />
      {compared ? <SingleValues view={view} /> : null}
      <Codes view={view} />
      {orders ? <ExactField orders={orders} methods={methods} formalOrder={view.evidence.formalOrder} /> : null}
      <Profiles view={view} />
      <BetweenFields view={view} />
    </>
  );
}

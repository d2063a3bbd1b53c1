import type { CaseEvidence } from "../records/case.ts";
import { FINISHED } from "../records/run.ts";
import { type State, worst } from "../remarks/remark.ts";
import type { CaseAssessment } from "./caseAssessment.ts";
import { STAGES, type Stage, type StageLine } from "./stage.ts";

const title = (s: Stage) => s[0].toUpperCase() + s.slice(1);
const plural = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

/** One line of state for every stage of the work that rests on evidence. */
export function stageLines(e: CaseEvidence, a: Omit<CaseAssessment, "stages">): StageLine[] {
  const done = e.runs.filter((r) => FINISHED.includes(r.state)).length;
  const running = e.runs.filter((r) => ["running", "waiting", "followed"].includes(r.state)).length;
  const broken = e.runs.filter((r) => ["diverged", "failed", "interrupted"].includes(r.state)).length;
  const settled = a.settling.filter((s) => s.state === "holds").length;
  const refined = a.refinement.filter((r) => r.result).length;
  const compared = Object.values(a.comparison.values).filter((v) => v.length).length;
  const holds = a.verdicts.filter((v) => v.state === "holds" || v.state === "remark").length;
  const doubts = a.setup.remarks.filter((r) => r.severity !== "note").length;
  const lines: Record<Exclude<Stage, "report">, { line: string; state: State }> = {
    question: {
      line: doubts ? plural(doubts, "doubt") : plural(e.quantities.length, "quantity", "quantities"),
      state: a.setup.state,
    },
    yardsticks: {
      line: e.yardsticks.length ? plural(e.yardsticks.length, "yardstick") : "none yet",
      state: e.yardsticks.length ? (e.yardsticks.some((y) => y.validity.inside) ? "holds" : "fails") : "none",
    },
    meshes: { line: plural(new Set(e.runs.map((r) => r.mesh?.label)).size, "mesh", "meshes"), state: e.runs.length ? "holds" : "none" },
    runs: {
      line: [done && `${done} done`, running && `${running} under way`, broken && `${broken} broken off`].filter(Boolean).join(", ") || "none yet",
      state: done ? (broken ? "remark" : "holds") : broken ? "fails" : "none",
    },
    settling: { line: a.settling.length ? `${settled} of ${a.settling.length}` : "needs a run", state: worst(a.settling.map((s) => s.state)) },
    balance: {
      line: a.balance[0]?.lines.map((l) => l.what.replace(" momentum", "")).join(", ") || "not measured",
      state: worst(a.balance.map((b) => b.state)),
    },
    refinement: {
      line: refined ? `${refined} of ${plural(e.quantities.length, "quantity", "quantities")}` : "needs three meshes",
      state: worst(a.refinement.map((r) => r.state)),
    },
    comparison: {
      line: `${compared} of ${e.quantities.length} done`,
      state: worst(Object.values(a.comparison.values).flatMap((v) => (v[0] ? [v[0].state] : []))),
    },
    verdict: {
      line: holds ? `${holds} of ${e.quantities.length} hold` : (a.verdicts[0]?.word ?? "incomplete"),
      state: worst(a.verdicts.map((v) => v.state)),
    },
  };
  return STAGES.filter((s) => s !== "report").map((stage) => {
    const { line, state } = lines[stage];
    const rests = ["settling", "balance", "refinement", "comparison", "verdict"].includes(stage);
    const aged = a.stale && rests && state !== "none" ? "stale" : state;
    return { stage, title: title(stage), line, state: aged };
  });
}

/** The line of the reports, which rest on the evidence but are none. */
export function reportLine(count: number): StageLine {
  return {
    stage: "report",
    title: title("report"),
    line: count ? `${plural(count, "report")} issued` : "not issued",
    state: count ? "holds" : "none",
  };
}

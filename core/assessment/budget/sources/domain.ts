import { significant } from "../../../formatting/number.ts";
import { domainUncertainty } from "../../../method/refinement/alongDomain.ts";
import type { Found, RuleInput, SourceAssessor } from "./source.ts";

/** What larger domains change, where there are runs in them: of the largest such ladder that has the extent of the finest run. */
function find({ evidence: e, quantity: q, scale, finest, ladders }: RuleInput): Found | undefined {
  if (q.ofDomain) return undefined;
  const own = finest?.made?.domain;
  for (const { axis, runs, quantities } of ladders) {
    const values = quantities.find((x) => x.key === q.key)?.values;
    if (axis !== "domain" || !values || typeof own !== "number") continue;
    const known = runs.flatMap(({ runId, position }, k) => {
      const value = values[k];
      return value === undefined || position === undefined ? [] : [{ runId, extent: 1 / position, value }];
    });
    const at = known.findIndex((k) => Math.abs(k.extent / own - 1) < 1e-9);
    if (known.length < 2 || at < 0) continue;
    const relative =
      domainUncertainty(
        known.map((k) => k.value),
        at,
      ) / scale.value;
    const extents = known.map((k) => significant(k.extent, 3)).join(", ");
    return {
      at: e.runs.find((r) => r.id === known[0].runId)?.finishedAt,
      relative,
      note: `extents of ${extents}; the finest mesh has ${significant(own, 3)}`,
    };
  }
  if (e.kind === "measured") return { note: "no runs with another domain size" };
  return own === undefined ? undefined : { note: "no runs in another extent of the domain" };
}

export const domain: SourceAssessor = {
  key: "domain",
  name: "domain",
  group: "numerical",
  stage: "refinement",
  find,
  settle: ({ broughtIn }) => ({
    sentence: broughtIn
      ? "bring in a run in a larger domain, bound what its edge does, or say that there is no far field"
      : "run a mesh in larger domains, bound what the edge does, or say that there is no far field",
    go: broughtIn ? "runs" : "refinement",
  }),
  effort: 2,
};

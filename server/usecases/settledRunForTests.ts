import type { Store } from "../db/store.ts";
import { listQuantities } from "../repositories/cases.ts";
import type { RunRow } from "../repositories/runs.ts";
import { bringIn } from "./bringIn.ts";

/**
 * Brings in a run of thirty iterations that settles on a value for the first quantity of a case. Records of one value are the same bytes: tests that
 * damage theirs need a value of their own.
 */
export async function bringSettled(opened: Store, caseId: string, value: number, { label = "fine", cells = 10 } = {}): Promise<RunRow> {
  const [q] = await listQuantities(opened.db, caseId);
  const lines = Array.from({ length: 30 }, (_, i) => `${i + 1},${value + 0.5 ** i},${10 * 0.3 ** i}`);
  return bringIn(opened, caseId, {
    history: { name: "h.csv", text: `iteration,${q.name} (N),mass\n${lines.join("\n")}\n` },
    quantities: null,
    label,
    code: "c",
    cells,
    volume: "1 m^3",
    dimension: 3,
    roles: ["iteration", `quantity:${q.key}`, "residual"],
    rowRoles: [],
  });
}

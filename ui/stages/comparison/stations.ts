import type { CaseAssessment } from "@/core/assessment/results/case";
import { extent } from "@/core/numeric/extent";
import type { Profile } from "@/core/records/profile";

export type Compared = CaseAssessment["comparison"]["profiles"][number];

/** One curve of the run the case rests on against one yardstick, with what other codes have there. */
export interface Station {
  readonly leading: Compared;
  readonly own: Profile;
  readonly others: readonly { readonly compared: Compared; readonly own: Profile }[];
}

/** Curves of one yardstick that are counted in the same. */
export interface Group {
  readonly key: string;
  readonly yardstick: string;
  readonly value: string;
  readonly inside: boolean;
  readonly stations: readonly Station[];
}

/** Compared curves by yardstick and by what is drawn over what. */
export function groupsOf(compared: readonly Compared[], profilesOf: Readonly<Record<string, readonly Profile[]>>): Group[] {
  const ownOf = (c: Compared) => profilesOf[c.runId]?.find((p) => p.key === c.profileKey);
  const groups = new Map<string, Group & { stations: Station[] }>();
  for (const leading of compared.filter((c) => c.leading)) {
    const own = ownOf(leading);
    if (!own) continue;
    const key = [leading.yardstickKey, own.value.name, own.value.unit, own.abscissa.name, own.abscissa.unit].join(" | ");
    const group = groups.get(key) ?? { key, yardstick: leading.yardstick, value: own.value.name, inside: leading.inside, stations: [] };
    const others = compared.flatMap((c) => {
      const theirs = !c.leading && c.profileKey === leading.profileKey && c.yardstickKey === leading.yardstickKey ? ownOf(c) : undefined;
      return theirs ? [{ compared: c, own: theirs }] : [];
    });
    group.stations.push({ leading, own, others });
    groups.set(key, group);
  }
  return [...groups.values()];
}

/** Scales that hold everything of all stations: curves, points and their bars. */
export function sharedScale(g: Group): { x: readonly [number, number]; y: readonly [number, number] } | undefined {
  const all = g.stations.flatMap((s) => [s.own, ...s.others.map((o) => o.own)]);
  const points = g.stations.flatMap((s) => s.leading.points);
  const xs = extent([...all.flatMap((p) => p.abscissa.values), ...points.map((p) => p.at)]);
  const ys = extent([
    ...all.flatMap((p) => p.value.values),
    ...points.flatMap((p) => [-1, 1].map((sign) => p.reference + sign * 2 * (p.uReference ?? 0))),
  ]);
  return xs[0] < xs[1] && ys[0] < ys[1] ? { x: padded(xs), y: padded(ys) } : undefined;
}

const padded = ([low, high]: [number, number]): [number, number] => [low - 0.05 * (high - low), high + 0.05 * (high - low)];

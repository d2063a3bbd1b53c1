type Place = readonly [number, number, number];

/** arms of a mark, over the longest side of the room */
const ARM = 0.025;

/** Marks at places: three strokes each, along the axes. */
export function crosses(places: readonly Place[], { low, high }: { readonly low: readonly number[]; readonly high: readonly number[] }): Place[][] {
  const arm = ARM * Math.max(...high.map((v, d) => v - low[d]));
  return places.flatMap((p) => [0, 1, 2].map((d) => ([-arm, arm] as const).map((by) => p.map((v, k) => (k === d ? v + by : v)) as unknown as Place)));
}

/** lanes above the rule in which labels may stand */
const LANES = 4;
const TEXT_WIDTH = 6.1;
/** A label left out hides a name, one across a stem is only ugly, a high lane costs a glance. */
const COST = { unlabelled: 25, crossing: 10, lane: 1, left: 0.1 } as const;
/** Only neighbours compete for room, so few partial layouts need to be kept. */
const KEPT = 64;

/** A place of a label: its lane, its extent along the rule and the side of the pin it stands on; no place has no extent. */
export interface LabelPlace {
  readonly x: number;
  readonly lane: number;
  readonly from: number;
  readonly to: number;
  readonly anchor: "start" | "end";
  readonly labelled: boolean;
}

/** The places open to the label of a pin at x between the ends of the rule, the pointer's column left free; the last is none at all. */
export function placesOf(x: number, name: string, ends: readonly [number, number], pointerX: number | undefined): LabelPlace[] {
  const width = name.length * TEXT_WIDTH + 6;
  const sides = [
    { from: x + 3, to: x + 3 + width, anchor: "start" as const },
    { from: x - 3 - width, to: x - 3, anchor: "end" as const },
  ].filter((s) => s.from >= ends[0] - 4 && s.to <= ends[1] + 4 && !(pointerX !== undefined && s.from < pointerX + 8 && s.to > pointerX - 8));
  const lanes = Array.from({ length: LANES }, (_, lane) => sides.map((s) => ({ x, lane, labelled: true, ...s }))).flat();
  return [...lanes, { x, lane: 0, from: x, to: x, anchor: "start", labelled: false }];
}

/** Whether the stem of one pin runs through the label of another. */
export function crosses(stem: LabelPlace, label: LabelPlace): boolean {
  return label.lane <= stem.lane && label.from < stem.x && stem.x < label.to;
}

/** Whether two labels share room. */
export function touch(a: LabelPlace, b: LabelPlace): boolean {
  return a.labelled && b.labelled && a.lane === b.lane && a.from < b.to && b.from < a.to;
}

/** What a layout costs its reader: infinite where two labels touch. */
export function costOf(places: readonly LabelPlace[]): number {
  return places.reduce((sum, p, k) => sum + costBeside(places.slice(0, k), p), 0);
}

function costBeside(placed: readonly LabelPlace[], p: LabelPlace): number {
  const own = p.labelled ? COST.lane * p.lane + (p.anchor === "end" ? COST.left : 0) : COST.unlabelled;
  return placed.reduce(
    (sum, q) => (touch(p, q) ? Number.POSITIVE_INFINITY : sum + COST.crossing * (Number(crosses(p, q)) + Number(crosses(q, p)))),
    own,
  );
}

/**
 * Chooses a place for the label of each pin so that no two labels touch and as few stems as possible run through a label.
 * Pins in ascending x; pins, ends and pointer in the drawing's units.
 */
export function placeLabels(
  pins: readonly { readonly x: number; readonly name: string }[],
  ends: readonly [number, number],
  pointerX: number | undefined,
): readonly LabelPlace[] {
  let kept: { places: readonly LabelPlace[]; cost: number }[] = [{ places: [], cost: 0 }];
  for (const pin of pins) {
    const open = placesOf(pin.x, pin.name, ends, pointerX);
    kept = kept
      .flatMap((k) => open.map((p) => ({ places: [...k.places, p], cost: k.cost + costBeside(k.places, p) })))
      .filter((k) => Number.isFinite(k.cost))
      .sort((a, b) => a.cost - b.cost)
      .slice(0, KEPT);
  }
  return kept[0].places;
}

import { BOUNDARY_TAKES, LINE_TAKES, VOLUME_TAKES } from "@/core/monitors/takes";
import type { Answer, Input } from "../../api/call";
import type { NamedKind } from "../../forms/entries";

export const WHERE = ["point", "line", "boundary", "volume"] as const;
const TAKES = { point: [], line: LINE_TAKES, boundary: BOUNDARY_TAKES, volume: VOLUME_TAKES } as const;

/** A monitor as it is typed; what was taken on a line, a boundary or the volume is kept apart, so that changing the place loses nothing. */
export interface MonitorEntries extends NamedKind {
  readonly limit: string;
  readonly on: (typeof WHERE)[number];
  readonly field: string;
  readonly takes: { readonly line: string; readonly boundary: string; readonly volume: string };
  readonly boundary: string;
  readonly carried: string;
  readonly x: string;
  readonly y: string;
  readonly x2: string;
  readonly y2: string;
}

type Choices = Answer<"GET /cases/{id}/monitors">;

/** In the middle of the domain, on the first of everything there is. */
export function startEntries({ fields, boundaries, carried, extentM }: Choices): MonitorEntries {
  const [[x0, x1], [y0, y1]] = extentM;
  const middle = (a: number, b: number) => String(Number(((a + b) / 2).toPrecision(6)));
  const [x, y] = [middle(x0, x1), middle(y0, y1)];
  return {
    name: "",
    kind: undefined,
    limit: "2 %",
    on: "point",
    field: fields[0].key,
    takes: { line: LINE_TAKES[0], boundary: BOUNDARY_TAKES[0], volume: VOLUME_TAKES[0] },
    boundary: boundaries[0],
    carried: carried[0] ?? "",
    x,
    y,
    x2: x,
    y2: String(y1),
  };
}

/** What can be taken there: no flow of a carried quantity where none is carried. */
export const takesOn = (on: MonitorEntries["on"], carried: readonly string[]): readonly string[] =>
  TAKES[on].filter((t) => carried.length > 0 || t !== "flow out of a carried quantity");

export const takeOf = (typed: MonitorEntries): string | undefined => (typed.on === "point" ? undefined : typed.takes[typed.on]);

/** The monitor that was typed, for the server to check. */
export function monitorOf(typed: MonitorEntries): Input<"POST /cases/{id}/monitors">["monitor"] {
  const { on, field, boundary, carried } = typed;
  const take = takeOf(typed);
  const at = [Number(typed.x), Number(typed.y)];
  const to = [Number(typed.x2), Number(typed.y2)];
  const said = {
    point: { on, field, at },
    line: { on, field, from: at, to, take },
    volume: { on, field, take },
    boundary: { on, boundary, take, ...(take === "flow out of a carried quantity" ? { carried } : {}) },
  }[on];
  return said as Input<"POST /cases/{id}/monitors">["monitor"];
}

import { useState } from "react";
import { type Calibration, calibrationMistake, type Pixel } from "@/core/figure/calibration";
import type { CurvePlace } from "@/core/figure/readCurve";
import { typedNumber } from "../forms/typedNumber";
import { askFigure } from "./askFigure";
import type { OpenPicture } from "./openPicture";

/** What a click does. */
export const MODES = [
  ["x1", "x axis, first place"],
  ["x2", "x axis, second place"],
  ["y1", "y axis, first place"],
  ["y2", "y axis, second place"],
  ["point", "a point of the curve"],
  ["bar", "end of its error bar"],
  ["trace", "trace the curve of this colour"],
  ["marks", "all marks of this colour"],
  ["crop1", "cut: top left"],
  ["crop2", "cut: bottom right"],
] as const;
export type Mode = (typeof MODES)[number][0];
export type AxisPlace = "x1" | "x2" | "y1" | "y2";

export interface FigureCurve {
  readonly name: string;
  readonly target: string;
  readonly places: readonly CurvePlace[];
}

/** What was typed and clicked of a figure. */
export interface FigureState {
  readonly places: Readonly<Partial<Record<AxisPlace, Pixel>>>;
  readonly values: Readonly<Record<AxisPlace, string>>;
  readonly logX: boolean;
  readonly logY: boolean;
  readonly crop: readonly [number, number, number, number];
  readonly curves: readonly FigureCurve[];
  readonly current: number;
  readonly tolerance: number;
  readonly keep: number;
  readonly reading: number;
  readonly calibrating: number;
  readonly coverage: 1 | 2;
}

const beginning = ({ picture }: OpenPicture): FigureState => ({
  places: {},
  values: { x1: "", x2: "", y1: "", y2: "" },
  logX: false,
  logY: false,
  crop: [0, 0, picture.width - 1, picture.height - 1],
  curves: [{ name: "curve 1", target: "", places: [] }],
  current: 0,
  tolerance: 60,
  keep: 60,
  reading: 0.7,
  calibrating: 0.5,
  coverage: 2,
});

const NEXT: Readonly<Partial<Record<Mode, Mode>>> = { x1: "x2", x2: "y1", y1: "y2", y2: "point", crop1: "crop2", crop2: "point" };
const AXIS_PLACES: readonly Mode[] = ["x1", "x2", "y1", "y2"];

/** The calibration as far as it is there: complete, or what is missing. */
export function calibrationOf(s: FigureState): { readonly calibration: Calibration } | { readonly missing: string } {
  const at = (a: AxisPlace, b: AxisPlace) => [s.places[a], s.places[b]] as const;
  const [x, y] = [at("x1", "x2"), at("y1", "y2")];
  const absent = MODES.slice(0, 4).find(([m]) => !s.places[m as AxisPlace]);
  if (absent || !x[0] || !x[1] || !y[0] || !y[1]) return { missing: `Click a place on the ${absent?.[1] ?? "axes"} whose value is known.` };
  const number = (key: AxisPlace) => typedNumber(s.values[key]);
  const calibration: Calibration = {
    x: { at: [x[0], x[1]], values: [number("x1"), number("x2")], log: s.logX },
    y: { at: [y[0], y[1]], values: [number("y1"), number("y2")], log: s.logY },
  };
  const mistake = calibrationMistake(calibration);
  return mistake ? { missing: mistake } : { calibration };
}

/** Everything a person does with a figure; nothing is stored until it is taken as a yardstick. */
export function useFigure() {
  const [open, setOpen] = useState<OpenPicture>();
  const [told, setTold] = useState<{ readonly state: FigureState; readonly past: readonly FigureState[] }>();
  const [mode, setMode] = useState<Mode>("x1");
  const [said, setSaid] = useState("");
  const state = told?.state;
  const curve = state?.curves[state.current];
  // On what is there by then: a trace is answered late, and nothing that was clicked meanwhile is lost.
  const change = (of: (s: FigureState) => Partial<FigureState>) =>
    setTold((t) => t && { state: { ...t.state, ...of(t.state) }, past: [...t.past, t.state].slice(-100) });
  const put = (part: Partial<FigureState>) => change(() => part);
  const placesOf = (at: number | undefined, of: (places: readonly CurvePlace[]) => readonly CurvePlace[]) =>
    change((s) => ({ curves: s.curves.map((c, i) => (i === at ? { ...c, places: of(c.places) } : c)) }));
  const putPlaces = (places: readonly CurvePlace[]) => placesOf(state?.current, () => places);
  const byColour = async (kind: "trace" | "marks", at: Pixel) => {
    if (!state || !curve) return;
    const found = calibrationOf(state);
    if (kind === "trace" && "missing" in found) {
      setSaid(`Calibrate first: a curve is followed along the x axis. ${found.missing}`);
      return;
    }
    const { crop, tolerance, keep, current } = state;
    try {
      const places =
        kind === "trace" && "calibration" in found
          ? await askFigure("trace", { crop, at, tolerance, keep, calibration: found.calibration })
          : await askFigure("marks", { crop, at, tolerance });
      setSaid(
        places.length
          ? `${places.length} points of that colour.`
          : "Nothing of that colour was found there: raise the tolerance, or click on the curve itself.",
      );
      if (places.length) placesOf(current, (before) => [...before, ...places.map((p) => ({ at: p.at }))]);
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
  };
  return {
    open,
    state,
    mode,
    setMode,
    said,
    put,
    curve,
    putPlaces,
    /** the picture to read; what was read off an earlier one is dropped */
    begin: async (next: OpenPicture) => {
      await askFigure("load", next.picture);
      setOpen(next);
      setTold({ state: beginning(next), past: [] });
      setMode("x1");
      setSaid("");
    },
    undo: told?.past.length
      ? () => setTold((t) => (t?.past.length ? { state: t.past[t.past.length - 1], past: t.past.slice(0, -1) } : t))
      : undefined,
    /** does at a place of the picture what the mode says */
    act: (at: Pixel) => {
      if (!state || !curve) return;
      setSaid("");
      if (AXIS_PLACES.includes(mode)) put({ places: { ...state.places, [mode]: at } });
      else if (mode === "crop1") put({ crop: [at[0], at[1], state.crop[2], state.crop[3]] });
      else if (mode === "crop2") put({ crop: [state.crop[0], state.crop[1], at[0], at[1]] });
      else if (mode === "point") putPlaces([...curve.places, { at }]);
      else if (mode === "bar") {
        const nearest = curve.places.reduce(
          (best, p, i) => (Math.abs(p.at[0] - at[0]) < Math.abs((curve.places[best]?.at[0] ?? 1e9) - at[0]) ? i : best),
          -1,
        );
        if (nearest < 0) setSaid("A bar belongs to a point: click the points first.");
        else putPlaces(curve.places.map((p, i) => (i === nearest ? { ...p, bar: at } : p)));
      } else if (mode === "trace" || mode === "marks") void byColour(mode, at);
      setMode(NEXT[mode] ?? mode);
    },
  };
}

export type Figure = ReturnType<typeof useFigure>;

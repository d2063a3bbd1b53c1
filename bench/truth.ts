import { readPlace } from "../core/figure/calibration.ts";
import { thinTrace, traceCurve } from "../core/figure/trace.ts";
import { compareProfile } from "../core/method/comparison/comparison.ts";
import { cpuSeconds } from "./cpu.ts";
import { say } from "./say.ts";

/** Curves of many stations against as many of a yardstick, with uncertainties and a band. */
function stations(): number {
  const n = 10_000;
  const at = Array.from({ length: n }, (_, i) => i / (n - 1));
  const curve = (k: number, off: number) => at.map((x) => Math.tanh(8 * (x - 0.5 - 0.005 * k)) + off * Math.sin(40 * x));
  const band = { at, band: at.map(() => 0.01) };
  const pairs = Array.from({ length: 40 }, (_, k) => ({
    profile: {
      key: "p",
      name: "p",
      abscissa: { name: "x", unit: "m", values: at },
      value: { name: "v", unit: "m/s", values: curve(k, 0) },
    },
    reference: {
      profileKey: "p",
      abscissa: at.map((x) => 0.001 + 0.998 * x),
      value: curve(k, 0.01),
      standardUncertainty: 0.01,
      systematicUncertainty: 0.005,
      uncertaintyNote: "",
    },
  }));
  const once = () => {
    for (const { profile, reference } of pairs) compareProfile(profile, reference, band);
  };
  once();
  return cpuSeconds(once);
}

/** A curve across a picture of twelve megapixels, traced by its colour. */
function trace(): { seconds: number; places: number; worst: number } {
  const [width, height] = [4000, 3000];
  const rgba = new Uint8ClampedArray(4 * width * height).fill(250);
  const y = (x: number) => 1500 + 900 * Math.sin(x / 500);
  for (let x = 100; x < width - 100; x += 0.1)
    for (let d = -3; d <= 3; d++) {
      const k = 4 * (Math.round(y(x) + d) * width + Math.round(x));
      rgba.set([180, 40, 30, 255], k);
    }
  const calibration = {
    x: {
      at: [
        [100, 2900],
        [3900, 2900],
      ] as const,
      values: [100, 3900] as const,
      log: false,
    },
    y: {
      at: [
        [100, 2900],
        [100, 100],
      ] as const,
      values: [2900, 100] as const,
      log: false,
    },
  };
  let places: ReturnType<typeof traceCurve> = [];
  const taken = cpuSeconds(() => {
    places = thinTrace(
      traceCurve({ picture: { width, height, rgba }, crop: [0, 0, width - 1, height - 1], calibration, colour: [180, 40, 30], tolerance: 60 }),
      500,
    );
  });
  const worst = Math.max(...places.map((p) => Math.abs(readPlace(calibration, p.at)[1] - y(p.at[0]))));
  return { seconds: taken, places: places.length, worst };
}

/** Measures comparing and figure reading. */
export function truth(): void {
  say("## Truth: comparing and reading figures");
  say("");
  say(`40 stations of 10,000 points each compared, with uncertainties and a band: ${stations().toFixed(2)} s of CPU (aim: 0.2).`);
  const t = trace();
  say("");
  say(
    `A curve traced by colour across 12 megapixels: ${t.seconds.toFixed(2)} s of CPU (aim: 1), ${t.places} points, the worst ${t.worst.toFixed(2)} pixels off.`,
  );
  say("");
}

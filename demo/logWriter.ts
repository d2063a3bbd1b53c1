import { appendFileSync, mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { hexahedra } from "../core/dataset/made.ts";
import { writeVtkCells } from "../core/formats/vtk/writeCells.ts";
import { dataFolder } from "../server/config.ts";

/**
 * Plays the made-up code Lintel at work: writes the log of a run line by line into the watched folder, with a restart from an earlier iteration
 * on the way and a column that joins then, and every 40 lines a result file beside it. `npm run log-writer [file] [iterations] [ms between lines]`
 */
const [file = path.join(dataFolder(), "logs", "louvre-overnight.log"), iterations = "400", pause = "150"] = process.argv.slice(2);

/** what the watched quantities settle to */
export const LOG_TRUTH = { reattachmentM: 0.395, dropPa: 11.1 } as const;
const RESTART_AT = 0.4;
const STEP_BACK = 10;

/** One line of the log. */
export function logLine(n: number, withDrop: boolean): string {
  const wobble = 1 + 0.15 * Math.sin(n * 1.7);
  const fall = Math.exp(-n / 22);
  const cells = [
    String(n),
    (wobble * 0.8 * fall).toExponential(4),
    (wobble * 1.3 * fall).toExponential(4),
    (LOG_TRUTH.reattachmentM * (1 - 0.7 * Math.exp(-n / 18))).toFixed(7),
  ];
  if (withDrop) cells.push((LOG_TRUTH.dropPa * (1 + 0.4 * Math.exp(-n / 15))).toFixed(5));
  return cells.map((c) => c.padStart(14)).join(" ");
}

const HEADER = ["iteration", "mass_residual", "x_momentum", "reattachment_length_(m)"];

export function* logText(count: number): Generator<string> {
  const names = (all: readonly string[]) => all.map((n) => n.padStart(14)).join(" ");
  yield `# Lintel 4.1, case louvre, made up`;
  yield names(HEADER);
  const restart = Math.max(STEP_BACK + 1, Math.round(count * RESTART_AT));
  for (let n = 1; n <= restart; n++) yield logLine(n, false);
  yield "# restarted from the last state that was kept";
  yield names([...HEADER, "pressure_drop_(Pa)"]);
  for (let n = restart - STEP_BACK; n <= count; n++) yield logLine(n, true);
}

/** lines between two result files */
export const RESULT_EVERY = 40;

/** The flow in the wind box as it stands after so many iterations, on a coarse block of it: VTK XML, in m. */
export function resultText(n: number): string {
  const settled = 1 - Math.exp(-n / 60);
  const cells = [24, 6, 12] as const;
  const [length, width, height] = [0.6, 0.15, 0.3];
  const values = Array.from({ length: cells[0] * cells[1] * cells[2] }, (_, c) => {
    const [x, z] = [((c % cells[0]) + 0.5) / cells[0], (Math.floor(c / (cells[0] * cells[1])) + 0.5) / cells[2]];
    const behind = settled * Math.exp(-3 * x) * Math.exp(-3 * z);
    return [0.8 * (1 - 1.6 * behind), 0, 0.2 * behind * Math.sin(9 * x)] as const;
  });
  return writeVtkCells(
    hexahedra(cells, (i, j, k) => [(i / cells[0]) * length, (j / cells[1]) * width, (k / cells[2]) * height], [
      { name: "U (m/s)", components: 3, values: Float64Array.from(values.flat()) },
      { name: "p (Pa)", components: 1, values: Float64Array.from(values, ([u, , w]) => 0.5 * 1.274 * (0.64 - u * u - w * w)) },
    ]),
  );
}

if (process.argv[1] && /log-?writer/i.test(process.argv[1])) {
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, "");
  console.log(`Writing ${file}`);
  const lines = logText(Number(iterations));
  let written = 0;
  const timer = setInterval(() => {
    const next = lines.next();
    if (next.done) return clearInterval(timer);
    appendFileSync(file, `${next.value}\n`);
    if (++written % RESULT_EVERY === 0) writeFileSync(`${file.replace(/\.\w+$/, "")}_${String(written).padStart(4, "0")}.vtu`, resultText(written));
  }, Number(pause));
}

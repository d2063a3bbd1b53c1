import { appendFileSync, mkdirSync, writeFileSync } from "node:fs";
import path from "node:path";
import { dataFolder } from "../server/config.ts";

/**
 * Plays the made-up code Lintel at work: writes the log of a run line by line into the watched folder, with a restart from an earlier iteration
 * on the way and a column that joins then. `npm run log-writer [file] [iterations] [ms between lines]`
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

if (process.argv[1] && /log-?writer/i.test(process.argv[1])) {
  mkdirSync(path.dirname(file), { recursive: true });
  writeFileSync(file, "");
  console.log(`Writing ${file}`);
  const lines = logText(Number(iterations));
  const timer = setInterval(() => {
    const next = lines.next();
    if (next.done) clearInterval(timer);
    else appendFileSync(file, `${next.value}\n`);
  }, Number(pause));
}

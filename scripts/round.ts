/**
 * Runs a round of the bench on the running application, waits for it, and says what moved against the version before. Ends with 1 where a figure
 * moved beyond noise, with 2 where a run failed: for a pipeline.
 * npm run round
 * npm run round -- --code Lintel   only says what moved between the versions of another code that are there
 * TIN_RULER_URL names the application, preset http://127.0.0.1:4310.
 */
import { ask } from "./asking.ts";

const at = process.argv.indexOf("--code");
const code = at > 0 ? process.argv[at + 1] : undefined;

interface Line {
  readonly title: string;
  readonly name: string;
  readonly cells: readonly { readonly version: string; readonly change?: number; readonly moved?: boolean }[];
  readonly broke?: { readonly sentence: string };
}
interface View {
  readonly rounds?: { readonly versions: readonly string[]; readonly lines: readonly Line[] };
  readonly sentence: string;
  readonly waiting: number;
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function main(): Promise<void> {
  if (code === undefined) {
    const { runs, had } = await ask<{ runs: string[]; had: number }>("POST", "/rounds", {});
    console.log(`${runs.length} runs queued, ${had} were there already.`);
    for (let before = -1; runs.length; await pause(1000)) {
      const { open, failed } = await ask<{ open: number; failed: string[] }>("POST", "/rounds/state", { runs });
      if (open !== before) console.log(`${open} to go`);
      before = open;
      if (open) continue;
      if (failed.length) throw new Error(`These ended without a result: ${failed.join("; ")}.`);
      break;
    }
  }
  let view = await ask<View>("GET", `/rounds?code=${encodeURIComponent(code ?? "bench")}`);
  for (; view.waiting; await pause(1000)) view = await ask<View>("GET", `/rounds?code=${encodeURIComponent(code ?? "bench")}`);
  console.log(view.sentence);
  const last = view.rounds?.versions.at(-1);
  for (const l of view.rounds?.lines ?? []) {
    const cell = l.cells.find((c) => c.version === last && c.moved);
    if (!cell) continue;
    console.log(`${l.title}, ${l.name}: ${((cell.change ?? 0) * 100).toPrecision(3)} %${l.broke ? `. ${l.broke.sentence}` : ""}`);
    process.exitCode = 1;
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 2;
});

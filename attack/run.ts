/**
 * Attacks the application and writes what was tried, and what it answered, into docs/reliability.md.
 * npm run attack                  all of it, about ten minutes
 * npm run attack -- --quick       a part of it, all kinds in about four minutes, as the tests do; the page is left as it is
 * npm run attack -- kills disks   these alone; their lines of the page are written anew
 */
import { readFileSync, writeFileSync } from "node:fs";
import type { Attack, Finding, Size } from "./attack.ts";
import { callers } from "./callers.ts";
import { database } from "./database.ts";
import { disks, kills, owners } from "./folder.ts";
import { spoiltInputs } from "./inputs.ts";
import { standIns } from "./standIns.ts";

const ATTACKS: Readonly<Record<string, Attack>> = { inputs: spoiltInputs, callers, owners, kills, disks, standIns, database };
const PAGE = "docs/reliability.md";
const WHOLE: Size = { inputs: 10_000, kills: 100, rounds: 10, timed: true };
const QUICK: Size = { inputs: 500, kills: 3, rounds: 1, timed: false };

const words = process.argv.slice(2);
const named = words.filter((w) => !w.startsWith("--"));
const unknown = named.find((n) => !ATTACKS[n]);
if (unknown) throw new Error(`No attack ${unknown}; there are ${Object.keys(ATTACKS).join(", ")}.`);
const size = words.includes("--quick") ? QUICK : WHOLE;

const cell = (text: string) => text.replace(/\|/g, "\\|").replace(/\s+/g, " ");
const row = (f: Finding) => `| ${cell(f.attack)} | ${cell(f.tried)} | ${cell(f.answered)} | ${f.held ? "held" : "**not held**"} |`;

const found: Finding[] = [];
for (const [name, attack] of Object.entries(ATTACKS)) {
  if (named.length && !named.includes(name)) continue;
  for (const f of await attack(size)) {
    found.push(f);
    console.log(row(f));
  }
}
const broken = found.filter((f) => !f.held);
if (broken.length) process.exitCode = 1;
if (size === WHOLE) document(named.length > 0);

/** Writes the page; of single attacks their lines, the others staying as they were. */
function document(some: boolean): void {
  const nameOf = (line: string) => line.split(" | ")[0];
  const now = found.map(row);
  const before = some
    ? readFileSync(PAGE, "utf8")
        .split("\n")
        .filter((line) => /^\| (?!attack |---)/.test(line))
    : [];
  const kept = before.map((line) => now.find((n) => nameOf(n) === nameOf(line)) ?? line);
  const lines = [...kept, ...now.filter((n) => !kept.includes(n))];
  writeFileSync(
    PAGE,
    `# What was done to it, and what it answered

Written by \`npm run attack\`, last on ${new Date().toISOString().slice(0, 10)}, Node ${process.version}, on a production build. Times are of a shared machine.

| attack | tried | answered | |
|---|---|---|---|
${lines.join("\n")}

Tests hold the rest of what was once found: hostile names, formulas and workbooks (\`hostile.test.ts\`), rows told twice and leases lost
(\`benchProtocol.test.ts\`), halves and races (\`store.test.ts\`, \`alone.test.ts\`), damaged blobs (\`damaged.test.ts\`), logs that are replaced
(\`reading.test.ts\`), tasks that hang or need too much memory (\`desk.test.ts\`), seven tabs and kills in a browser (\`e2e/\`).
`,
  );
}

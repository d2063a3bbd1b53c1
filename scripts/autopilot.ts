/**
 * Takes a quantity of a bench case of the running application to an uncertainty, and tells every step.
 * npm run autopilot -- "Lidded box, Re 400" uMin "0.5 %" [cells] [minutes]
 * TIN_RULER_URL names the application, preset http://127.0.0.1:4310.
 */
import { ask } from "./asking.ts";

const [title, quantity, target, cells = "40000", minutes = "10"] = process.argv.slice(2);

interface Pilot {
  readonly id: string;
  readonly state: string;
  readonly reason: string | null;
  readonly steps: readonly { readonly label: string; readonly why: string }[];
}

async function main(): Promise<void> {
  if (!title || !quantity || !target)
    throw new Error('Say which case, quantity and uncertainty: npm run autopilot -- "Lidded box, Re 400" uMin "0.5 %"');
  const cases = await ask<{ id: string; title: string }[]>("GET", "/cases");
  const found = cases.find((c) => c.title === title || c.id === title);
  if (!found) throw new Error(`There is no case "${title}"; there are ${cases.map((c) => c.title).join("; ")}.`);
  const { id } = await ask<{ id: string }>("POST", `/cases/${found.id}/pilots`, {
    quantityKey: quantity,
    target,
    mostCells: Number(cells),
    minutes: Number(minutes),
  });
  for (let told = 0; ; ) {
    const { pilots } = await ask<{ pilots: Pilot[] }>("GET", `/cases/${found.id}/pilots`);
    const own = pilots.find((p) => p.id === id);
    for (const step of own?.steps.slice(told) ?? []) console.log(`${step.label}: ${step.why}`);
    told = own?.steps.length ?? told;
    if (own && own.state !== "under way") {
      console.log(own.reason ?? own.state);
      if (own.state !== "reached") process.exitCode = 1;
      return;
    }
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
}

main().catch((error: Error) => {
  console.error(error.message);
  process.exitCode = 2;
});

import { z } from "zod";
import type { Store } from "../db/store.ts";
import { listSettings, writeSetting } from "../repositories/runs.ts";

export const ReportTemplate = z.object({
  name: z.string().trim().min(1, "Name the template.").max(60),
  blocks: z.array(z.string().max(40)).max(30),
  text: z.string().max(20_000),
});
export type ReportTemplate = z.infer<typeof ReportTemplate>;

const PREFIX = "report-template:";

/** Compositions that were kept, by name; one that cannot be read any more is left out. */
export async function reportTemplates(opened: Store): Promise<ReportTemplate[]> {
  const kept = (await listSettings(opened.db)).filter((s) => s.key.startsWith(PREFIX));
  return kept
    .flatMap((s) => {
      const found = ReportTemplate.safeParse(parsed(s.value));
      return found.success && found.data.blocks.length ? [found.data] : [];
    })
    .sort((a, b) => a.name.localeCompare(b.name));
}

/** A column of JSON gives a text that is JSON itself back as what it says. */
const parsed = (value: unknown): unknown => {
  if (typeof value !== "string") return value;
  try {
    return JSON.parse(value);
  } catch {
    return undefined;
  }
};

/** Keeps a composition under its name, in the place of one that had it; without chapters the name is forgotten. */
export async function keepTemplate(opened: Store, template: ReportTemplate): Promise<void> {
  await writeSetting(opened.db, `${PREFIX}${template.name}`, JSON.stringify(template));
}

import type { ColumnRole } from "./columnRoles.ts";

/** One column of a way of reading files. */
export interface RecipeColumn {
  readonly name: string;
  readonly role: string;
  readonly unit?: string;
  readonly quantity?: string;
}

interface Named {
  readonly key: string;
  readonly name: string;
}

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase();

/**
 * Roles and units a recipe gives to the columns of a file; undefined when the file lacks a column the recipe reads, or the case one of its quantities.
 * Columns the recipe does not know are left out.
 */
export function applyRecipe(
  columns: readonly RecipeColumn[],
  header: readonly string[],
  quantities: readonly Named[],
): { roles: ColumnRole[]; units: (string | undefined)[] } | undefined {
  const roles = header.map((): ColumnRole => "ignore");
  const units = header.map((): string | undefined => undefined);
  for (const c of columns) {
    if (c.role === "ignore") continue;
    const at = header.findIndex((h) => same(h, c.name));
    if (at < 0) return undefined;
    if (c.role.startsWith("quantity:")) {
      const key = c.role.slice("quantity:".length);
      const found = quantities.find((q) => same(q.name, c.quantity ?? "")) ?? quantities.find((q) => q.key === key && c.quantity === undefined);
      if (!found) return undefined;
      roles[at] = `quantity:${found.key}`;
    } else roles[at] = c.role as ColumnRole;
    units[at] = c.unit;
  }
  return { roles, units };
}

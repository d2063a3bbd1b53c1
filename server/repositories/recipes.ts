import { asc, eq, isNull } from "drizzle-orm";
import { type RecipeData, recipe } from "../db/schema.ts";
import type { Db } from "../db/store.ts";

export type RecipeRow = typeof recipe.$inferSelect;

export const listRecipes = (db: Db): Promise<RecipeRow[]> => db.select().from(recipe).where(isNull(recipe.deletedAt)).orderBy(asc(recipe.name));

/** Keeps a recipe; one of the same name is replaced. */
export async function saveRecipe(db: Db, name: string, data: RecipeData): Promise<void> {
  const old = (await listRecipes(db)).find((r) => r.name === name);
  if (old) await db.update(recipe).set({ data }).where(eq(recipe.id, old.id));
  else await db.insert(recipe).values({ name, data });
}

export async function markRecipe(db: Db, id: string, deletedAt: Date | null): Promise<void> {
  await db.update(recipe).set({ deletedAt }).where(eq(recipe.id, id));
}

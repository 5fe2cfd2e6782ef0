import type { MoveGroup } from '@skipback/core/moves/move';
import { GROUPED_RECIPES, OUR_RECIPES } from '@skipback/core/recipe/ours';
import { readRecipe, recipeText } from '@skipback/core/recipe/read';
import { type Recipe, RecipeSchema } from '@skipback/core/recipe/recipe';
import { type RecipeRecord, database } from '@skipback/media/storage/database';
import { download, fileName } from '../state/download';
import { freshId } from '../state/ids';
import { useLive } from '../state/live';

/** The ending of a recipe's file. */
export const RECIPE_EXTENSION = '.recipe.json';

/** A recipe in the gallery: one of ours, or one that was saved here. */
export interface ListedRecipe {
  readonly id: string;
  readonly recipe: Recipe;
  readonly own: boolean;
  /** What it is for; own ones are by themselves. */
  readonly group: MoveGroup | 'own';
}

const OURS: readonly ListedRecipe[] = OUR_RECIPES.map((recipe) => ({
  ...{ id: `ours ${recipe.name}`, recipe, own: false },
  group: GROUPED_RECIPES.find((r) => r.recipe === recipe)!.group,
}));

/** Recipes kept in this browser, newest first; what can no longer be read is left where it is and not listed. */
async function kept(): Promise<ListedRecipe[]> {
  const records = await database.recipes.orderBy('savedAt').reverse().toArray();
  return records.flatMap(({ id, document }) => {
    const read = RecipeSchema.safeParse(document);
    return read.success ? [{ id, recipe: read.data, own: true, group: 'own' as const }] : [];
  });
}

const keptQuery = { queryKey: ['recipes'], queryFn: kept };
const withOurs = (own: readonly ListedRecipe[]): readonly ListedRecipe[] => [...own, ...OURS];

/** All recipes there are: own ones first. */
export function useRecipes(): readonly ListedRecipe[] {
  return useLive(keptQuery, withOurs).data ?? OURS;
}

/** Keeps a recipe; one of its name of before is replaced. Gives what undoes that. Throws where nothing can be kept. */
export async function keepRecipe(recipe: Recipe): Promise<() => Promise<void>> {
  const before = (await database.recipes.toArray()).find((r) => r.document.name === recipe.name);
  const record: RecipeRecord = { id: before?.id ?? freshId(), savedAt: Date.now(), document: recipe };
  await database.recipes.put(record);
  return async () => {
    if (before) await database.recipes.put(before);
    else await database.recipes.delete(record.id);
  };
}

/** Takes a kept recipe away; gives what puts it back. */
export async function removeRecipe(id: string): Promise<() => Promise<void>> {
  const record = await database.recipes.get(id);
  await database.recipes.delete(id);
  return async () => {
    if (record) await database.recipes.put(record);
  };
}

export const isRecipeFile = (file: File): boolean => file.name.toLowerCase().endsWith('.json');

/** Keeps the recipe of a file; gives its name, or the sentence that says why not. */
export async function readRecipeFile(file: File): Promise<{ name: string } | { sentence: string }> {
  const read = readRecipe(await file.text().catch(() => ''));
  if (!read.ok) return { sentence: `${file.name}: ${read.sentence}` };
  try {
    await keepRecipe(read.recipe);
  } catch {
    return {
      sentence: `The browser would not keep ${read.recipe.name}: its storage is full or switched off.`,
    };
  }
  return { name: read.recipe.name };
}

/** Hands a recipe out as a file. */
export const saveRecipeFile = (recipe: Recipe): void =>
  download(
    new Blob([recipeText(recipe)], { type: 'application/json' }),
    `${fileName(recipe.name)}${RECIPE_EXTENSION}`,
  );

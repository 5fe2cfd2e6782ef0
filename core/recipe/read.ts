import { z } from 'zod';
import { foreignJson } from '../foreign';
import { RECIPE_VERSION, type Recipe, RecipeSchema } from './recipe';

/** Characters a recipe's file has at most: a colour table is the longest thing in one. */
export const MOST_RECIPE_TEXT = 4_000_000;

export type ReadRecipe =
  | { readonly ok: true; readonly recipe: Recipe }
  | { readonly ok: false; readonly sentence: string };

/** A recipe from a file's text, whole, or the sentence that says why not: half a recipe would be another one. */
export function readRecipe(text: string): ReadRecipe {
  const foreign = foreignJson(text, 'recipe', MOST_RECIPE_TEXT);
  if (!foreign.ok) return foreign;
  const head = z.object({ format: z.string(), version: z.number() }).safeParse(foreign.data);
  if (!head.success || head.data.format !== 'skip-back-recipe')
    return { ok: false, sentence: 'This is not a Skip Back recipe.' };
  if (head.data.version > RECIPE_VERSION)
    return {
      ok: false,
      sentence: `This recipe was saved by a newer version (${head.data.version}); this one reads up to ${RECIPE_VERSION}.`,
    };
  const parsed = RecipeSchema.safeParse(foreign.data);
  if (parsed.success) return { ok: true, recipe: parsed.data };
  const place = parsed.error.issues[0]?.path.join(' › ') || 'its beginning';
  return { ok: false, sentence: `This recipe is damaged at "${place}". It is not read.` };
}

/** A recipe as its file's text. */
export const recipeText = (recipe: Recipe): string => `${JSON.stringify(recipe, null, 2)}\n`;

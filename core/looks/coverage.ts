import type { Recipes } from './recipes';
import { treatmentById } from './registry';

/**
 * What of a result's recipes applies to how much of each point is there: mixtures of frames, dissolves, and the treatments
 * that move, blur or repeat the picture. Colours, regions found by colour, and what is laid over leave it as it is.
 */
export const coverageRecipes = (recipes: Recipes): Recipes => ({
  ...recipes,
  stacks: recipes.stacks.map((stack) =>
    stack.filter(({ look, matte }) => treatmentById(look)?.shapes && !matte),
  ),
  tables: {},
});

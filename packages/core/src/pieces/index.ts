export { cut, LEAST_BYTES, MOST_BYTES, WANTED_BYTES } from './cut.ts';
export { follow, writeRecipe, type Part, type Recipe } from './recipe.ts';

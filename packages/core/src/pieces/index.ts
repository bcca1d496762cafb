export { cut, LEAST_BYTES, MOST_BYTES, WANTED_BYTES } from './cut.ts';
export { follow, recipe, type Part, type Recipe } from './recipe.ts';

/** Entry of a worker thread; piscina calls the exports by name. */
export { checkPages as check, compilePages as compile, findTouches as find, readAnswer as crawled, readFiles as read, relinkAnswer as relink } from './calls.ts';

/** Entry of a worker thread; piscina calls the exports by name. */
export { checkPages as check, compilePages as compile, findTouches as find, readFiles as read } from './calls.ts';

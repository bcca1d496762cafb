/** Entry of a worker thread; piscina calls the exports by name. */
export { compilePages as compile, readFiles as read } from './calls.ts';

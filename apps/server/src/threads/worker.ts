/** Entry of a worker thread; piscina calls the exports by name. */
export * from './calls.ts';

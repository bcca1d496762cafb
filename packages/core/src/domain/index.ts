/** Finding a name: reading what is typed, what it is worth, what else there is, what it costs. */
export * from './alternatives.ts';
export * from './cost.ts';
export * from './idn.ts';
export * from './messages/index.ts';
export * from './parts.ts';
export * from './score.ts';

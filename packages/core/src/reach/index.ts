/** How a visitor reaches a site, link by link. */
export * from './certificate.ts';
export * from './chain.ts';
export * from './day.ts';
export * from './linkMessage.ts';
export * from './measured.ts';
export { moveSteps, type MoveFacts, type MoveState, type MoveStep } from './move.ts';

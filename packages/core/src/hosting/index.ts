/** Choosing a host: what fits, what it costs, how far it is. */
export * from './distance.ts';
export { planLack, type PlanLackMessage } from './messages.ts';
export * from './plan.ts';

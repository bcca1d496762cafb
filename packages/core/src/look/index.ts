export { lookParts, type LookSources } from './look.ts';

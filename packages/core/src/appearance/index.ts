export { listAppearanceParts, type AppearanceSources } from './appearance.ts';

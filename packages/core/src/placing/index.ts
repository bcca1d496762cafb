export { mergeOrder, placeAmong } from './order.ts';

export { mergedOrder, placeAmong } from './order.ts';

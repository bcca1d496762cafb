/** How the state of a link is drawn, in the chain and beside a domain's name. */
import type { ChainLink } from '@fastigium/contracts/api/address';
import type { Mark } from '../../logic/marks.ts';

export const LINK_MARKS: Readonly<Record<ChainLink['state'], Mark>> = {
  right: 'verdigris',
  moving: 'ochre',
  broken: 'madder',
  waiting: 'dashed',
};

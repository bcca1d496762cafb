import type { OldSource } from '@fastigium/contracts/api/redirects';

/** A log and what the live site is asked for say nothing of whether anything was ever there. */
export const isListed = (source: OldSource): boolean => source !== 'log' && source !== 'live';

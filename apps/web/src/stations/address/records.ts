/** Records as they are shown: names by their place in the zone, long ones whole. */
import { relativeName } from '@fastigium/core/dns';

export const atName = (name: string, zone: string): string => relativeName(name, zone).replace(/\.$/, '');

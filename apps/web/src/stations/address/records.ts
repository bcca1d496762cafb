/** Records as they are shown: names by their place in the zone, long ones whole. */
import { relativiseName } from '@fastigium/core/dns';

export const formatName = (name: string, zone: string): string => relativiseName(name, zone).replace(/\.$/, '');

/** English. */
import type { Catalogue } from '../catalogue.ts';
import { ofServer } from './ofServer.ts';
import { ofSites } from './ofSites.ts';

export const english: Catalogue<string> = { ...ofSites, ...ofServer };

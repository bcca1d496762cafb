/** English. */
import type { Catalogue } from '../catalogue.ts';
import { entrance } from './entrance.ts';
import { ofSites } from './ofSites.ts';

export const english: Catalogue<string> = { ...entrance, ...ofSites };

/** English. */
import type { Catalogue } from '../catalogue.ts';
import { entrance } from './entrance.ts';
import { ofServer } from './ofServer.ts';
import { ofSites } from './ofSites.ts';

export const english: Catalogue<string> = { ...entrance, ...ofSites, ...ofServer };

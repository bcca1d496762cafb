/** Real sites that nobody here wrote, from Debian's packages and the registry; installed by the commands that use them. */
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

export type Files = Readonly<Record<string, Uint8Array>>;

export interface RealSite {
  readonly name: string;
  readonly folder: string;
  /** Directories of it that are too large to be asked for file by file. */
  readonly without?: readonly string[];
}

const module_ = (path: string) => new URL(`../node_modules/${path}`, import.meta.url).pathname;

export const REAL_SITES: readonly RealSite[] = [
  { name: 'developers-reference', folder: '/usr/share/developers-reference' },
  { name: 'debian-policy', folder: '/usr/share/doc/debian-policy' },
  { name: 'debian-reference-en', folder: '/usr/share/debian-reference' },
  { name: 'sqlite3-doc', folder: '/usr/share/doc/sqlite3' },
  { name: 'postgresql-doc', folder: '/usr/share/doc/postgresql-doc-15/html' },
  { name: 'python3-doc', folder: '/usr/share/doc/python3.11/html', without: ['_sources'] },
  { name: 'startbootstrap-creative', folder: module_('startbootstrap-creative/dist') },
  { name: 'startbootstrap-resume', folder: module_('startbootstrap-resume/dist') },
  { name: 'startbootstrap-simple-sidebar', folder: module_('startbootstrap-simple-sidebar/dist') },
  { name: 'startbootstrap-sb-admin-2', folder: module_('startbootstrap-sb-admin-2'), without: ['vendor', 'scss'] },
];

export function realSite(name: string): RealSite {
  const site = REAL_SITES.find((each) => each.name === name);
  if (!site) throw new Error(`There is no site called ${name} in the corpus.`);
  return site;
}

/** The site's files as they lie there, links followed; what is packed or hidden is no part of it. */
export function filesOf({ folder, without = [] }: RealSite): Files {
  if (!existsSync(folder)) throw new Error(`${folder} is not there; the test command installs it.`);
  const out: Record<string, Uint8Array> = {};
  const walk = (path: string): void => {
    for (const name of readdirSync(join(folder, path)).sort()) {
      const inside = path === '' ? name : `${path}/${name}`;
      if (name.startsWith('.') || name.endsWith('.gz') || without.includes(inside)) continue;
      const stat = statSync(join(folder, inside), { throwIfNoEntry: false });
      if (stat?.isDirectory()) walk(inside);
      else if (stat?.isFile() && stat.size > 0) out[inside] = readFileSync(join(folder, inside));
    }
  };
  walk('');
  return out;
}

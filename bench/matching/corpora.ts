/** Real sites that nobody here wrote, from Debian's documentation packages, as pages with title and text. */
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import { findMainElement, parseForReading, readDocument, collectText } from '@fastigium/core/html';
import type { MapPage } from './maps.ts';

export interface Corpus {
  readonly name: string;
  readonly pages: readonly MapPage[];
}

const FOLDERS: Readonly<Record<string, string>> = {
  'sqlite3-doc': '/usr/share/doc/sqlite3',
  'debian-policy': '/usr/share/doc/debian-policy/policy.html',
  'developers-reference': '/usr/share/developers-reference',
  'python3-doc': '/usr/share/doc/python3-doc/html',
  'python-django-doc': '/usr/share/doc/python-django-doc/html',
  'postgresql-doc-15': '/usr/share/doc/postgresql-doc-15/html',
  'apache2-doc': '/usr/share/doc/apache2-doc/manual/en',
  'git-doc': '/usr/share/doc/git/html',
};
/** As much of a text as a listing or a crawl usually keeps. */
const TEXT_LETTERS = 600;
const MOST_PAGES = 1200;

/** Those that are installed; packages to install are the names. */
export function corpora(): Corpus[] {
  return Object.entries(FOLDERS)
    .filter(([, folder]) => existsSync(folder))
    .map(([name, folder]) => ({ name, pages: pagesIn(folder) }));
}

export const CORPUS_PACKAGES = Object.keys(FOLDERS);

function pagesIn(folder: string): MapPage[] {
  const pages: MapPage[] = [];
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !/\.html?(\.en)?$/.test(entry.name) || pages.length >= MOST_PAGES) continue;
    const file = join(entry.parentPath, entry.name);
    const document = parseForReading(readFileSync(file));
    const { title } = readDocument(document);
    const text = collectText(findMainElement(document) ?? document.root);
    if (title === undefined || title === '') continue;
    pages.push({ url: `/${relative(folder, file).replace(/\.en$/, '')}`, title, text: text.slice(0, TEXT_LETTERS) });
  }
  return pages;
}

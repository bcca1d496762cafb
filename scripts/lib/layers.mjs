/** Which part of a folder stands on which, by the imports between their files: in layers, or with the circles there are. */
import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';

const IMPORTED = /(?:from|import)\s*\(?\s*'(\.[^']+)'/g;

function sourcesIn(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(ts|vue)$/.test(entry.name) && !entry.name.endsWith('.test.ts'))
    .map((entry) => join(entry.parentPath, entry.name));
}

/**
 * @param folder whose subfolders are the parts; a file of its own is none
 * @param {(path: string) => string | undefined} partOf the part a path within the folder belongs to
 * @returns {Map<string, Map<string, string[]>>} for each part those it imports from, each with the imports
 */
export function importsBetween(folder, partOf) {
  const between = new Map();
  for (const file of sourcesIn(folder)) {
    const part = partOf(relative(folder, file));
    if (part === undefined) continue;
    const others = between.get(part) ?? new Map();
    between.set(part, others);
    for (const [, name] of readFileSync(file, 'utf8').matchAll(IMPORTED)) {
      const target = relative(folder, resolve(dirname(file), name));
      const other = target.startsWith('..') ? undefined : partOf(target);
      if (other === undefined || other === part) continue;
      others.set(other, [...(others.get(other) ?? []), `${relative(folder, file)} → ${target}`]);
    }
  }
  return between;
}

/**
 * Parts whose imports are all in layers below, lowest first; what is left stands in circles.
 *
 * @param {Map<string, Map<string, string[]>>} between
 * @returns {{ layers: string[][], circles: string[] }}
 */
export function layersOf(between) {
  const layers = [];
  const placed = new Set();
  for (;;) {
    const next = [...between]
      .filter(([part, others]) => !placed.has(part) && [...others.keys()].every((other) => placed.has(other)))
      .map(([part]) => part)
      .sort();
    if (next.length === 0) return { layers, circles: [...between.keys()].filter((part) => !placed.has(part)).sort() };
    layers.push(next);
    for (const part of next) placed.add(part);
  }
}

/** The server's features, each a folder. */
export const featureImports = (root) =>
  importsBetween(join(root, 'apps/server/src/features'), (path) =>
    path.includes('/') ? path.slice(0, path.indexOf('/')) : undefined,
  );

/** The web application's parts; each station is one. */
export const webImports = (root) =>
  importsBetween(join(root, 'apps/web/src'), (path) => /^(?:stations\/\w+|\w+)(?=\/)/.exec(path)?.[0]);

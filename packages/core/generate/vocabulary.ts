/**
 * Writes src/structured/vocabulary.json: the types and properties of schema.org as the package schema-dts has
 * them. Run by `npm run generate -w packages/core`.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { vocabularyOf } from './vocabularyOf.ts';

const source = readFileSync(
  createRequire(import.meta.url)
    .resolve('schema-dts')
    .replace(/schema\.js$/, 'schema.d.ts'),
  'utf8',
);
const vocabulary = vocabularyOf(source);
// A term a line, so that a newer vocabulary shows what it changes.
const part = ([name, terms]: [string, object]) =>
  `${JSON.stringify(name)}: {\n${Object.entries(terms)
    .map(([term, value]) => `${JSON.stringify(term)}: ${JSON.stringify(value)}`)
    .join(',\n')}\n}`;
writeFileSync(
  new URL('../src/structured/vocabulary.json', import.meta.url),
  `{\n${Object.entries(vocabulary).map(part).join(',\n')}\n}\n`,
);
process.stdout.write(
  `${Object.keys(vocabulary.types).length} types, ${Object.keys(vocabulary.properties).length} properties\n`,
);

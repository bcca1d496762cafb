import { parse } from '@formatjs/icu-messageformat-parser';
import vue from '@vitejs/plugin-vue';
import { readFileSync } from 'node:fs';
import { defineConfig, type Plugin } from 'vite';
import vuetify from 'vite-plugin-vuetify';
import { isPlain, type Catalogue } from '../../packages/words/src/catalogue.ts';
import { stretch, stretchedText } from '../../packages/words/src/stretched.ts';
import { ofSites } from '../../packages/words/src/en/ofSites.ts';

const MESSAGES = [{ file: 'ofSites', words: ofSites }] as const;

/**
 * The patterns of catalogues read here, so that the application comes without the reader.
 * @param isStretched for tests: everything a third longer
 */
const readPatterns = (isStretched: boolean): Plugin => ({
  name: 'read-patterns',
  enforce: 'pre',
  load(id) {
    const found = MESSAGES.find(({ file }) => id.endsWith(`/packages/words/src/en/${file}.ts`));
    if (found) return `export const ${found.file} = ${asScript(found.words, true, isStretched)};`;
    if (id.endsWith('.en.json'))
      return `export default ${asScript(JSON.parse(readFileSync(id, 'utf8')), false, isStretched)};`;
    return undefined;
  },
  // What is read already is no JSON any more.
  transform: (code, id) => (id.endsWith('.en.json') ? { code, map: null, moduleType: 'js' } : undefined),
});

/** JSON in a string is read several times as fast as the same as a literal. */
function asScript(catalogue: Catalogue<string>, ignoreTag: boolean, isStretched: boolean): string {
  const readPattern = (pattern: string) => {
    if (isPlain(pattern)) return isStretched ? stretchedText(pattern) : pattern;
    const elements = parse(pattern, { ignoreTag });
    return isStretched ? stretch(elements) : elements;
  };
  const read = Object.entries(catalogue).map(([subject, words]) => [
    subject,
    Object.fromEntries(Object.entries(words).map(([name, pattern]) => [name, readPattern(pattern)])),
  ]);
  return `JSON.parse(${JSON.stringify(JSON.stringify(Object.fromEntries(read)))})`;
}

/** What packages bring with every page and no browser of ours asks for: schemas as JSON Schema, and calendars. */
const UNASKED = [
  /\/zod\/v4\/core\/(to-json-schema|json-schema-processors)\.js$/,
  /\/vuetify\/lib\/composables\/date\/adapters\/vuetify\.js$/,
];

/** In its place stand functions of the same names that do nothing; a name that is missing ends the build. */
const leaveOut: Plugin = {
  name: 'leave-out',
  enforce: 'pre',
  apply: 'build',
  load(id) {
    if (!UNASKED.some((each) => each.test(id))) return undefined;
    const source = readFileSync(id, 'utf8');
    const names = [
      ...source.matchAll(/^export (?:function|const|class) (\w+)/gm),
      ...source.matchAll(/^export \{ \w+ as (\w+) \};/gm),
    ].map(([, name]) => name);
    return names.map((name) => `export function ${name}() {}`).join('\n');
  },
};

export default defineConfig(({ mode }) => ({
  plugins: [leaveOut, readPatterns(mode === 'stretched'), vue(), vuetify({ autoImport: true })],
  resolve: {
    alias: [
      { find: /^@formatjs\/icu-messageformat-parser$/, replacement: '@formatjs/icu-messageformat-parser/no-parser.js' },
    ],
  },
  build: {
    target: 'es2022',
    // Fonts as files: the content policy allows no data: fonts, and a cached file is not sent twice.
    assetsInlineLimit: 0,
    reportCompressedSize: false,
  },
  server: { proxy: { '/api': 'http://localhost:4300' } },
}));

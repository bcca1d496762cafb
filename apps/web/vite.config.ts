import { parse } from '@formatjs/icu-messageformat-parser';
import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';
import vuetify from 'vite-plugin-vuetify';
import { english } from '../../packages/words/src/en/index.ts';

/** The patterns of a catalogue read here, so that the application comes without the reader. */
const readPatterns: Plugin = {
  name: 'read-patterns',
  enforce: 'pre',
  load(id) {
    if (!id.endsWith('/packages/words/src/en/index.ts')) return undefined;
    const read = Object.entries(english).map(([subject, words]) => [
      subject,
      Object.fromEntries(Object.entries(words).map(([name, pattern]) => [name, parse(pattern, { ignoreTag: true })])),
    ]);
    return `export const english = JSON.parse(${JSON.stringify(JSON.stringify(Object.fromEntries(read)))});`;
  },
};

export default defineConfig({
  plugins: [readPatterns, vue(), vuetify({ autoImport: true })],
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
});

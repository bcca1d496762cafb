/**
 * Writes src/head/titleFont.json: advance widths and kerning of Arimo Regular, whose letters are as wide
 * as those of the fonts most result pages are set in. Run by `npm run generate -w packages/core`.
 */
import * as fontkit from 'fontkit';
import { readFileSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';

const require = createRequire(import.meta.url);
const folder = join(require.resolve('@fontsource/arimo/package.json'), '..');
/** In the order a browser looks for a letter: each letter is in one subset. */
const SUBSETS = ['latin', 'latin-ext', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext', 'vietnamese'];

const ranges = JSON.parse(readFileSync(join(folder, 'unicode.json'), 'utf8')) as Record<string, string>;
const advances: Record<string, number> = {};
const kerning: Record<string, number> = {};
for (const subset of SUBSETS) {
  const font = fontkit.openSync(join(folder, 'files', `arimo-${subset}-400-normal.woff2`)) as fontkit.Font;
  const inRange = rangeTest(ranges[subset] ?? '');
  const letters = font.characterSet.filter(
    (code) => code >= 0x20 && inRange(code) && !(String.fromCodePoint(code) in advances),
  );
  for (const code of letters)
    advances[String.fromCodePoint(code)] = Math.round(font.glyphForCodePoint(code).advanceWidth);
  for (const a of letters) {
    for (const b of letters) {
      const pair = String.fromCodePoint(a, b);
      // Marks are placed, not kerned.
      if (/\p{M}/u.test(pair)) continue;
      const { glyphs, positions } = font.layout(pair);
      if (glyphs.length !== 2) continue;
      const kern = Math.round((positions[0]?.xAdvance ?? 0) - (glyphs[0]?.advanceWidth ?? 0));
      if (kern !== 0) kerning[pair] = kern;
    }
  }
}

function rangeTest(text: string): (code: number) => boolean {
  const spans = text.split(',').map((part) =>
    part
      .trim()
      .replace(/^U\+/, '')
      .split('-')
      .map((hex) => parseInt(hex, 16)),
  );
  return (code) => spans.some(([from = 0, to = from]) => code >= from && code <= to);
}

// Letters by width, and pairs by their first letter and kerning, so that the file stays small.
const byWidth = new Map<number, string>();
for (const [letter, width] of Object.entries(advances)) byWidth.set(width, (byWidth.get(width) ?? '') + letter);
const pairs: Record<string, Record<string, string>> = {};
for (const [pair, kern] of Object.entries(kerning)) {
  const [first = '', second = ''] = [...pair];
  const row = (pairs[first] ??= {});
  row[kern] = (row[kern] ?? '') + second;
}
const target = new URL('../src/head/titleFont.json', import.meta.url);
writeFileSync(
  target,
  `${JSON.stringify({ unitsPerEm: 2048, letters: Object.fromEntries([...byWidth].map(([width, letters]) => [width, letters])), pairs })}\n`,
);
process.stdout.write(`${Object.keys(advances).length} letters, ${Object.keys(kerning).length} pairs\n`);

/**
 * A site of any size, for load: `npm run demo:large -- 10000 [folder]` writes that many files. Pages
 * form a tree of sections, link to their parent, their neighbours and the front page, and hold a few
 * paragraphs each, so that sizes and links are like a real site's.
 */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';

const WORDS =
  'moor dome lens brass cloud dusk heather gate lamp meter shadow orbit crater map bus winter window signal stone ridge north clock glass wheel path'.split(
    ' ',
  );

/** Words of a page, the same for the same number. */
function sentence(seed: number, length: number): string {
  let state = (seed * 2654435761) >>> 0;
  const words = Array.from({ length }, () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return WORDS[state % WORDS.length] ?? 'moor';
  });
  const text = words.join(' ');
  return `${text[0]?.toUpperCase()}${text.slice(1)}.`;
}

const PAGES_A_SECTION = 50;

export function largePath(n: number): string {
  if (n === 0) return 'index.html';
  const section = Math.floor(n / PAGES_A_SECTION);
  return n % PAGES_A_SECTION === 0 ? `section-${section}/index.html` : `section-${section}/page-${n}/index.html`;
}

export function largePage(n: number, total: number): string {
  const section = Math.floor(n / PAGES_A_SECTION);
  const neighbours = [n - 1, n + 1]
    .filter((m) => m > 0 && m < total)
    .map((m) => `<li><a href="/${largePath(m).replace('index.html', '')}">Page ${m}</a></li>`);
  const paragraphs = Array.from({ length: 8 }, (_, i) => `<p>${sentence(n * 31 + i, 60)}</p>`);
  return `<!DOCTYPE html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>Page ${n}: ${sentence(n, 4).slice(0, -1)}</title>
<meta name="description" content="${sentence(n + 7, 16)}">
<link rel="stylesheet" href="/style.css">
</head>
<body>
<header><a href="/">Front page</a> <a href="/${section === 0 ? '' : `section-${section}/`}">Section ${section}</a></header>
<main>
<h1>Page ${n}</h1>
${paragraphs.join('\n')}
</main>
<nav><ul>${neighbours.join('')}</ul></nav>
</body>
</html>
`;
}

export function writeLargeSite(folder: string, files: number): void {
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'style.css'), 'body { max-width: 40rem; margin: auto; font: 1rem/1.5 serif }\n');
  for (let n = 0; n < files - 1; n += 1) {
    const file = join(folder, largePath(n));
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, largePage(n, files - 1));
  }
}

if (import.meta.url === `file://${process.argv[1]}`) {
  const files = Number(process.argv[2]);
  if (!Number.isInteger(files) || files < 2) {
    console.error('Say how many files: npm run demo:large -- 10000 [folder]');
    process.exit(1);
  }
  const folder = process.argv[3] ?? join(process.cwd(), '.fastigium', `large-${files}`);
  writeLargeSite(folder, files);
  console.log(`${files} files in ${folder}`);
}

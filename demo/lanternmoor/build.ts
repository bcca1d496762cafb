/** Builds the demo site and its list of old addresses; the outcome is committed, so nobody has to. */
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { documents } from './documents.ts';
import { oldAddresses } from './oldAddresses.ts';
import { oldSite } from './oldSite.ts';
import { PAGES } from './pages.ts';
import { pictures } from './pictures.ts';
import { olderPageHtml, pageHtml, STYLE, TYPE } from './template.ts';

const here = dirname(new URL(import.meta.url).pathname);
const site = join(here, 'site');

function write(path: string, data: string | Uint8Array): void {
  const file = join(site, path);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, data);
}

rmSync(site, { recursive: true, force: true });
for (const page of PAGES)
  write(join(page.path, 'index.html'), page.path.startsWith('observatory/') ? olderPageHtml(page) : pageHtml(page));
write(
  '404.html',
  pageHtml({
    path: '404',
    lang: 'en',
    title: 'Nothing in this direction',
    body: [
      'There is no page at this address. Try the <a href="/">front page</a>, or <a href="/sky-tonight/">look up</a>.',
    ],
  }).replaceAll('"../', '"/'),
);
write('style/moor.css', STYLE);
write('style/type.css', TYPE);
for (const [name, bytes] of pictures()) write(`pictures/${name}.png`, bytes);
for (const [name, bytes] of await documents()) write(`documents/${name}`, bytes);
// What an editor left lying about: nobody should find it live.
write('style/moor.css.bak', STYLE.replace('.faint { color: #a39b88; font-size: .9rem; }\n', ''));
write('humans.txt', 'Made on the moor.\n');
const list = oldAddresses();
writeFileSync(join(here, 'old-addresses.csv'), list);
writeFileSync(join(here, 'old-site.json'), oldSite());
console.log(`${PAGES.length + 1} pages, ${list.trim().split('\n').length - 1} old addresses`);

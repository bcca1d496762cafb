/** The demo site's pages as a designer would deliver them: hand-made HTML, relative and rooted links mixed. */
import type { DemoPage } from './pages.ts';

const MENUS = {
  en: {
    name: 'Lanternmoor Observatory',
    home: '/',
    skip: 'To the content',
    items: [
      ['/', 'Home'],
      ['/visit/', 'Visit'],
      ['/sky-tonight/', 'Sky tonight'],
      ['/learn/', 'Learn'],
      ['/observatory/', 'Observatory'],
      ['/about/', 'About'],
    ],
    other: ['/cy/', 'cy', 'Cymraeg'],
    foot: 'Open Thursday to Saturday from dusk. Bus 41 stops at the gate.',
  },
  cy: {
    name: 'Arsyllfa Lanternmoor',
    home: '/cy/',
    skip: 'I’r cynnwys',
    items: [
      ['/cy/', 'Hafan'],
      ['/cy/ymweld/', 'Ymweld'],
      ['/cy/awyr-heno/', 'Awyr heno'],
      ['/cy/dysgu/', 'Dysgu'],
      ['/cy/amdanom/', 'Amdanom ni'],
    ],
    other: ['/', 'en', 'English'],
    foot: 'Ar agor nos Iau i nos Sadwrn o’r cyfnos. Mae bws 41 yn aros wrth y giât.',
  },
} as const;

function bodyHtml(lines: readonly string[]): string {
  const out: string[] = [];
  let list: string[] = [];
  const close = () => {
    if (list.length > 0) out.push(`<ul>\n${list.map((item) => `  <li>${item}</li>`).join('\n')}\n</ul>`);
    list = [];
  };
  for (const line of lines) {
    if (line.startsWith('- ')) {
      list.push(line.slice(2));
      continue;
    }
    close();
    if (line.startsWith('## ')) out.push(`<h2>${line.slice(3)}</h2>`);
    else out.push(/^<(p|table)\b/.test(line) ? line : `<p>${line}</p>`);
  }
  close();
  return out.join('\n');
}

/** Pages of one branch were left as they were years ago: a table for a layout, a menu between bars, no landmark. */
const OLDER = [
  ['observatory/', 'Observatory'],
  ['observatory/refractor/', 'The refractor'],
  ['observatory/solar-terrace/', 'Solar terrace'],
  ['observatory/dark-sky/', 'Dark sky'],
] as const;

export function olderPageHtml(page: DemoPage): string {
  const toRoot = '../'.repeat(page.path.split('/').length);
  const items = OLDER.map(([path, label]) =>
    path === `${page.path}/` ? `<B>${label}</B>` : `<A HREF="${toRoot}${path}index.html">${label}</A>`,
  );
  const picture =
    page.picture === undefined
      ? ''
      : `<P><IMG SRC="${toRoot}pictures/${page.picture.name}.png"${page.picture.alt === undefined ? '' : ` ALT="${page.picture.alt}"`} WIDTH="640" HEIGHT="400"></P>\n`;
  return `<!DOCTYPE HTML PUBLIC "-//W3C//DTD HTML 4.01 Transitional//EN">
<HTML LANG="${page.lang}">
<HEAD>
<META HTTP-EQUIV="Content-Type" CONTENT="text/html; charset=utf-8">
<META NAME="viewport" CONTENT="width=device-width, initial-scale=1">
<TITLE>${page.title} · ${MENUS[page.lang].name}</TITLE>
<META NAME="description" CONTENT="${page.description ?? ''}">
<LINK REL="stylesheet" HREF="${toRoot}style/moor.css">
</HEAD>
<BODY BGCOLOR="#F6F2E8">
<TABLE WIDTH="100%"><TR>
<TD WIDTH="80"><A HREF="${toRoot}index.html"><IMG SRC="${toRoot}pictures/logo.png" ALT="Lanternmoor Observatory" WIDTH="64" HEIGHT="40" BORDER="0"></A></TD>
<TD><A HREF="${toRoot}index.html">Home</A> | ${items.join(' | ')}</TD>
</TR></TABLE>
<H1>${page.title}</H1>
${picture}${bodyHtml(page.body)}
<HR>
<P>${MENUS[page.lang].foot}</P>
</BODY>
</HTML>
`;
}

export function pageHtml(page: DemoPage): string {
  const menu = MENUS[page.lang];
  const depth = page.path === '' ? 0 : page.path.split('/').length;
  const toRoot = depth === 0 ? './' : '../'.repeat(depth);
  const current = page.path === '' ? '/' : `/${page.path}/`;
  const items = menu.items.map(([address, label]) => {
    const isHere = current === address || (address !== menu.home && current.startsWith(address));
    return `<li><a href="${address}"${isHere ? ' aria-current="page"' : ''}>${label}</a></li>`;
  });
  const [otherAddress, otherLang, otherLabel] = menu.other;
  const alt = page.picture?.alt === undefined ? '' : ` alt="${page.picture.alt}"`;
  const full = page.title === menu.name ? page.title : `${page.title} · ${menu.name}`;
  return `<!DOCTYPE html>
<html lang="${page.lang}">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <title>${full}</title>${page.description === undefined ? '' : `\n  <meta name="description" content="${page.description}">`}
  <link rel="stylesheet" href="${toRoot}style/moor.css">
  <link rel="icon" href="/pictures/logo.png" type="image/png">
</head>
<body>
<a class="skip" href="#content">${menu.skip}</a>
<header>
  <a class="name" href="${menu.home}"><img src="/pictures/logo.png" alt="" width="64" height="40"> ${menu.name}</a>
  <nav><ul>${items.join('')}<li><a href="${otherAddress}" lang="${otherLang}" hreflang="${otherLang}">${otherLabel}</a></li></ul></nav>
</header>
<main id="content">
<h1>${page.title}</h1>${page.date === undefined ? '' : `\n<p class="date"><time datetime="${page.date}">${page.date}</time></p>`}${page.picture === undefined ? '' : `\n<img class="wide" src="${toRoot}pictures/${page.picture.name}.png"${alt} width="640" height="400">`}
${bodyHtml(page.body)}
</main>
<footer><p>${menu.foot}</p></footer>
</body>
</html>
`;
}

export const STYLE = `@import url("type.css");

:root { --night: #14202c; --paper: #f6f2e8; --gold: #d9b24a; --rust: #9a4a2c; }
body { margin: 0; background: var(--paper); color: #22303a; }
header { display: flex; flex-wrap: wrap; gap: 1rem 2rem; align-items: center; padding: 1rem 2rem; background: var(--night) url("../pictures/moor-at-dusk.png") bottom / cover; color: #fff; }
header a { color: #fff; text-decoration: none; }
.name { display: flex; align-items: center; gap: .7rem; font-size: 1.3rem; }
nav ul { display: flex; flex-wrap: wrap; gap: .4rem 1.4rem; list-style: none; margin: 0; padding: 0; }
nav a[aria-current] { border-bottom: 2px solid var(--gold); }
main { max-width: 44rem; margin: 0 auto; padding: 1.5rem 2rem 3rem; }
h1 { font-size: 2.2rem; font-weight: 500; margin: .6rem 0 1rem; }
.wide { display: block; width: 100%; height: auto; margin: 1rem 0; }
.button { display: inline-block; padding: .5rem 1rem; margin-right: .5rem; background: var(--night); color: #fff; text-decoration: none; }
.date { color: #6b6456; }
.faint { color: #a39b88; font-size: .9rem; }
table { border-collapse: collapse; width: 100%; }
th, td { text-align: left; padding: .4rem .6rem; border-bottom: 1px solid #d8cfbc; }
main a { color: var(--rust); }
footer { padding: 1rem 2rem; background: #e6dece; font-size: .9rem; }
.skip { position: absolute; left: -99rem; }
.skip:focus { left: 1rem; top: 1rem; background: #fff; padding: .5rem; }
@media (max-width: 40rem) { header, main, footer { padding-inline: 1rem; } h1 { font-size: 1.7rem; } }
`;

export const TYPE = `body { font: 1.05rem/1.6 Georgia, "Times New Roman", serif; }
nav, .button, th { font-family: "Helvetica Neue", Arial, sans-serif; font-size: .95rem; }
`;

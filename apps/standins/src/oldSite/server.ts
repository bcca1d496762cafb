/**
 * The host a site comes from, simulated: it goes on answering with the old site for as long as anyone
 * comes. Addresses with scripts and queries, markup of its time, and an encoding that only a header names.
 */
import express, { type Express, type Response } from 'express';
import type { OldSiteSeed } from './seed.ts';

/** A documentation address (RFC 5737), and where it is on this machine. */
export const OLD_HOST = { address: '203.0.113.9', loopback: '127.0.0.3' } as const;

type OldPage = OldSiteSeed['pages'][number];

export function createOldSite(seed: OldSiteSeed): Express {
  const pages = new Map(seed.pages.map((page) => [page.address, page]));
  const files = new Map(seed.files.map((file) => [file.address, file]));
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Old host stand-in (simulated)');
    next();
  });
  app.get(
    '/robots.txt',
    (_req, res) =>
      void (seed.robots === ''
        ? res.status(404).type('text').send('Nothing here.\n')
        : res.type('text').send(seed.robots)),
  );
  app.use((req, res) => {
    const address = req.originalUrl;
    const page = pages.get(seed.sameAs[address] ?? address);
    const file = files.get(address);
    const target = seed.moved[address];
    if (seed.broken.includes(address))
      sendPage(res.status(500), `<h1>Software error</h1><p>${escape(address)} ended before it had said anything.</p>`);
    else if (target !== undefined) res.redirect(302, target);
    else if (file) res.type(file.type).send(Buffer.from(file.base64, 'base64'));
    else if (page) sendPage(res, layOut(seed, page));
    // Nobody visits a page below this one by hand, so there is no use in one with a menu.
    else if (req.path.startsWith('/.well-known/')) res.status(404).type('text').send('Nothing here.\n');
    else
      sendPage(
        res.status(404),
        layOut(seed, { address, title: 'Not found', body: [`There is nothing at ${address}.`], links: [] }),
      );
  });
  return app;
}

function layOut({ name, navigation, pages }: OldSiteSeed, { address, title, body, links }: OldPage): string {
  const titles = new Map(pages.map((page) => [page.address, page.title]));
  const whole = address === '/' ? name : `${title} - ${name}`;
  return [
    '<html>',
    '<head>',
    `<title>${escape(whole)}</title>`,
    '</head>',
    '<body bgcolor="#ffffff">',
    '<table width="760" cellpadding="6"><tr><td colspan="2">',
    `<font size="5"><b>${escape(name)}</b></font> <font size="1">(simulated)</font>`,
    '</td></tr>',
    '<tr valign="top"><td width="160">',
    ...navigation.map(([label, to]) => `<a href="${escape(to)}">${escape(label)}</a><br>`),
    '</td><td>',
    `<h2>${escape(title)}</h2>`,
    ...body.map((text) => `<p>${escape(text)}</p>`),
    ...(links.length === 0
      ? []
      : [
          '<ul>',
          ...links.map((to) => `<li><a href="${escape(to)}">${escape(titles.get(to) ?? to)}</a></li>`),
          '</ul>',
        ]),
    '</td></tr></table>',
    '</body>',
    '</html>',
    '',
  ].join('\r\n');
}

const escape = (text: string): string => text.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;');

function sendPage(res: Response, html: string): void {
  const latin = html.replace(/[^\0-\xff]/gu, (letter) => `&#${letter.codePointAt(0)};`);
  res.set('content-type', 'text/html; charset=iso-8859-1').send(Buffer.from(latin, 'latin1'));
}

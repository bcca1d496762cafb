/**
 * A search index, simulated: it remembers every page the old site ever had, also those nothing leads to any
 * more, and lists one domain's in pages of Atom.
 * Sources: OpenSearch 1.1 draft 6; RFC 4287; RFC 5005, section 3.
 */
import express, { type Express } from 'express';
import { XMLBuilder } from 'fast-xml-parser';
import type { OldSiteSeed } from '../oldSite/seed.ts';
import { Submitted, type Reading } from './submitted.ts';

/** A documentation address (RFC 5737), and where it is on this machine. */
export const INDEX_HOST = { name: 'index.search.test', address: '203.0.113.10', loopback: '127.0.0.4' } as const;

const PAGE_LENGTH = 40;
const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true });
const writeXml = (root: object): string =>
  builder.build({ '?xml': { '@version': '1.0', '@encoding': 'UTF-8' }, ...root });

/** @param read how the index visits addresses it is told of */
export function createSearchIndex(seed: OldSiteSeed, now: () => Date, read: Reading): Express {
  const submitted = new Submitted(read);
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Search index stand-in (simulated)');
    next();
  });
  app.use(submitted.router());
  app.get(
    '/opensearch.xml',
    (_req, res) =>
      void res.type('application/opensearchdescription+xml').send(
        writeXml({
          OpenSearchDescription: {
            '@xmlns': 'http://a9.com/-/spec/opensearch/1.1/',
            ShortName: 'Index (simulated)',
            Description: 'What a search index still lists of one domain: ask for site:DOMAIN.',
            Url: {
              '@type': 'application/atom+xml',
              '@indexOffset': '0',
              '@template': `http://${INDEX_HOST.name}/search?q={searchTerms}&start={startIndex?}`,
            },
            InputEncoding: 'UTF-8',
            OutputEncoding: 'UTF-8',
          },
        }),
      ),
  );
  app.get('/search', (req, res) => {
    const asked = typeof req.query.q === 'string' ? req.query.q : '';
    const domain = /^site:(?:www\.)?(\S+)$/.exec(asked.trim())?.[1]?.toLowerCase();
    const start =
      typeof req.query.start === 'string' && /^\d{1,6}$/.test(req.query.start) ? Number(req.query.start) : 0;
    const listed = (/^site:(\S+)$/.exec(asked.trim())?.[1] ?? '').toLowerCase();
    // Of a domain whose new addresses it was told the index knows those, and of the old site what it always knew.
    const submission = submitted
      .listed(listed)
      .map((url) => ({ url, title: new URL(url).pathname, body: ['told by the site itself'] }));
    const old =
      domain !== undefined && domain === seed.domain
        ? seed.pages.map(({ address, title, body }) => ({
            url: `http://www.${seed.domain}${address}`,
            title: `${title} - ${seed.name}`,
            body,
          }))
        : [];
    const found = [...old, ...submission];
    const self = (from: number) => `http://${INDEX_HOST.name}/search?q=${encodeURIComponent(asked)}&start=${from}`;
    const updated = now().toISOString();
    res.type('application/atom+xml').send(
      writeXml({
        feed: {
          '@xmlns': 'http://www.w3.org/2005/Atom',
          '@xmlns:os': 'http://a9.com/-/spec/opensearch/1.1/',
          title: `Answers to ${asked} (simulated)`,
          id: self(start),
          updated,
          author: { name: 'Search index stand-in' },
          'os:totalResults': found.length,
          'os:startIndex': start,
          'os:itemsPerPage': PAGE_LENGTH,
          link: [
            { '@rel': 'self', '@href': self(start) },
            ...(start + PAGE_LENGTH < found.length ? [{ '@rel': 'next', '@href': self(start + PAGE_LENGTH) }] : []),
          ],
          entry: found.slice(start, start + PAGE_LENGTH).map(({ url, title, body }) => ({
            title,
            id: url,
            updated,
            link: { '@href': url },
            summary: body.join(' '),
          })),
        },
      }),
    );
  });
  return app;
}

/** A listing as an Atom feed. Source: RFC 4287. */
import { escapeXml } from '../xml/index.ts';
import type { Entry } from './entries.ts';
import { sortNewestFirst } from './entries.ts';

export interface Feed {
  /** UUID of the listing page: an identity that no move changes (RFC 4287 section 4.2.6, RFC 9562). */
  readonly id: string;
  readonly title: string;
  /** Absolute address of the site without a slash at its end; empty where it has no name of its own yet. */
  readonly origin: string;
  readonly address: string;
  readonly listing: string;
  readonly author: string;
  readonly language: string | undefined;
  readonly entries: readonly Entry[];
}

/** Feeds are read often and whole; older entries are found on the listing's pages. */
const MOST_ENTRIES = 50;

export function writeAtomFeed({ id, title, origin, address, listing, author, language, entries }: Feed): string {
  const shown = sortNewestFirst(entries).slice(0, MOST_ENTRIES);
  const updated = shown[0]?.date ?? '1970-01-01';
  return [
    '<?xml version="1.0" encoding="utf-8"?>',
    `<feed xmlns="http://www.w3.org/2005/Atom"${language === undefined ? '' : ` xml:lang="${escapeXml(language)}"`}>`,
    `  <title>${escapeXml(title)}</title>`,
    `  <id>urn:uuid:${escapeXml(id)}</id>`,
    `  <updated>${formatInstant(updated)}</updated>`,
    `  <link rel="self" type="application/atom+xml" href="${escapeXml(origin + address)}"/>`,
    `  <link rel="alternate" type="text/html" href="${escapeXml(origin + listing)}"/>`,
    `  <author><name>${escapeXml(author)}</name></author>`,
    ...shown.map((entry) =>
      [
        '  <entry>',
        `    <title>${escapeXml(entry.title)}</title>`,
        `    <id>urn:uuid:${escapeXml(entry.id)}</id>`,
        `    <updated>${formatInstant(entry.date)}</updated>`,
        `    <published>${formatInstant(entry.date)}</published>`,
        `    <link rel="alternate" type="text/html" href="${escapeXml(origin + entry.address)}"/>`,
        // An entry without content needs a summary or a link (RFC 4287 section 4.1.2); the link is always there.
        ...(entry.summary === '' ? [] : [`    <summary>${escapeXml(entry.summary)}</summary>`]),
        '  </entry>',
      ].join('\n'),
    ),
    '</feed>',
    '',
  ].join('\n');
}

/** Pages say a day, feeds an instant: its first one (RFC 3339). */
function formatInstant(day: string): string {
  return `${day}T00:00:00Z`;
}

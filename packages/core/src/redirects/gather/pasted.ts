/** Old addresses in what a person pastes: lines, a page's source, or any text with addresses in it. */
import { parseAddress, formatAddress } from '../../address/index.ts';
import { readAttribute, walkElements, fold, parseForReading, collectText, type Element } from '../../html/index.ts';
import { unread } from '../messages.ts';
import type { NotRead } from '../notRead.ts';

export interface PastedAddress {
  /** Normal address. */
  readonly address: string;
  readonly host: string | undefined;
  /** What a link said, where it was a link. */
  readonly title: string | undefined;
}

export interface Pasted {
  readonly addresses: readonly PastedAddress[];
  readonly notRead: readonly NotRead[];
}

const WHY = {
  empty: unread('empty'),
  scheme: unread('no-web-address'),
  unreadable: unread('no-address'),
} as const;

/** Reads anything. A line that holds no address is told of, where the text is made of lines of addresses. */
export function readPasted(text: string): Pasted {
  return /<(?:a|loc|link|html|ul|table)\b/i.test(text) ? fromMarkup(text) : fromLines(text);
}

function fromMarkup(text: string): Pasted {
  const document = parseMarkup(text);
  const addresses: PastedAddress[] = [];
  const notRead: NotRead[] = [];
  for (const element of walkElements(document.root)) {
    const href = readHref(element);
    if (href === undefined || href.trim() === '' || href.startsWith('#')) continue;
    const parsed = parseAddress(href);
    if (parsed.ok)
      addresses.push({ address: formatAddress(parsed.address), host: parsed.host, title: linkText(element) });
    else if (parsed.problem !== 'scheme') notRead.push({ line: 1, text: href, why: WHY[parsed.problem] });
  }
  // A feed's addresses are text; what stands inside its tags is none of the site's.
  return addresses.length + notRead.length === 0
    ? fromLines(collectText(parseMarkup(text.replace(/<[^>]*>/g, '\n')).root))
    : { addresses, notRead };
}

const parseMarkup = (text: string) => parseForReading(new TextEncoder().encode(`<meta charset="utf-8">${text}`));

function fromLines(text: string): Pasted {
  const addresses: PastedAddress[] = [];
  const notRead: NotRead[] = [];
  text.split(/\r\n|\r|\n/).forEach((whole, at) => {
    const line = whole.trim();
    if (line === '' || line.startsWith('#')) return;
    const found =
      line.match(/https?:\/\/[^\s"'<>|]+|(?<![^\s"'(|,;])\/[^\s"'<>|]*/giu) ??
      (/^[^\s/]+\.[a-z]{2,}\/\S*$/i.test(line) ? [`http://${line}`] : []);
    if (found.length === 0)
      notRead.push({
        line: at + 1,
        text: line.slice(0, 200),
        why: unread('no-address-in-line'),
      });
    for (const each of found) {
      const parsed = parseAddress(each.replace(/[.,;)]+$/, ''));
      if (parsed.ok) addresses.push({ address: formatAddress(parsed.address), host: parsed.host, title: undefined });
      else notRead.push({ line: at + 1, text: each.slice(0, 200), why: WHY[parsed.problem] });
    }
  });
  return { addresses, notRead };
}

/** Of links, and of the entries of a sitemap, which are text (Sitemaps 0.9, "XML tag definitions"). */
function readHref(element: Element): string | undefined {
  if (element.tagName === 'loc') return collectText(element);
  return element.tagName === 'a' || element.tagName === 'area' ? readAttribute(element, 'href') : undefined;
}

/** What a link says, a picture by its alternative text. */
function linkText(link: Element): string | undefined {
  if (link.tagName === 'loc') return undefined;
  const alternatives = [...walkElements(link)].map((element) => readAttribute(element, 'alt') ?? '');
  const text = fold(collectText(link)) || fold(alternatives.join(' '));
  return text === '' || /^https?:/.test(text) ? undefined : text.slice(0, 300);
}

/** What a picker offers for what was typed: pages, home, files, addresses of people, other sites. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { find } from '../../logic/find.ts';
import { readable } from '../../logic/readable.ts';
import { typedTarget, type PickedTarget } from './pickedTarget.ts';

/** What may be picked beside pages. */
export type Offer = 'home' | 'newest' | 'file' | 'address' | 'url' | 'person' | 'none';

export interface Choice {
  readonly key: string;
  readonly title: string;
  readonly detail: string;
  readonly target: PickedTarget;
}

const MOST_PAGES = 5;
const MOST_FILES = 3;

/** @param files addresses of the site's files that hold what was typed */
export function choicesFor(
  typed: string,
  pages: readonly PageRow[],
  files: readonly string[],
  offers: readonly Offer[],
): Choice[] {
  const text = typed.trim();
  const may = (offer: Offer) => offers.includes(offer);
  const out: Choice[] = [];
  const exact = pages.find(({ kind, address }) => kind === 'page' && (address === text || readable(address) === text));
  if (exact) out.push(pageChoice(exact));
  if (may('home') && (text === '' || 'home page'.startsWith(text.toLowerCase()) || text === '/'))
    out.push({ key: 'home', title: 'Home page', detail: 'whichever page it is', target: { kind: 'home' } });
  if (may('newest')) out.push(...newestChoices(text, pages));
  const findable = pages
    .filter(({ kind, id }) => kind === 'page' && id !== exact?.id)
    .map((page) => ({ page, text: `${page.title} ${page.address} ${readable(page.address)}`.toLowerCase() }));
  out.push(...find(findable, text, MOST_PAGES).map(({ page }) => pageChoice(page)));
  if (may('file'))
    out.push(
      ...files.slice(0, MOST_FILES).map((address): Choice => ({
        key: `file ${address}`,
        title: readable(address.split('/').at(-1) ?? address),
        detail: `file ${readable(address)}`,
        target: { kind: 'address', address },
      })),
    );
  if (may('person')) out.push(...personChoices(text));
  if (may('url') && text !== '') out.push(...outsideChoices(text));
  if (may('address') && text.startsWith('/') && !exact && text.length > 1)
    out.push({
      key: 'written',
      title: text,
      detail: 'as it is written, no page of the draft',
      target: { kind: 'address', address: text },
    });
  if (may('none') && (text === '' || 'nowhere'.startsWith(text.toLowerCase())))
    out.push({ key: 'none', title: 'Nowhere', detail: 'it heads what is below it', target: { kind: 'none' } });
  return out;
}

function pageChoice(page: PageRow): Choice {
  return {
    key: page.id,
    title: page.title || 'no title',
    detail: readable(page.address),
    target: { kind: 'page', page: page.id },
  };
}

/** The newest entry of each list. */
function newestChoices(text: string, pages: readonly PageRow[]): Choice[] {
  return pages
    .filter(({ lists }) => lists !== null)
    .filter(({ label }) => text === '' || `newest of ${label}`.toLowerCase().includes(text.toLowerCase()))
    .map((page) => ({
      key: `newest ${page.id}`,
      title: `Newest of ${page.label}`,
      detail: 'whichever entry it is',
      target: { kind: 'page', page: page.id, newest: true },
    }));
}

/** An address for mail (RFC 6068) or a number to call (RFC 3966), as people write them. */
function personChoices(text: string): Choice[] {
  const mail = /^(?:mailto:)?([^\s@]+@[^\s@]+\.[^\s@]+)$/i.exec(text)?.[1];
  if (mail !== undefined)
    return [
      { key: 'mail', title: mail, detail: 'opens a new message', target: { kind: 'url', url: `mailto:${mail}` } },
    ];
  const phone = /^(?:tel:)?(\+?[\d\s()./-]{5,})$/i.exec(text)?.[1];
  const digits = phone?.replace(/(?!^\+)\D/g, '') ?? '';
  return phone !== undefined && digits.length >= 5
    ? [
        {
          key: 'phone',
          title: phone.trim(),
          detail: 'calls this number',
          target: { kind: 'url', url: `tel:${digits}` },
        },
      ]
    : [];
}

function outsideChoices(text: string): Choice[] {
  const whole = typedTarget(text);
  if (whole?.kind === 'url') return [{ key: 'url', title: text, detail: 'another site', target: whole }];
  // A name with a dot is another site's more often than a page's words.
  return /^[a-z0-9-]+(\.[a-z0-9-]+)+(\/\S*)?$/i.test(text) &&
    !/\.(html?|pdf|docx?|xlsx?|zip|jpe?g|png|gif|svg)$/i.test(text)
    ? [
        {
          key: 'url',
          title: `https://${text}`,
          detail: 'another site',
          target: { kind: 'url', url: `https://${text}` },
        },
      ]
    : [];
}

/** What stands in the field for what is chosen. */
export function wordsOf(target: PickedTarget | undefined, pages: readonly PageRow[]): string {
  switch (target?.kind) {
    case undefined:
      return '';
    case 'home':
      return 'Home page';
    case 'none':
      return 'Nowhere';
    case 'url':
      return target.url;
    case 'address':
      return readable(target.address);
    case 'page': {
      const page = pages.find(({ id }) => id === target.page);
      return target.newest ? `Newest of ${page?.label ?? ''}` : readable(page?.address ?? '');
    }
  }
}

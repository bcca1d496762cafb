/** What a picker offers for what was typed: pages, home, files, addresses of people, other sites. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { find } from '../../logic/find.ts';
import { formatReadable } from '../../logic/readable.ts';
import { readTypedTarget, type PickedTarget } from './pickedTarget.ts';
import { say } from './words.ts';

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
export function listChoices(
  typed: string,
  pages: readonly PageRow[],
  files: readonly string[],
  offers: readonly Offer[],
): Choice[] {
  const text = typed.trim();
  const may = (offer: Offer) => offers.includes(offer);
  const out: Choice[] = [];
  const exact = pages.find(
    ({ kind, address }) => kind === 'page' && (address === text || formatReadable(address) === text),
  );
  if (exact) out.push(createPageChoice(exact));
  if (may('home') && (text === '' || say('picking.homePage').startsWith(text.toLowerCase()) || text === '/'))
    out.push({
      key: 'home',
      title: say('common.homePage'),
      detail: say('picking.whicheverPageItIs'),
      target: { kind: 'home' },
    });
  if (may('newest')) out.push(...listNewestChoices(text, pages));
  const findable = pages
    .filter(({ kind, id }) => kind === 'page' && id !== exact?.id)
    .map((page) => ({ page, text: `${page.title} ${page.address} ${formatReadable(page.address)}`.toLowerCase() }));
  out.push(...find(findable, text, MOST_PAGES).map(({ page }) => createPageChoice(page)));
  if (may('file'))
    out.push(
      ...files.slice(0, MOST_FILES).map((address): Choice => ({
        key: say('picking.file', { address }),
        title: formatReadable(address.split('/').at(-1) ?? address),
        detail: say('picking.file', { address: formatReadable(address) }),
        target: { kind: 'address', address },
      })),
    );
  if (may('person')) out.push(...listPersonChoices(text));
  if (may('url') && text !== '') out.push(...listOutsideChoices(text));
  if (may('address') && text.startsWith('/') && !exact && text.length > 1)
    out.push({
      key: 'written',
      title: text,
      detail: say('picking.asItIsWrittenNo'),
      target: { kind: 'address', address: text },
    });
  if (may('none') && (text === '' || say('picking.nowhere').toLowerCase().startsWith(text.toLowerCase())))
    out.push({
      key: 'none',
      title: say('picking.nowhere'),
      detail: say('picking.itHeadsWhatIsBelow'),
      target: { kind: 'none' },
    });
  return out;
}

function createPageChoice(page: PageRow): Choice {
  return {
    key: page.id,
    title: page.title || say('common.noTitle'),
    detail: formatReadable(page.address),
    target: { kind: 'page', page: page.id },
  };
}

/** The newest entry of each list. */
function listNewestChoices(text: string, pages: readonly PageRow[]): Choice[] {
  return pages
    .filter(({ lists }) => lists !== null)
    .filter(({ label }) => text === '' || say('picking.newestOf', { label }).toLowerCase().includes(text.toLowerCase()))
    .map((page) => ({
      key: say('picking.newest', { id: page.id }),
      title: say('picking.newestOf2', { label: page.label }),
      detail: say('picking.whicheverEntryItIs'),
      target: { kind: 'page', page: page.id, newest: true },
    }));
}

/** An address for mail (RFC 6068) or a number to call (RFC 3966), as people write them. */
function listPersonChoices(text: string): Choice[] {
  const mail = /^(?:mailto:)?([^\s@]+@[^\s@]+\.[^\s@]+)$/i.exec(text)?.[1];
  if (mail !== undefined)
    return [
      {
        key: 'mail',
        title: mail,
        detail: say('picking.opensANewMessage'),
        target: { kind: 'url', url: `mailto:${mail}` },
      },
    ];
  const phone = /^(?:tel:)?(\+?[\d\s()./-]{5,})$/i.exec(text)?.[1];
  const digits = phone?.replace(/(?!^\+)\D/g, '') ?? '';
  return phone !== undefined && digits.length >= 5
    ? [
        {
          key: 'phone',
          title: phone.trim(),
          detail: say('picking.callsThisNumber'),
          target: { kind: 'url', url: `tel:${digits}` },
        },
      ]
    : [];
}

function listOutsideChoices(text: string): Choice[] {
  const whole = readTypedTarget(text);
  if (whole?.kind === 'url') return [{ key: 'url', title: text, detail: say('common.anotherSite'), target: whole }];
  // A name with a dot is another site's more often than a page's words.
  return /^[a-z0-9-]+(\.[a-z0-9-]+)+(\/\S*)?$/i.test(text) &&
    !/\.(html?|pdf|docx?|xlsx?|zip|jpe?g|png|gif|svg)$/i.test(text)
    ? [
        {
          key: 'url',
          title: `https://${text}`,
          detail: say('common.anotherSite'),
          target: { kind: 'url', url: `https://${text}` },
        },
      ]
    : [];
}

/** What stands in the field for what is chosen. */
export function sayTarget(target: PickedTarget | undefined, pages: readonly PageRow[]): string {
  switch (target?.kind) {
    case undefined:
      return '';
    case 'home':
      return say('common.homePage');
    case 'none':
      return say('picking.nowhere');
    case 'url':
      return target.url;
    case 'address':
      return formatReadable(target.address);
    case 'page': {
      const page = pages.find(({ id }) => id === target.page);
      return target.newest
        ? say('picking.newestOf2', { label: page?.label ?? '' })
        : formatReadable(page?.address ?? '');
    }
  }
}

/** The site that is checked: its files as they were brought in, and the live host asked over HTTP. */
import type { Client } from '../../apps/server/tests/client.ts';
import type { Files } from '../sites.ts';
import {
  addressesIn,
  addressOf,
  baseOf,
  cssRefs,
  isPage,
  isStyle,
  leadsTo,
  letters,
  refsOf,
  skeleton,
  type Ref,
} from './source.ts';

export interface Answered {
  readonly status: number;
  readonly location: string | undefined;
  readonly bytes: Buffer;
}

export interface CheckedSite {
  readonly client: Client;
  readonly id: string;
  readonly files: Files;
  /** Asks the live host, as visitors do. */
  visit(path: string): Promise<Answered>;
}

/** What has to be live, by the path of each file in what was brought in. */
export interface Expected {
  /** Where a file answers. */
  readonly addressOf: (path: string) => string;
  /** Where something that led to an address leads now, both inside the site; the same where nothing moved. */
  readonly leadsOn: (address: string) => string;
  /** Bytes a file has but for its references; undefined where it is gone. */
  readonly source: (path: string, bytes: Uint8Array) => Uint8Array | undefined;
  /** What a reference is to lead to besides following, by its number in the source; undefined for one that follows. */
  readonly ref?: (path: string, index: number, ref: Ref) => string | undefined;
}

export const AS_IMPORTED: Expected = { addressOf, leadsOn: (address) => address, source: (_, bytes) => bytes };

/** A folder's page by its folder, so that two spellings of one place are one. */
function place(address: string, folders: ReadonlySet<string>): string {
  const [, path = '', rest = ''] = /^([^?#]*)(.*)$/s.exec(address) ?? [];
  const plain = path.replace(/(^|\/)index\.html?$/i, '$1');
  return (folders.has(`${plain}/`) ? `${plain}/` : plain) + rest;
}

export function foldersOf(files: Files): Set<string> {
  const out = new Set<string>();
  for (const path of Object.keys(files)) if (/(^|\/)index\.html?$/i.test(path)) out.add(addressOf(path));
  return out;
}

/** Every file and every link, held against what is expected. @returns what is wrong, in words; nothing where all is right */
export async function wrongWith(site: CheckedSite, expected: Expected): Promise<string[]> {
  const wrong: string[] = [];
  const folders = foldersOf(site.files);
  const paths = Object.keys(site.files);
  for (let from = 0; from < paths.length; from += 16) {
    await Promise.all(
      paths.slice(from, from + 16).map(async (path) => {
        const bytes = expected.source(path, site.files[path] as Uint8Array);
        const address = expected.addressOf(path);
        const answer = await site.visit(address);
        if (bytes === undefined) {
          if (answer.status === 200) wrong.push(`${path}: still answers at ${address}`);
          return;
        }
        if (answer.status !== 200) wrong.push(`${path}: ${address} is answered ${answer.status}`);
        else wrong.push(...wrongIn(path, bytes, answer.bytes, expected, folders));
      }),
    );
  }
  return wrong;
}

function wrongIn(
  path: string,
  bytes: Uint8Array,
  live: Uint8Array,
  expected: Expected,
  folders: ReadonlySet<string>,
): string[] {
  if (Buffer.compare(Buffer.from(bytes), Buffer.from(live)) === 0 && !isPage(path) && !isStyle(path)) return [];
  const [before, after] = [letters(bytes), letters(live)];
  const read = (text: string): Ref[] =>
    isPage(path)
      ? refsOf(text)
      : isStyle(path)
        ? cssRefs(text).map((ref) => ({ ...ref, tag: 'css', attribute: '' }))
        : [];
  const [was, now] = [read(before), read(after)];
  if (skeleton(before, was) !== skeleton(after, now))
    return [`${path}: bytes differ that are no link: ${difference(skeleton(before, was), skeleton(after, now))}`];
  const wrong: string[] = [];
  const [from, to] = [addressOf(path), expected.addressOf(path)];
  const [baseBefore, baseAfter] = isPage(path) ? [baseOf(before), baseOf(after)] : [undefined, undefined];
  was.forEach((ref, index) => {
    const other = now[index];
    if (!other) return;
    const [old, fresh] = [addressesIn(ref), addressesIn(other)];
    old.forEach((href, nth) => {
      const led = leadsTo(href, from, baseBefore);
      const asked = expected.ref?.(path, index, ref);
      const wanted = asked ?? (led.startsWith('/') ? expected.leadsOn(place(led, folders)) : led);
      const leads = leadsTo(fresh[nth] ?? '', to, baseAfter);
      const here = (address: string) => address.replace(/^self(?=#|$)/, to);
      if (place(here(leads), folders) !== place(here(wanted), folders))
        wrong.push(
          `${path}: ${ref.tag} ${ref.attribute}="${href}" led to ${led} and leads to ${leads} instead of ${wanted}`,
        );
      // What leads to the same place from the same place has no reason to be written anew.
      else if (
        asked === undefined &&
        from === to &&
        wanted === place(led, folders) &&
        before.slice(ref.start, ref.end) !== after.slice(other.start, other.end)
      )
        wrong.push(`${path}: ${href} was rewritten to ${fresh[nth] ?? ''} for nothing`);
    });
  });
  return wrong;
}

export function difference(before: string, after: string): string {
  let at = 0;
  while (at < before.length && before[at] === after[at]) at += 1;
  return JSON.stringify([before.slice(Math.max(0, at - 20), at + 40), after.slice(Math.max(0, at - 20), at + 40)]);
}

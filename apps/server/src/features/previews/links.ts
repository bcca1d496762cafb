/**
 * Addresses under which the draft can be looked at. Each carries its permission: site, end and signature, and how it is
 * looked at. Where previews have names, it is one DNS label, so that each permission has an origin of its own, apart
 * from the application, gets none of its cookies, and rooted links of its pages work as they will live; a certificate
 * for one wildcard name covers them all (RFC 6125, section 6.4.3: the asterisk is one label). Where they share a name,
 * it is the first folder.
 */
import { createHmac, timingSafeEqual } from 'node:crypto';
import type { PreviewSite } from '../../config/config.ts';

const VALID_MS = 12 * 60 * 60 * 1000; // half a day, a long sitting
const SIGNATURE_BYTES = 12;
/** This machine itself finds previews here wherever others do. */
const OWN_SUFFIX = 'preview.localhost';

/**
 * How a draft is looked at: as visitors see it, as those without script do, with what is removed as it was,
 * or to point at things in it (then no script of the page's own runs, and what somebody clicks is told to
 * the application). A release is looked at under its number.
 */
export const PREVIEW_MODES = ['seen', 'still', 'away', 'release', 'pointing'] as const;
export type PreviewMode = (typeof PREVIEW_MODES)[number];

/** Short, since a label has to hold it. */
const LETTERS: Readonly<Record<PreviewMode, string>> = {
  seen: 's',
  still: 'n',
  away: 'a',
  release: 'r',
  pointing: 'p',
};

export interface Permission {
  readonly site: string;
  readonly mode: PreviewMode;
  readonly release: number;
  /** What stands before every address of the site: `/LABEL-s`; empty where the name is the permission. */
  readonly under: string;
}

export type PreviewOrigins = Readonly<Record<PreviewMode, string>>;

export interface PreviewLinks {
  /** `own`: where this machine finds them, by plain http. */
  create(site: string): { readonly origins: PreviewOrigins; readonly own: PreviewOrigins; readonly until: string };
  /** What a request gives permission for, or undefined: forged, ended, or none of ours. */
  permitted(host: string, path: string): Permission | undefined;
  /** Where they are found, as a source of a content policy. */
  source(): string;
}

/** @param secrets the first one signs, all are read */
export function createPreviewLinks(
  { secrets, site: where }: { readonly secrets: readonly string[]; readonly site: PreviewSite },
  port: () => number,
  now: () => number,
): PreviewLinks {
  const sign = (payload: Buffer, secret = secrets[0] ?? '') =>
    createHmac('sha256', `preview ${secret}`).update(payload).digest().subarray(0, SIGNATURE_BYTES);
  const ownPattern = () => `http://*.${OWN_SUFFIX}:${port()}`;
  const pattern = () => (where.kind === 'names' ? (where.pattern ?? ownPattern()) : where.origin);
  const suffix = where.kind === 'names' ? new URL(pattern().replace('//*.', '//')).hostname : undefined;

  const originsBy = (address: (label: string) => string, label: string): PreviewOrigins => ({
    seen: address(`${label}-${LETTERS.seen}`),
    still: address(`${label}-${LETTERS.still}`),
    away: address(`${label}-${LETTERS.away}`),
    release: address(`${label}-${LETTERS.release}NUMBER`),
    pointing: address(`${label}-${LETTERS.pointing}`),
  });

  function read(label: string): Omit<Permission, 'under'> | undefined {
    const [, signed = '', letter, number] = /^([a-v0-9]+)-([a-z])(\d{0,8})$/.exec(label) ?? [];
    const mode = PREVIEW_MODES.find((each) => LETTERS[each] === letter);
    const bytes = fromBase32(signed);
    if (mode === undefined || bytes.length !== 20 + SIGNATURE_BYTES) return undefined;
    const payload = bytes.subarray(0, 20);
    if (!secrets.some((secret) => timingSafeEqual(sign(payload, secret), bytes.subarray(20)))) return undefined;
    if (payload.readUInt32BE(16) * 3_600_000 < now()) return undefined;
    return {
      site: payload.toString('hex', 0, 16).replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5'),
      mode,
      release: Number(number),
    };
  }

  return {
    create(site) {
      // To the hour, so that one sitting keeps one origin and the browser its cache.
      const untilHours = Math.ceil((now() + VALID_MS) / 3_600_000);
      const payload = Buffer.alloc(20);
      payload.write(site.replaceAll('-', ''), 'hex');
      payload.writeUInt32BE(untilHours, 16);
      const label = toBase32(Buffer.concat([payload, sign(payload)]));
      const named = (base: string) => (name: string) => base.replace('*', name);
      return {
        origins: originsBy(where.kind === 'names' ? named(pattern()) : (name) => `${where.origin}/${name}`, label),
        own: originsBy(named(ownPattern()), label),
        until: new Date(untilHours * 3_600_000).toISOString(),
      };
    },
    permitted(host, path) {
      const [, label = '', rest] = /^([^.:]+)\.?([^:]*?)\.?(?::\d+)?$/.exec(host.toLowerCase()) ?? [];
      if (rest === OWN_SUFFIX || (suffix !== undefined && rest === suffix)) {
        const named = read(label);
        return named && { ...named, under: '' };
      }
      if (where.kind === 'names' || new URL(where.origin).host !== host.toLowerCase()) return undefined;
      const folder = path.split('/')[1] ?? '';
      const found = read(folder);
      return found && { ...found, under: `/${folder}` };
    },
    source: pattern,
  };
}

// RFC 4648 section 7 ("base32hex"), without padding: host names know no case and no other letters.
const DIGITS = '0123456789abcdefghijklmnopqrstuv';

function toBase32(bytes: Uint8Array): string {
  let out = '';
  let bits = 0;
  let value = 0;
  for (const byte of bytes) {
    value = (value << 8) | byte;
    bits += 8;
    while (bits >= 5) {
      bits -= 5;
      out += DIGITS[(value >>> bits) & 31] ?? '';
    }
    value &= (1 << bits) - 1;
  }
  return bits === 0 ? out : out + (DIGITS[(value << (5 - bits)) & 31] ?? '');
}

function fromBase32(text: string): Buffer {
  const bytes: number[] = [];
  let bits = 0;
  let value = 0;
  for (const letter of text) {
    value = (value << 5) | DIGITS.indexOf(letter);
    bits += 5;
    if (bits >= 8) {
      bits -= 8;
      bytes.push((value >>> bits) & 255);
      value &= (1 << bits) - 1;
    }
  }
  return Buffer.from(bytes);
}

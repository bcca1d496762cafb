/**
 * Addresses under which the draft can be looked at. Each is a host name of its own that carries its
 * permission: site, end and signature, in one DNS label. So a preview has an origin apart from the
 * application, gets none of its cookies, and its pages' rooted links work as they will live.
 */
import { createHmac, timingSafeEqual } from 'node:crypto';

const VALID_MS = 12 * 60 * 60 * 1000; // half a day, a long sitting
const SIGNATURE_BYTES = 12;

/**
 * How a draft is looked at: as visitors see it, as those without script do, with what is removed as it was,
 * or to point at things in it (then no script of the page's own runs, and what somebody clicks is told to
 * the application). A release is looked at under its number.
 */
export const PREVIEW_MODES = ['seen', 'still', 'away', 'release', 'pointing'] as const;
export type PreviewMode = (typeof PREVIEW_MODES)[number];

export interface PreviewLinks {
  create(site: string): { origins: Readonly<Record<PreviewMode, string>>; until: string };
  /** What a host name gives permission for, or undefined: forged, ended, or none of ours. */
  permitted(host: string): { readonly site: string; readonly mode: PreviewMode; readonly release: number } | undefined;
}

export function previewLinks(secret: string, port: () => number, now: () => number): PreviewLinks {
  const sign = (payload: Buffer) =>
    createHmac('sha256', `preview ${secret}`).update(payload).digest().subarray(0, SIGNATURE_BYTES);
  return {
    create(site) {
      // To the hour, so that one sitting keeps one origin and the browser its cache.
      const untilHours = Math.ceil((now() + VALID_MS) / 3_600_000);
      const payload = Buffer.alloc(20);
      payload.write(site.replaceAll('-', ''), 'hex');
      payload.writeUInt32BE(untilHours, 16);
      const label = toBase32(Buffer.concat([payload, sign(payload)]));
      const origin = (mode: PreviewMode) => `http://${label}.${mode}.preview.localhost:${port()}`;
      return {
        origins: {
          seen: origin('seen'),
          still: origin('still'),
          away: origin('away'),
          release: origin('release').replace('.release.', '.releaseNUMBER.'),
          pointing: origin('pointing'),
        },
        until: new Date(untilHours * 3_600_000).toISOString(),
      };
    },
    permitted(host) {
      const [, label, name, number] = /^([a-v0-9]+)\.([a-z]+)(\d{0,9})\.preview\.localhost(?::\d+)?$/.exec(host) ?? [];
      const mode = PREVIEW_MODES.find((each) => each === name);
      if (mode === undefined) return undefined;
      const bytes = label === undefined ? undefined : fromBase32(label);
      if (bytes?.length !== 20 + SIGNATURE_BYTES) return undefined;
      const payload = bytes.subarray(0, 20);
      if (!timingSafeEqual(sign(payload), bytes.subarray(20))) return undefined;
      if (payload.readUInt32BE(16) * 3_600_000 < now()) return undefined;
      return {
        site: payload.toString('hex', 0, 16).replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5'),
        mode,
        release: Number(number),
      };
    },
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

/**
 * Addresses under which the draft can be looked at. Each is a host name of its own that carries its
 * permission: site, end and signature, in one DNS label. So a preview has an origin apart from the
 * application, gets none of its cookies, and its pages' rooted links work as they will live.
 */
import { createHmac, timingSafeEqual } from 'node:crypto';

const VALID_MS = 12 * 60 * 60 * 1000; // half a day, a long sitting
const SIGNATURE_BYTES = 12;

export interface PreviewLinks {
  create(site: string): { origin: string; until: string };
  /** The site a host name gives permission for, or undefined: forged, ended, or none of ours. */
  siteOf(host: string): string | undefined;
}

export function previewLinks(secret: string, port: () => number, now: () => number): PreviewLinks {
  const sign = (payload: Buffer) => createHmac('sha256', `preview ${secret}`).update(payload).digest().subarray(0, SIGNATURE_BYTES);
  return {
    create(site) {
      // To the hour, so that one sitting keeps one origin and the browser its cache.
      const untilHours = Math.ceil((now() + VALID_MS) / 3_600_000);
      const payload = Buffer.alloc(20);
      payload.write(site.replaceAll('-', ''), 'hex');
      payload.writeUInt32BE(untilHours, 16);
      const label = toBase32(Buffer.concat([payload, sign(payload)]));
      return { origin: `http://${label}.preview.localhost:${port()}`, until: new Date(untilHours * 3_600_000).toISOString() };
    },
    siteOf(host) {
      const label = /^([a-v0-9]+)\.preview\.localhost(:\d+)?$/.exec(host)?.[1];
      const bytes = label === undefined ? undefined : fromBase32(label);
      if (bytes?.length !== 20 + SIGNATURE_BYTES) return undefined;
      const payload = bytes.subarray(0, 20);
      if (!timingSafeEqual(sign(payload), bytes.subarray(20))) return undefined;
      if (payload.readUInt32BE(16) * 3_600_000 < now()) return undefined;
      return payload.toString('hex', 0, 16).replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
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

/**
 * Secrets at rest: AES-256-GCM (NIST SP 800-38D) with a key that is not in the database. What a secret
 * is for is bound to it, so that one cannot be put in another's place. Each says which key seals it, so that
 * keys can be changed: the first of them seals, every one of them opens.
 *
 *   MARK (4 bytes)  key's id (4 bytes)  nonce (12)  ciphertext  tag (16)
 *
 * What was sealed before keys had ids begins with the nonce.
 */
import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';

const MARK = Buffer.from('fsk1');
const ID_BYTES = 4;
const NONCE_BYTES = 12;
const TAG_BYTES = 16;
const KEY_BYTES = 32;

export interface Seal {
  seal(purpose: string, secret: string): Buffer;
  /** Throws where no key is the one, or the purpose or a byte is wrong. */
  open(purpose: string, sealed: Buffer): string;
  /** Of the keys, in hexadecimal digits; the first one's seals. */
  readonly keyIds: readonly string[];
}

/** What names a key without telling anything of it. */
export const keyId = (key: Buffer): string =>
  createHash('sha256')
    .update('fastigium key id')
    .update(key)
    .digest('hex')
    .slice(0, 2 * ID_BYTES);

/** Which key seals this; undefined for what was sealed before keys had ids. */
export const sealedBy = (sealed: Buffer): string | undefined =>
  sealed.subarray(0, MARK.length).equals(MARK)
    ? sealed.toString('hex', MARK.length, MARK.length + ID_BYTES)
    : undefined;

/** @param keys never none; the first one seals */
export function sealWith(keys: readonly Buffer[]): Seal {
  const [first] = keys;
  if (!first || keys.some((key) => key.length !== KEY_BYTES)) throw new RangeError('a sealing key has 32 bytes');
  const byId = new Map(keys.map((key) => [keyId(key), key]));
  const head = Buffer.concat([MARK, Buffer.from(keyId(first), 'hex')]);
  return {
    keyIds: [...byId.keys()],
    seal(purpose, secret) {
      const nonce = randomBytes(NONCE_BYTES);
      const cipher = createCipheriv('aes-256-gcm', first, nonce).setAAD(Buffer.from(purpose));
      return Buffer.concat([head, nonce, cipher.update(secret, 'utf8'), cipher.final(), cipher.getAuthTag()]);
    },
    open(purpose, sealed) {
      const id = sealedBy(sealed);
      const key = id === undefined ? undefined : byId.get(id);
      if (key) return openWith(key, purpose, sealed.subarray(head.length));
      // Of before, with any of the keys there are; its nonce may begin like the mark, once in four thousand million.
      for (const each of keys) {
        try {
          return openWith(each, purpose, sealed);
        } catch {
          continue;
        }
      }
      throw new Error(
        id === undefined ? 'no key opens this' : `the key ${id} that seals this is not in the configuration`,
      );
    },
  };
}

function openWith(key: Buffer, purpose: string, sealed: Buffer): string {
  const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, NONCE_BYTES), {
    authTagLength: TAG_BYTES,
  }).setAAD(Buffer.from(purpose));
  decipher.setAuthTag(sealed.subarray(-TAG_BYTES));
  return Buffer.concat([decipher.update(sealed.subarray(NONCE_BYTES, -TAG_BYTES)), decipher.final()]).toString('utf8');
}

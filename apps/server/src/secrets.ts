/**
 * Secrets at rest: AES-256-GCM (NIST SP 800-38D) with a key that is not in the database. What a secret
 * is for is bound to it, so that one cannot be put in another's place.
 */
import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';

const NONCE_BYTES = 12;
const TAG_BYTES = 16;

export interface Seal {
  seal(purpose: string, secret: string): Buffer;
  /** Throws where the key, the purpose or a byte is wrong. */
  open(purpose: string, sealed: Buffer): string;
}

export function sealWith(key: Buffer): Seal {
  if (key.length !== 32) throw new RangeError('the sealing key has 32 bytes');
  return {
    seal(purpose, secret) {
      const nonce = randomBytes(NONCE_BYTES);
      const cipher = createCipheriv('aes-256-gcm', key, nonce).setAAD(Buffer.from(purpose));
      return Buffer.concat([nonce, cipher.update(secret, 'utf8'), cipher.final(), cipher.getAuthTag()]);
    },
    open(purpose, sealed) {
      const decipher = createDecipheriv('aes-256-gcm', key, sealed.subarray(0, NONCE_BYTES), {
        authTagLength: TAG_BYTES,
      }).setAAD(Buffer.from(purpose));
      decipher.setAuthTag(sealed.subarray(-TAG_BYTES));
      return Buffer.concat([decipher.update(sealed.subarray(NONCE_BYTES, -TAG_BYTES)), decipher.final()]).toString(
        'utf8',
      );
    },
  };
}

/** Signed requests of ACME: flattened JWS (RFC 7515 section 7.2.2) with nonce and url (RFC 8555 section 6), ES256 and RS256. */
import { createHash, createPublicKey, verify, type JsonWebKey } from 'node:crypto';
import { z } from 'zod';

const flattened = z.object({ protected: z.string(), payload: z.string(), signature: z.string() });
const head = z.object({
  alg: z.enum(['ES256', 'RS256']),
  nonce: z.string(),
  url: z.string(),
  jwk: z.record(z.string(), z.unknown()).optional(),
  kid: z.string().optional(),
});

export interface SignedRequest {
  readonly alg: 'ES256' | 'RS256';
  readonly nonce: string;
  readonly url: string;
  readonly jwk: JsonWebKey | undefined;
  readonly kid: string | undefined;
  /** Undefined for a POST-as-GET (RFC 8555 section 6.3). */
  readonly payload: unknown;
  isSignedBy(key: JsonWebKey): boolean;
}

/** Undefined for what is no such request. */
export function readSigned(body: unknown): SignedRequest | undefined {
  const outer = flattened.safeParse(body);
  if (!outer.success) return undefined;
  try {
    const fields = head.parse(JSON.parse(Buffer.from(outer.data.protected, 'base64url').toString('utf8')));
    const payload: unknown =
      outer.data.payload === '' ? undefined : JSON.parse(Buffer.from(outer.data.payload, 'base64url').toString('utf8'));
    return {
      ...fields,
      jwk: fields.jwk as JsonWebKey | undefined,
      kid: fields.kid,
      payload,
      isSignedBy(key) {
        const publicKey = createPublicKey({ key, format: 'jwk' });
        const signed = Buffer.from(`${outer.data.protected}.${outer.data.payload}`);
        return verify(
          'sha256',
          signed,
          { key: publicKey, dsaEncoding: 'ieee-p1363' },
          Buffer.from(outer.data.signature, 'base64url'),
        );
      },
    };
  } catch {
    return undefined;
  }
}

/** RFC 7638: the required members only, in their order. */
export function computeThumbprint(key: JsonWebKey): string {
  const members =
    key.kty === 'EC' ? { crv: key.crv, kty: key.kty, x: key.x, y: key.y } : { e: key.e, kty: key.kty, n: key.n };
  return createHash('sha256').update(JSON.stringify(members)).digest('base64url');
}

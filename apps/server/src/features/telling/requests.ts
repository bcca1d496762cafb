/** What is sent to each kind of those who are told. */
import { createHmac } from 'node:crypto';
import type { HookKind, Told } from '@fastigium/contracts/api/telling';
import type { Posted } from '../../adapters/web/fetcher.ts';

/** @param secret to sign with, or the token that lets us post @returns undefined where there is nothing to tell */
export function prepareRequest(
  kind: HookKind,
  body: Told,
  { id, secret }: { readonly id: string; readonly secret: string },
): Posted | undefined {
  switch (kind) {
    case 'webhook': {
      const bytes = Buffer.from(JSON.stringify(body));
      return {
        bytes,
        headers: {
          'content-type': 'application/json',
          'x-hub-signature': signBody(secret, bytes),
          'delivery-id': id,
          'delivery-event': body.event,
        },
      };
    }
    case 'index': {
      const { url } = body.site;
      const addresses = body.pages ? [...body.pages.new, ...body.pages.changed, ...body.pages.gone] : [];
      if (url === null || addresses.length === 0) return undefined;
      // The form several search engines share: whoever can put the key on the site may speak for it.
      const submission = {
        host: new URL(url).host,
        key: secret,
        keyLocation: new URL(nameKeyFile(secret), url).href,
        urlList: [...new Set(addresses)].map((address) => new URL(address, url).href),
      };
      return {
        bytes: Buffer.from(JSON.stringify(submission)),
        headers: { 'content-type': 'application/json; charset=utf-8' },
      };
    }
    case 'account':
      // W3C Micropub, section 3.3.1.
      return {
        bytes: Buffer.from(new URLSearchParams({ h: 'entry', content: body.words }).toString()),
        headers: {
          'content-type': 'application/x-www-form-urlencoded; charset=utf-8',
          authorization: `Bearer ${secret}`,
        },
      };
  }
}

export const nameKeyFile = (key: string): string => `${key}.txt`;

/** W3C WebSub, section 8: the method, and the HMAC (RFC 2104) of the whole body in hexadecimal digits. */
export function signBody(secret: string, body: Uint8Array): string {
  return `sha256=${createHmac('sha256', secret).update(body).digest('hex')}`;
}

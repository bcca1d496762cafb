/** A registrar over HTTP: RDAP (RFC 9083) for who holds a name, and the account's own side. */
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import {
  holding,
  prices,
  rdapDomain,
  zoneText,
  type Registration,
  type RegistrarPort,
} from '@fastigium/contracts/ports/registrar';
import { z } from 'zod';
import { askJson } from '../web/http.ts';

const WITHIN_MS = 6000;
const isSuccess = (status: number): boolean => status >= 200 && status < 300;
type Exchange = Omit<Parameters<typeof askJson>[1], 'withinMs'>;
const refusal = z.object({ error: z.string() });

export function createHttpRegistrar({
  rdapUrl,
  accountUrl,
  token,
}: {
  rdapUrl: string;
  accountUrl: string;
  token: string;
}): RegistrarPort {
  async function call(url: string, exchange: Exchange = {}) {
    try {
      return await askJson(url, { ...exchange, withinMs: WITHIN_MS });
    } catch (error) {
      throw new DomainError(
        'registrar-unreachable',
        { detail: error instanceof Error && error.name === 'TimeoutError' ? 'no answer in time' : 'no connection' },
        { cause: error },
      );
    }
  }
  const askAccount = (path: string, exchange: Exchange = {}) =>
    call(`${accountUrl}${path}`, { ...exchange, headers: { authorization: `Bearer ${token}` } });
  async function account<T extends z.ZodType>(schema: T, path: string, exchange?: Exchange): Promise<z.output<T>> {
    const { status, json } = await askAccount(path, exchange);
    if (isSuccess(status)) return schema.parse(json);
    const parsed = refusal.safeParse(json);
    throw new DomainError('registrar-refused', {
      detail: parsed.success ? parsed.data.error : `answer ${status}`,
    });
  }
  const path = (name: string) => encodeURIComponent(name);
  return {
    async registration(name): Promise<Registration> {
      const { status, json } = await call(`${rdapUrl}/domain/${path(name)}`);
      if (status === 404) return { kind: 'free' };
      if (!isSuccess(status))
        throw new DomainError('registrar-unreachable', { detail: reason('answer-status', { status }) });
      const { events, nameservers } = rdapDomain.parse(json);
      return {
        kind: 'held',
        expiresAt: events.find(({ eventAction }) => eventAction === 'expiration')?.eventDate ?? null,
        nameServers: nameservers.map(({ ldhName }) => ldhName.toLowerCase().replace(/\.$/, '')),
      };
    },
    prices: async () => (await account(prices, '/prices')).prices,
    register: (order) => account(holding, '/orders', { method: 'POST', json: order }),
    async holding(name) {
      const { status, json } = await askAccount(`/holdings/${path(name)}`);
      if (status === 404) return undefined;
      if (!isSuccess(status))
        throw new DomainError('registrar-refused', { detail: reason('answer-status', { status }) });
      return holding.parse(json);
    },
    zone: async (name) => (await account(zoneText, `/zones/${path(name)}`)).text,
    async replaceZone(name, text) {
      await account(z.unknown(), `/zones/${path(name)}`, { method: 'PUT', json: { text } });
    },
  };
}

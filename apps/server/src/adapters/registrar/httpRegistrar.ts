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

const WITHIN_MS = 6000;
const refusal = z.object({ error: z.string() });

export function httpRegistrar({
  rdapUrl,
  accountUrl,
  token,
}: {
  rdapUrl: string;
  accountUrl: string;
  token: string;
}): RegistrarPort {
  async function call(url: string, init: RequestInit = {}): Promise<Response> {
    try {
      return await fetch(url, { ...init, signal: AbortSignal.timeout(WITHIN_MS) });
    } catch (error) {
      throw new DomainError(
        'registrar-unreachable',
        { detail: error instanceof Error && error.name === 'TimeoutError' ? 'no answer in time' : 'no connection' },
        { cause: error },
      );
    }
  }
  async function account<T extends z.ZodType>(schema: T, path: string, init?: RequestInit): Promise<z.output<T>> {
    const answer = await call(`${accountUrl}${path}`, {
      ...init,
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
    });
    const body: unknown = await answer.json();
    if (answer.ok) return schema.parse(body);
    const parsed = refusal.safeParse(body);
    throw new DomainError('registrar-refused', {
      detail: parsed.success ? parsed.data.error : `answer ${answer.status}`,
    });
  }
  const path = (name: string) => encodeURIComponent(name);
  return {
    async registration(name): Promise<Registration> {
      const answer = await call(`${rdapUrl}/domain/${path(name)}`);
      if (answer.status === 404) return { kind: 'free' };
      if (!answer.ok)
        throw new DomainError('registrar-unreachable', { detail: reason('answer-status', { status: answer.status }) });
      const { events, nameservers } = rdapDomain.parse(await answer.json());
      return {
        kind: 'held',
        expiresAt: events.find(({ eventAction }) => eventAction === 'expiration')?.eventDate ?? null,
        nameServers: nameservers.map(({ ldhName }) => ldhName.toLowerCase().replace(/\.$/, '')),
      };
    },
    prices: async () => (await account(prices, '/prices')).prices,
    register: (order) => account(holding, '/orders', { method: 'POST', body: JSON.stringify(order) }),
    async holding(name) {
      const answer = await call(`${accountUrl}/holdings/${path(name)}`, {
        headers: { authorization: `Bearer ${token}` },
      });
      if (answer.status === 404) return undefined;
      if (!answer.ok)
        throw new DomainError('registrar-refused', { detail: reason('answer-status', { status: answer.status }) });
      return holding.parse(await answer.json());
    },
    zone: async (name) => (await account(zoneText, `/zones/${path(name)}`)).text,
    async replaceZone(name, text) {
      await account(z.unknown(), `/zones/${path(name)}`, { method: 'PUT', body: JSON.stringify({ text }) });
    },
  };
}

/** In the place of `api/large.ts` in tests: the same answers, read here, since jsdom has no workers. */
import { api } from '@fastigium/contracts/api';
import type { Endpoint } from '@fastigium/contracts/endpoint';
import { call } from '../api/client.ts';

export function callLarge(feature: string, name: string, params: Record<string, string>): Promise<unknown> {
  const endpoint = (api as unknown as Record<string, Record<string, Endpoint>>)[feature]?.[name];
  if (!endpoint) throw new Error(`there is no ${feature}.${name}`);
  return call(endpoint, { params });
}

/** What the tests of accounts share: a house, people who have joined it, and asking about them. */
import type { Account } from '@fastigium/contracts/api/account';
import type { People } from '@fastigium/contracts/api/people';
import { afterAll, beforeAll, beforeEach, expect } from 'vitest';
import type { Client } from './client.ts';
import { openHouse, type House } from './harness.ts';

export let house: House;

/** For the tests of one file. @param env what is set in it beside the usual, once that is known */
export function useAccounts(env: () => Record<string, string> = () => ({})): void {
  beforeAll(async () => {
    house = await openHouse({ env: env() });
  });
  afterAll(() => house.stop());
  beforeEach(() => house.server.deps.db.run('truncate sign_in_attempt'));
}

export const GOOD = 'seven herons over slate';
export const NEXT = 'nine otters under chalk';

let count = 0;
export async function joined(role: string, sites: string[] | null = null): Promise<{ client: Client; email: string }> {
  const email = `person${(count += 1)}@house.example`;
  const { body } = await house.owner.post<{ token: string }>('/api/invitations', { role, sites });
  const client = house.client();
  await client.start();
  const answer = await client.post(`/api/join/${body.token}`, { name: `Person ${count}`, email, password: GOOD });
  expect(answer.status).toBe(201);
  return { client, email };
}
export async function again(email: string, password = GOOD): Promise<Client> {
  const client = house.client();
  expect((await client.signIn(email, password)).status).toBe(200);
  return client;
}
export const idOf = async (email: string) =>
  (await house.owner.get<People>('/api/people')).body.members.find((each) => each.email === email)?.id ?? '';
export const account = async (client: Client) => (await client.get<Account>('/api/account')).body;
export const code = (answer: { body: unknown }) => (answer.body as { error?: { code: string } }).error?.code;

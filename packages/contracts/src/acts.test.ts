/** Everything that stands on the audit trail is said there, and nothing else. */
import { expect, it } from 'vitest';
import { findAct } from './acts.ts';
import { api } from './api.ts';
import type { Endpoint } from './endpoint.ts';
import { act } from './messages/act.ts';

const endpoints = Object.values(api).flatMap((each) => Object.values(each) as Endpoint[]);
/** Written by hand, since who did it is known only afterwards. */
const ENTRANCE = /^act\.(session|people)-(sign-in|second|create-owner|sign-out|join|use-reset|forgot)$/;

it('each endpoint on the trail has its own act, and each act its endpoint', () => {
  const named: string[] = endpoints
    .filter(({ trail }) => trail !== undefined)
    .map((endpoint) => findAct(endpoint).code);
  expect(new Set(named).size).toBe(named.length);
  const all = Object.keys(act.definitions).map((name) => `act.${name}`);
  const rest = all.filter((code) => !named.includes(code) && !ENTRANCE.test(code));
  expect(rest).toEqual(['act.as-written', 'act.secrets-sealed']);
  expect(all.filter((code) => ENTRANCE.test(code))).toHaveLength(7);
});

it('has no words for what is not on the trail', () => {
  expect(() => findAct(api.sites.list)).toThrow('there are no words for /sites');
});

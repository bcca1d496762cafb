/** What the interface makes of messages beside saying them. */
import { DomainError } from '@fastigium/contracts/errors';
import { menu } from '@fastigium/contracts/messages/names';
import { expect, it } from 'vitest';
import { explain, explainKept, findFirstClause, sayMenuPlace } from './index.ts';

it.each([
  ['error.sign-in-wrong', 'This name and password do not belong together'],
  // What something fills says nothing without it, and what nobody knows says nothing at all.
  ['error.email-taken', undefined],
  ['error.of-tomorrow', undefined],
])('%s begins with %s', (code, clause) => expect(findFirstClause(code)).toBe(clause));

it('what went wrong is said in words, whoever threw it', () => {
  expect(explain(new DomainError('name-taken', { name: 'Moor' }))).toContain('Moor');
  expect(explain(new Error('the line broke'))).toBe('the line broke');
  expect(explain('nothing of an error')).toBe('nothing of an error');
  const kept = { code: 'host-unreachable', details: { detail: { code: 'reason.no-room', parameters: {} } } } as const;
  expect(explainKept(kept)).toContain('(no room left)');
});

it('a menu is called by its place alone', () => {
  const first = menu('beginning-with', { menu: menu('foot'), first: 'Home' });
  expect([menu('foot'), first, menu('nth', { menu: first, nth: 2 })].map(sayMenuPlace)).toEqual([
    'Foot menu',
    'Foot menu',
    'Foot menu',
  ]);
});

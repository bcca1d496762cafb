/** Answers to who may not come in. Source: RFC 9110, sections 15.5.2, 15.6.4, 15.5.11 and 11.6.1. */
import { describe, expect, it } from 'vitest';
import { judgeClosed, type Answer } from './index.ts';

const PUBLISHED = 'a'.repeat(64);
const answer = (status: number, more: Partial<Answer> = {}): Answer => ({
  status,
  headers: {},
  sizeBytes: 9,
  hash: 'b'.repeat(64),
  ...more,
});
const judged = (...asked: Parameters<typeof judgeClosed>) => judgeClosed(...asked).map(({ message }) => message);

describe('what is closed', () => {
  it.each([
    ['nobody', 503],
    ['over', 410],
  ] as const)('to %s answers %d and nothing else', (kind, status) => {
    expect(judged('/', kind, answer(status), PUBLISHED)).toEqual([]);
    expect(judged('/', kind, answer(404), PUBLISHED)).toEqual([
      { code: 'finding.closed-otherwise', parameters: { status: 404, expected: status, although: kind } },
    ]);
  });

  it('by a password answers 401 with a challenge that browsers know', () => {
    const asked = (headers: Answer['headers']) => judged('/', 'password', answer(401, { headers }), PUBLISHED);
    expect(asked({ 'www-authenticate': 'Basic realm="x"' })).toEqual([]);
    expect(asked({})).toEqual([{ code: 'finding.no-challenge', parameters: {} }]);
    expect(asked({ 'www-authenticate': 'Bearer' })).toEqual([{ code: 'finding.no-challenge', parameters: {} }]);
  });

  it.each([
    ['a page', answer(200)],
    ['nothing', answer(204)],
    ['what was published, whatever its status', answer(503, { hash: PUBLISHED })],
  ])('is open where it gives %s', (_, given) =>
    expect(judged('/', 'nobody', given, PUBLISHED)).toEqual([
      { code: 'finding.open', parameters: { although: 'nobody' } },
    ]),
  );
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { defineMessages, isSameMessage, type Message } from './index.ts';

const fruit = defineMessages('fruit', { ripe: {}, eaten: { by: 'text', count: 'number', more: 'list' } });

const message: fc.Arbitrary<Message> = fc.letrec<{ message: Message }>((tie) => ({
  message: fc.record({
    code: fc.constantFrom('a.b', 'a.c', 'd.b'),
    parameters: fc.dictionary(
      fc.constantFrom('x', 'y'),
      fc.oneof(
        { maxDepth: 2 },
        fc.constantFrom('one', 'two'),
        fc.integer({ min: 0, max: 2 }),
        fc.array(fc.constantFrom('one', 'two'), { maxLength: 2 }),
        tie('message'),
      ),
    ),
  }),
})).message;

describe('messages', () => {
  it('are a code of their subject and what fills it', () => {
    expect(fruit('ripe')).toEqual({ code: 'fruit.ripe', parameters: {} });
    expect(fruit('eaten', { by: 'Ada', count: 2, more: ['pears', fruit('ripe')] })).toEqual({
      code: 'fruit.eaten',
      parameters: { by: 'Ada', count: 2, more: ['pears', { code: 'fruit.ripe', parameters: {} }] },
    });
    expect([fruit.subject, Object.keys(fruit.definitions)]).toEqual(['fruit', ['ripe', 'eaten']]);
  });

  it('say the same where all within them is the same, in whatever order it was written (property)', () => {
    fc.assert(
      fc.property(message, message, (one, other) => {
        const sorted = (value: unknown): unknown =>
          typeof value !== 'object' || value === null
            ? value
            : Array.isArray(value)
              ? value.map(sorted)
              : Object.fromEntries(
                  Object.entries(value)
                    .sort(([a], [b]) => (a < b ? -1 : 1))
                    .map(([key, each]) => [key, sorted(each)]),
                );
        expect(isSameMessage(one, other)).toBe(JSON.stringify(sorted(one)) === JSON.stringify(sorted(other)));
        expect(isSameMessage(one, JSON.parse(JSON.stringify(one)) as Message)).toBe(true);
      }),
    );
  });
});

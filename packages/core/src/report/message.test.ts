/** What a message about a release says. The words are our own; no source. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MOST_LETTERS, createReleaseMessage } from './message.ts';

const facts = {
  site: 'Moor',
  url: 'https://moor.example/',
  isFirst: false,
  newPages: [] as string[],
  changedPages: [] as string[],
};

describe('a message about a release', () => {
  it.each([
    [{ ...facts, isFirst: true }, 'Moor has a new site: https://moor.example/'],
    [
      { ...facts, newPages: ['Star party', 'Meteors'], changedPages: ['Visit'] },
      'New at Moor: Star party, Meteors. https://moor.example/',
    ],
    [{ ...facts, changedPages: ['Visit'] }, 'Brought up to date at Moor: Visit. https://moor.example/'],
    [facts, 'Moor has been brought up to date. https://moor.example/'],
  ])('%#', (given, text) => expect(createReleaseMessage(given)).toBe(text));

  it('is never longer than places take, and always ends with the address (property)', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ minLength: 1, maxLength: 200 }), { maxLength: 40 }), (newPages) => {
        const text = createReleaseMessage({ ...facts, newPages });
        expect([...text].length).toBeLessThanOrEqual(MOST_LETTERS);
        expect(text.endsWith('https://moor.example/')).toBe(true);
      }),
    );
  });
});

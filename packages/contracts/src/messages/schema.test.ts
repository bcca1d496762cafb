/** Messages of other versions: a row or a page outlives the version it is of (common practice, no source). */
import { decision } from './decision.ts';
import { notice } from './notice.ts';
import { anyMessage, createMessageSchema, part } from './schema.ts';
import { ENGLISH, speakerFor } from '@fastigium/words';
import { describe, expect, it } from 'vitest';

const decisions = createMessageSchema(decision);

describe('a message that is read', () => {
  it('is one of its subject', () => {
    const renamed = decision('address-set', { before: '/a/', after: '/b/', below: 2 });
    expect(decisions.parse(renamed)).toEqual(renamed);
    expect(decisions.safeParse(notice('as-written', { text: 'x' })).success).toBe(false);
    expect(decisions.safeParse('a text').success).toBe(false);
    expect(part.parse('a text')).toBe('a text');
  });

  it('may be of another version: what it says less takes nothing else with it', () => {
    const older = { code: 'decision.removed', parameters: { thing: { code: 'thing.pages', parameters: {} } } };
    const newer = { code: 'decision.of-tomorrow', parameters: { how: ['a', { code: 'line.title', parameters: {} }] } };
    const read = [older, newer].map((each) => decisions.parse(each));
    expect(read).toEqual([older, newer]);
    expect(read.map(speakerFor(ENGLISH))).toEqual(['Pages removed', 'decision.of-tomorrow']);
  });

  it.each([
    ['no code', { parameters: {} }],
    ['a code of no subject', { code: 'nothing', parameters: {} }],
    ['filled with what is no part of a message', { code: 'decision.undone', parameters: { decision: { a: 1 } } }],
  ])('is refused with %s', (_, message) => expect(anyMessage.safeParse(message).success).toBe(false));
});

// @vitest-environment jsdom
/** Sentences with more in them than words. */
import { createSay } from '@fastigium/words';
import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { h } from 'vue';
import RichWords from './RichWords.ts';

const say = createSay(
  {
    part: {
      plain: 'All of it',
      linked: 'Live at <link>{name}</link> <quiet>and by <b>{other}</b></quiet>',
      counted: '{pages, plural, one {# page} other {# pages}}, {share, number} of them new',
      chosen: '{isOwner, select, true {Connect one.} other {An owner connects one.}}',
    },
  },
  'en-GB',
);

describe('a phrase', () => {
  it.each([
    [say('part.plain'), 'All of it'],
    [say('part.counted', { pages: 1, share: 1 }), '1 page, 1 of them new'],
    // Groups of three, as CLDR has English write them.
    [say('part.counted', { pages: 12_345, share: 1000 }), '12,345 pages, 1,000 of them new'],
    [say('part.chosen', { isOwner: true }), 'Connect one.'],
    [say('part.chosen', { isOwner: false }), 'An owner connects one.'],
    // What stands around words is for screens; the words are the same without.
    [say('part.linked', { name: 'moor.example', other: 'x.example' }), 'Live at moor.example and by x.example'],
    // Nothing is filled by nothing, and what nobody gave shows that it is missing.
    [say('part.linked', { name: null, other: undefined }), 'Live at  and by '],
    [say('part.linked'), 'Live at … and by …'],
  ])('%s', (said, expected) => expect(said).toBe(expected));
});

describe('rich words', () => {
  const words = say.parts('part.linked', { name: 'moor.example', other: 'x.example' });

  it('are given to the slot of their name; the others are elements, or spans of that class', () => {
    const shown = mount(RichWords, {
      props: { words },
      slots: { link: ({ words: inside }: { words: string }) => h('a', { href: `https://${inside}/` }, inside) },
    });
    expect(shown.html({ raw: true })).toContain(
      'Live at <a href="https://moor.example/">moor.example</a> <span class="quiet">and by <b>x.example</b></span>',
    );
  });

  it('stay text, whatever is in them', () => {
    const shown = mount(RichWords, { props: { words: say.parts('part.linked', { name: '<b>no</b>', other: '' }) } });
    expect(shown.text()).toContain('<b>no</b>');
    expect(shown.find('.link b').exists()).toBe(false);
  });
});

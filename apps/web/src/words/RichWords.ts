/**
 * A sentence with more in it than words: `Live at <link>{name}</link>`. What stands around a part is the slot of its
 * name, which is given the words; a part without a slot is an element of its name, or a span of that class.
 */
import { wordsIn, type PhrasePart } from '@fastigium/words/entrance';
import { h, type FunctionalComponent, type VNodeChild } from 'vue';

const ELEMENTS = new Set(['b', 'code', 'em', 'strong', 'u']);

const RichWords: FunctionalComponent<
  { words: readonly PhrasePart[] },
  Record<never, never>,
  Record<string, (around: { words: string }) => VNodeChild>
> = ({ words }, { slots }) => {
  const show = (part: PhrasePart): VNodeChild => {
    if (typeof part === 'string') return part;
    const { tag, parts } = part;
    const slot = slots[tag];
    if (slot) return slot({ words: wordsIn(parts) });
    return ELEMENTS.has(tag) ? h(tag, parts.map(show)) : h('span', { class: tag }, parts.map(show));
  };
  return words.map(show);
};
RichWords.props = ['words'];

export default RichWords;

/** Why a name is as good as it is. */
import { defineMessages, type MessageOf } from '../../messages/index.ts';

export const nameScore = defineMessages('name-score', {
  short: { letters: 'number' },
  'middle-length': { letters: 'number' },
  long: { letters: 'number' },
  'easy-to-say': { syllables: 'number' },
  'long-to-say': { syllables: 'number' },
  'hard-to-spell': { letters: 'text' },
  'three-in-a-row': { letters: 'text' },
  hyphens: { count: 'number' },
  digits: {},
  'says-nothing': {},
  'says-what': { words: 'series' },
  'long-ending': { parts: 'number', ending: 'text' },
  'looks-like': { letter: 'text', other: 'text' },
  'runs-together': { letters: 'text' },
});
export type NameScoreMessage = MessageOf<typeof nameScore>;

/** What a decision about the draft did, for the history and for whoever is asked to look at it again. */
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

const ONE_OF_TWO = ['yes', 'no'] as const;

export const decision = defineMessages('decision', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  undone: { decision: 'message' },
  redone: { decision: 'message' },
  /** Taken back for one release, and done again after it. */
  'left-out': { decision: 'message' },
  'in-draft': { decision: 'message' },

  'title-set': { address: 'text', title: 'text' },
  'name-set': { before: 'text', title: 'text' },
  'address-set': { before: 'text', after: 'text', below: 'number' },
  'placed-at-top': { name: 'text', elsewhere: ONE_OF_TWO },
  'placed-under': { name: 'text', parent: 'text', elsewhere: ONE_OF_TWO },
  'page-duplicated': { name: 'text', title: 'text', address: 'text' },
  'page-added': { title: 'text', address: 'text' },
  'group-added': { title: 'text' },
  'link-added': { title: 'text', url: 'text' },
  'node-removed': { title: 'text', kind: ['group', 'link'] },
  'ready-set': { name: 'text', ready: ONE_OF_TWO },
  'in-menus-set': { name: 'text', shown: ONE_OF_TWO },
  'style-set': { style: ['imported', 'slash', 'bare', 'html'] },
  'base-path-set': { path: 'text' },
  'base-path-root': {},
  'home-set': { name: 'text' },
  'listing-set': { name: 'text', perPage: 'number' },
  'listing-removed': { name: 'text' },
  'menu-set': { menu: 'message', items: 'series' },
  'menu-reset': { menu: 'message' },
  touched: { touch: 'message', where: 'message' },
  'touch-removed': { touch: 'message' },

  /** `lines` are named up to two; of more, `kinds` counts them. */
  'head-set': {
    where: 'message',
    lines: 'list',
    kinds: 'number',
    how: ['inherited', 'leftOut', 'kept', 'inPlaceOfOwn', 'set'],
  },
  'head-set-to': { where: 'message', line: 'message', text: 'text' },
  'icons-made': { file: 'text' },
  'icons-made-of-picture': {},
  'icons-removed': {},

  'redirect-set': { from: 'text', to: 'text', status: 'number' },
  'redirect-gone': { from: 'text' },
  'redirects-set': { parts: 'series' },
  'part-patterns': { count: 'number' },
  'part-redirected': { count: 'number' },
  'part-gone': { count: 'number' },
  'part-left-to-pattern': { count: 'number' },
  'part-open-again': { count: 'number' },
  'redirect-removed': { from: 'text' },
  /** `from`: the first of them. */
  flattened: { count: 'number', from: 'text' },
  'pattern-set': { pattern: 'text', to: 'text', status: 'number' },
  'pattern-gone': { pattern: 'text' },
  'pattern-removed': { pattern: 'text' },
  'patterns-ordered': {},
  'redirects-came': { count: 'number' },
  'redirects-crawled': { host: 'text', count: 'number' },

  /** `page`: where its address leads; `home`: what becomes the home page. Empty where there is none. */
  removed: {
    thing: 'message',
    /** How much goes with it, where it is a branch. */
    below: 'number',
    leads: ['nowhere', 'gone', 'home', 'page'],
    page: 'text',
    newHome: ONE_OF_TWO,
    home: 'text',
  },
  'put-back': { thing: 'message', more: 'number', readdressed: ONE_OF_TWO, address: 'text' },
  'many-put-back': { count: 'number' },
  held: { count: 'number', reason: 'text' },
  freed: { count: 'number' },
  /** `label`: the first of them. */
  swept: { count: 'number', label: 'text', by: ['person', 'time'] },
  'page-of-release': { title: 'text', release: 'number', address: 'text' },
  'text-of-release': { name: 'text', release: 'number' },
  'text-of-file': { name: 'text' },
  'section-of-release': { section: 'text', page: 'text', release: 'number' },
  'file-of-release': { address: 'text', release: 'number' },
  'file-added': { address: 'text' },

  'export-taken': { file: 'text', added: 'number', changed: 'number', moved: 'number', dropped: 'number' },
  'as-export-has-it': { touch: 'message' },
  'title-of-export': { title: 'text' },
  'kept-over-export': { touch: 'message' },
  'former-place': { touch: 'message' },

  'entry-set': { who: ['everyone', 'nobody', 'password'], where: 'message' },
  'entry-removed': { where: 'message' },
  'shown-instead': { name: 'text' },
  'not-shown-instead': {},
  'last-day-set': { day: 'day' },
  'last-day-removed': {},
});
export type DecisionMessage = MessageOf<typeof decision>;

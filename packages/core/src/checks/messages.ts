/** What tells one finding of a check from others of its kind, where that takes a sentence. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

export const snag = defineMessages('snag', {
  'language-unknown': { tag: 'text', why: 'message' },
  data: { problem: 'message' },
  'data-at': { at: 'text', problem: 'message' },
  nested: { checks: 'clauses' },
});
export type SnagMessage = MessageOf<typeof snag>;

const CODES = {
  'file-secret': {},
  'site-shut': {},
  'sample-text': {},
  'link-private': {},
  'link-staging': {},
  'link-empty': {},
  'title-missing': {},
  'title-long': {},
  'description-missing': {},
  'description-long': {},
  'language-missing': {},
  'language-unknown': {},
  'head-doubled': {},
  'canonical-relative': {},
  'data-faulty': {},
  'viewport-missing': {},
  'charset-missing': {},
  'heading-order': {},
  'alt-missing': {},
  'picture-dimensions': {},
  'mixed-content': {},
  'contrast-low': {},
  'office-document': {},
  'new-window-opener': {},
  'page-shut': {},
  'page-unchecked': {},
  'link-dead': {},
  'anchor-dead': {},
  'listing-unreached': {},
  'listing-content': {},
  'menu-differs': {},
  'page-orphan': {},
  'title-doubled': {},
  'description-doubled': {},
  'head-conflict': {},
  'canonical-gone': {},
  'sitemap-shut': {},
  'share-picture-small': {},
  'redirect-loop': {},
  'redirect-dead': {},
  'redirect-no-target': {},
  'redirect-chain': {},
  'redirect-idle': {},
  'redirect-twice': {},
  'redirect-outside': {},
  'redirect-over': {},
  'sample-picture': {},
  'picture-doubled': {},
  'picture-heavy': {},
  'name-case': {},
} as const;
export type CheckCode = keyof typeof CODES;

/** What is wrong, as the name of a group. */
export const check = defineMessages('check', CODES);
export type CheckMessage = MessageOf<typeof check>;

/** How it is mended. */
export const remedy = defineMessages('remedy', CODES);
export type RemedyMessage = MessageOf<typeof remedy>;

// Of a code that is not known before, the type of its message is not worked out.
export const titleOf = (code: CheckCode): CheckMessage => check(code) as CheckMessage;
export const remedyOf = (code: CheckCode): RemedyMessage => remedy(code) as RemedyMessage;

/** What stands on the button of one step that mends a finding. */
export const mend = defineMessages('mend', {
  'set-language': {},
  'set-words': {},
  declare: {},
  'take-away': {},
  'add-noopener': {},
  'take-heading': {},
  'take-paragraph': {},
  'write-size': { width: 'number', height: 'number' },
  'lead-there': {},
  'use-what-is-set': {},
});
export type MendMessage = MessageOf<typeof mend>;

/** What has to be answered first. */
export const question = defineMessages('question', {
  language: {},
  picture: {},
});
export type QuestionMessage = MessageOf<typeof question>;

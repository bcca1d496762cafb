/** What tells one finding of a check from others of its kind, where that takes a sentence. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

/** What a file that must not go live is. */
export const SECRET_KINDS = [
  'settings',
  'key',
  'database',
  'repository',
  'passwords',
  'leftover',
  'tools',
  'build',
  'log',
] as const;

export const snag = defineMessages('snag', {
  'language-unknown': { tag: 'text', why: 'message' },
  data: { problem: 'message' },
  'data-at': { at: 'text', problem: 'message' },
  nested: { checks: 'clauses' },
  'styles-nested': {},
  'everyone-out': {},
  'noindex-everywhere': {},
  secret: { kind: SECRET_KINDS },
  'link-without-words': {},
  'picture-without-address': {},
  'picture-wide': { width: 'number', shown: 'number', size: 'bytes' },
  'picture-large': { size: 'bytes' },
  'share-small': { picture: 'text', width: 'number', height: 'number' },
  'heading-first': { level: 'number', text: 'text' },
  'heading-after': { level: 'number', before: 'number', text: 'text' },
  'title-empty': {},
  'no-title': {},
  'title-wide': { width: 'number', text: 'text' },
  'description-empty': {},
  'no-description': {},
  'description-long': { letters: 'number', text: 'text' },
  'no-language': {},
  'no-viewport': {},
  'read-as': { encoding: 'text' },
  'canonical-empty': {},
  'line-twice': { line: ['description', 'robots', 'shareTitle', 'shareText', 'canonical'] },
  contrast: { colour: 'text', ground: 'text', ratio: 'text', least: 'number', text: 'text' },
  conflict: {
    line: 'text',
    own: 'text',
    set: 'text',
    isOut: ['yes', 'no'],
    from: ['site', 'branch', 'page', 'computed'],
  },
  'menu-lacks': { label: 'text' },
  'menu-has-more': { label: 'text' },
  'menu-differs': { how: 'series' },
  'menu-order': {},
});
export type SnagMessage = MessageOf<typeof snag>;
/** A text of the page itself as it stands, or what is said about it. */
export type SnagDetail = string | SnagMessage;

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
export const createCheckTitle = (code: CheckCode): CheckMessage => check(code) as CheckMessage;
export const createRemedy = (code: CheckCode): RemedyMessage => remedy(code) as RemedyMessage;

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

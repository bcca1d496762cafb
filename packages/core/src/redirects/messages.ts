/** What is told about redirects: as rules, as patterns, in files of servers, and on the live site. */
import { defineMessages, type MessageOf } from '../messages/index.ts';

/** How a live way differs from the one that was published. */
export const liveWay = defineMessages('live-way', {
  /** Words written before messages were kept as data. */
  'as-written': { text: 'text' },
  'no-answer': { reason: 'part' },
  'ends-before': { address: 'text' },
  status: { address: 'text', found: 'number', published: 'number' },
  'leads-elsewhere': { found: 'text', published: 'text' },
  'leads-nowhere': { published: 'text' },
  'leads-on': { to: 'text' },
  differs: {},
});
export type LiveWayMessage = MessageOf<typeof liveWay>;

/** What is wrong with a rule, said beside the rule. */
export const ruleFault = defineMessages('rule-fault', {
  /** `way`: addresses with arrows between them. */
  circle: { way: 'text' },
  detour: { steps: 'number', end: 'text', way: 'text' },
  'detour-to-gone': { steps: 'number', way: 'text' },
  'leads-nowhere': { at: 'text' },
  'leads-many-nowhere': { count: 'number', at: 'text' },
  'page-first': { address: 'text' },
  'rule-first': { address: 'text' },
  twice: { other: 'text' },
  'pattern-in-circle': { pattern: 'text' },
  'pattern-to-nowhere': { pattern: 'text', at: 'text' },
  'target-gone': {},
  over: { until: 'day' },
  'outside-away': { url: 'text', problem: 'part' },
});
export type RuleFaultMessage = MessageOf<typeof ruleFault>;

/** Why a pattern, or where it leads, cannot be read. */
export const patternFault = defineMessages('pattern', {
  'too-long': { most: 'number' },
  'no-slash': {},
  'host-with-parts': {},
  'name-twice': { name: 'text' },
  'backslash-at-end': {},
  'colon-without-name': {},
  'not-ascii': {},
  'question-mark-first': {},
  empty: {},
  'named-group': {},
  'parenthesis-open': {},
  'parenthesis-many': {},
  'brace-open': {},
  'letter-not-here': { letter: 'text' },
  'repeats-twice': {},
  'repeats-backwards': {},
  'repeats-many': { most: 'number' },
  'looks-around': {},
  'group-open': {},
  'ends-asserted': {},
  'refers-back': {},
  'escape-unknown': { letter: 'text' },
  'bracket-open': {},
  'range-of-sets': {},
  'range-backwards': {},
  'too-large': {},
  'target-letter': {},
  'target-beginning': {},
  'target-host': {},
  'target-no-parts': { name: 'text' },
  'target-no-part': { name: 'text', names: 'series' },
});
export type PatternMessage = MessageOf<typeof patternFault>;

/** Why a line of a file was not taken: of rules, or of old addresses. */
export const unread = defineMessages('unread', {
  'for-some-requests': {},
  'in-section': {},
  'quotation-open': {},
  condition: {},
  'under-condition': {},
  'no-redirect': {},
  'no-slash': {},
  'sends-nowhere': {},
  'target-variables': {},
  'beyond-groups': {},
  'more-than-return': {},
  'named-location': {},
  'blocks-deep': {},
  'brace-without': {},
  'brace-open': {},
  'no-semicolon': {},
  'no-end': {},
  'no-status': { text: 'text' },
  'status-unknown': { status: 'number', known: 'series' },
  'first-counts': { line: 'number', from: 'text' },
  'no-address-of-site': { text: 'text' },
  'no-target': { text: 'text' },
  empty: {},
  'no-web-address': {},
  'no-address': {},
  'no-address-in-line': {},
  'link-dead': {},
  'column-empty': {},
  'no-visits': {},
  'line-too-long': {},
  'no-log-line': {},
});
export type UnreadMessage = MessageOf<typeof unread>;

/** Why a rule cannot be said in the form of a server. */
export const unsaid = defineMessages('unsaid', {
  'alias-other-name': {},
  'alias-leads-to': { to: 'text' },
  'alias-encoded': {},
  'alias-quotation': {},
  'alias-query-into': {},
  'alias-encodes-again': {},
  'alias-query-unseen': {},
  'alias-query-on': {},
  'alias-query-behind': {},
  'alias-two-slashes': {},
  'alias-groups': { most: 'number' },
  'nginx-groups': { most: 'number' },
  'page-query': {},
  'page-other-type': {},
  'page-there': {},
  'page-gone': {},
});
export type UnsaidMessage = MessageOf<typeof unsaid>;

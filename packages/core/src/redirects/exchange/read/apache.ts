/**
 * Redirects in Apache's plain forms: lines of mod_alias, single rewriting rules with [R], and the lines of a text
 * map. Source: Apache HTTP Server 2.4 documentation, mod_alias and mod_rewrite.
 */
import { escapePattern } from '../../pattern/source.ts';
import { readPlainExpression, readTargetOfGroups } from './expression.ts';
import { unread, type UnreadMessage } from '../../messages.ts';
import { RuleGatherer, type RulesReading, type Written } from './reading.ts';

const NAMED_STATUS: Readonly<Record<string, number>> = { permanent: 301, temp: 302, seeother: 303, gone: 410 };
/** They are about redirects and are none. */
const SILENT = /^(?:RewriteEngine|RewriteBase|RewriteOptions|RewriteMap|<\/?IfModule)\b/i;

export function readApacheRules(text: string): RulesReading {
  const gatherer = new RuleGatherer();
  let conditioned = false;
  let section = 0;
  text.split(/\r\n|\r|\n/).forEach((whole, index) => {
    const [line, trimmed] = [index + 1, whole.trim()];
    if (trimmed === '' || trimmed.startsWith('#') || SILENT.test(trimmed)) return;
    if (/^<\//.test(trimmed)) {
      section = Math.max(0, section - 1);
      return;
    }
    if (trimmed.startsWith('<')) {
      section += 1;
      gatherer.refuse(line, whole, unread('for-some-requests'));
      return;
    }
    const words = splitArguments(trimmed);
    if (words === undefined) {
      gatherer.refuse(line, whole, unread('quotation-open'));
      return;
    }
    const isRule = /^RewriteRule$/i.test(words[0] ?? '');
    const isUnderCondition = conditioned && isRule;
    if (/^RewriteCond$/i.test(words[0] ?? '')) {
      conditioned = true;
      gatherer.refuse(line, whole, unread('condition'));
      return;
    }
    conditioned = false;
    if (section > 0) gatherer.refuse(line, whole, unread('in-section'));
    else if (isUnderCondition) gatherer.refuse(line, whole, unread('under-condition'));
    else {
      const read = readDirective(words);
      if ('code' in read) gatherer.refuse(line, whole, read);
      else for (const each of [read].flat()) gatherer.take({ ...each, line, text: whole });
    }
  });
  return gatherer.reading;
}

type Read = Omit<Written, 'line' | 'text'>;

function readDirective(words: readonly string[]): Read | Read[] | UnreadMessage {
  const [name = '', ...rest] = words;
  switch (name.toLowerCase()) {
    case 'redirect':
      return readRedirect(rest);
    case 'redirectpermanent':
      return readRedirect(['permanent', ...rest]);
    case 'redirecttemp':
      return readRedirect(['temp', ...rest]);
    case 'redirectmatch':
      return readRedirectMatch(rest);
    case 'rewriterule':
      return rewriteRule(rest);
    default:
      // A line of a text map: key and value.
      if (/^(?:\/|https?:\/\/)/i.test(name) && rest.length === 1) return { from: name, status: 301, to: rest[0] };
      return unread('no-redirect');
  }
}

function withStatus(words: readonly string[]): { status: number; rest: readonly string[] } {
  const [first = '', ...rest] = words;
  const status = NAMED_STATUS[first.toLowerCase()] ?? (/^\d{3}$/.test(first) ? Number(first) : undefined);
  return status === undefined ? { status: 302, rest: words } : { status, rest };
}

/** What is below an old address goes with it; that is meant where it ends with a slash, and elsewhere there is seldom anything. */
function readRedirect(words: readonly string[]): Read | Read[] | UnreadMessage {
  const {
    status,
    rest: [from = '', to],
  } = withStatus(words);
  if (!from.startsWith('/')) return unread('no-slash');
  const exact = { from, status, to };
  if (!from.endsWith('/') || from === '/' || /[?#]/.test(to ?? '')) return exact;
  return [
    exact,
    {
      from: `${escapePattern(from)}*`,
      isPattern: true,
      status,
      to: to === undefined ? undefined : `${readTargetOfGroups(to).to}:0`,
    },
  ];
}

function readRedirectMatch(words: readonly string[]): Read | UnreadMessage {
  const {
    status,
    rest: [source = '', to = ''],
  } = withStatus(words);
  return readByExpression(source, status, to);
}

function rewriteRule([source = '', target = '', flags = '']: readonly string[]): Read | UnreadMessage {
  const names = flags
    .replace(/^\[|\]$/g, '')
    .split(',')
    .map((flag) => flag.trim());
  const ignoreCase = names.some((flag) => /^(?:NC|nocase)$/i.test(flag));
  const gone = names.some((flag) => /^(?:G|gone)$/i.test(flag));
  const sends = names.map((flag) => /^(?:R|redirect)(?:=(\w+))?$/i.exec(flag)).find((found) => found);
  if (!gone && !sends) return unread('sends-nowhere');
  if (/%[{\d]/.test(target)) return unread('target-variables');
  const named = sends?.[1];
  const status = gone ? 410 : named === undefined ? 302 : (NAMED_STATUS[named.toLowerCase()] ?? Number(named));
  const read = readByExpression(source, status, target === '-' ? '' : target);
  if ('code' in read) return read;
  return {
    ...read,
    ignoreCase,
    dropsQuery: read.dropsQuery === true || names.some((flag) => /^(?:QSD|qsdiscard)$/i.test(flag)),
  };
}

function readByExpression(source: string, status: number, target: string): Read | UnreadMessage {
  const read = readPlainExpression(source);
  if (read === undefined) return unread('beyond-groups');
  const { to, dropsQuery } = readTargetOfGroups(target);
  return {
    ...read,
    status,
    to: status === 410 ? undefined : read.isPattern ? to : target.replace(/\?$/, ''),
    dropsQuery,
  };
}

/** Words, those in quotation marks whole; undefined where one is not closed. */
function splitArguments(line: string): string[] | undefined {
  const words: string[] = [];
  const rest = line.replace(
    /"((?:\\.|[^"\\])*)"|(\S+)/g,
    (_, quoted: string | undefined, plain: string | undefined) => {
      words.push(quoted === undefined ? (plain ?? '') : quoted.replace(/\\"/g, '"'));
      return '';
    },
  );
  return rest.trim() === '' && !words.some((word) => /^"[^"]*$/.test(word)) ? words : undefined;
}

/**
 * Redirects in nginx's plain forms: lines of a map, locations that return, and rewriting with an answer.
 * Source: nginx documentation, ngx_http_map_module, ngx_http_rewrite_module and "location".
 */
import { escapePattern } from '../../pattern/source.ts';
import { readPlainExpression, readTargetOfGroups } from './expression.ts';
import { unread, type UnreadMessage } from '../../messages.ts';
import { RuleGatherer, type RulesReading, type Written } from './reading.ts';

interface Statement {
  readonly line: number;
  readonly words: readonly string[];
  readonly block: readonly Statement[] | undefined;
}

export function readNginxRules(text: string): RulesReading {
  const gatherer = new RuleGatherer();
  const { statements, problem } = parse(text);
  for (const statement of statements) read(statement, gatherer, undefined);
  if (problem) gatherer.refuse(problem.line, problem.text, problem.why);
  return gatherer.reading;
}

type Read = Omit<Written, 'line' | 'text'>;
const SILENT = new Set([
  'map_hash_max_size',
  'map_hash_bucket_size',
  'default',
  'hostnames',
  'volatile',
  'include',
  'listen',
  'server_name',
  'root',
  'index',
]);

/** Of blocks in one another; a server stands in http and maps stand in that. */
const MOST_DEPTH = 8;

function read(statement: Statement, gatherer: RuleGatherer, inside: 'map' | undefined, depth = 0): void {
  const { line, words, block } = statement;
  const [name = ''] = words;
  const text = `${words.join(' ')}${block ? ' { }' : ';'}`;
  const give = (found: Read | UnreadMessage) => {
    if ('code' in found) gatherer.refuse(line, text, found);
    else gatherer.take({ ...found, line, text });
  };
  if (block && depth >= MOST_DEPTH) gatherer.refuse(line, text, unread('blocks-deep'));
  else if (block && (name === 'http' || name === 'server'))
    block.forEach((each) => read(each, gatherer, undefined, depth + 1));
  else if (block && name === 'map') block.forEach((each) => read(each, gatherer, 'map', depth + 1));
  else if (block && name === 'location') give(readLocation(words.slice(1), block));
  else if (block) gatherer.refuse(line, text, unread('for-some-requests'));
  else if (name === 'rewrite') give(rewrite(words.slice(1)));
  else if (SILENT.has(name)) return;
  else if (inside === 'map' || (words.length === 2 && /^(?:\/|~|https?:\/\/)/.test(name))) give(readMapLine(words));
  else gatherer.refuse(line, text, unread('no-redirect'));
}

function readMapLine([key = '', value = '']: readonly string[]): Read | UnreadMessage {
  if (key.startsWith('~')) return readByExpression(key.replace(/^~\*?/, ''), 301, value, key.startsWith('~*'));
  return /\$/.test(value) ? unread('target-variables') : { from: key.replace(/^\\/, ''), status: 301, to: value };
}

function readLocation(words: readonly string[], block: readonly Statement[]): Read | UnreadMessage {
  const [first = '', second = ''] = words;
  const answers = block.filter(({ words: [name] }) => name === 'return' || name === 'rewrite');
  const [answer] = answers;
  if (answers.length !== 1 || block.length !== 1 || answer?.words[0] !== 'return') return unread('more-than-return');
  const [, code = '', target] = answer.words;
  const status = /^\d{3}$/.test(code) ? Number(code) : 302;
  const to = /^\d{3}$/.test(code) ? target : code;
  if (first === '=') return readFixed({ from: second, status, to });
  if (first === '~' || first === '~*') {
    const read = readByExpression(second, status, to ?? '', first === '~*');
    return 'code' in read ? read : { ...read, dropsQuery: returnDropsQuery(read.status, to) };
  }
  const prefix = first === '^~' ? second : first;
  return prefix.startsWith('/')
    ? readFixed({ from: `${escapePattern(prefix)}*`, isPattern: true, status, to })
    : unread('named-location');
}

/** The visitor's query is put behind the target by hand where there is a return; without that it is dropped. */
function returnDropsQuery(status: number, to: string | undefined): boolean {
  return status !== 410 && !/\$is_args\$args$/.test(to ?? '');
}

function readFixed(rule: Read): Read | UnreadMessage {
  const to = rule.to?.replace(/\$is_args\$args$/, '');
  return to !== undefined && /\$/.test(to)
    ? unread('target-variables')
    : { ...rule, to: rule.status === 410 ? undefined : to, dropsQuery: returnDropsQuery(rule.status, rule.to) };
}

function rewrite([source = '', target = '', flag]: readonly string[]): Read | UnreadMessage {
  if (flag !== 'permanent' && flag !== 'redirect') return unread('sends-nowhere');
  return readByExpression(source, flag === 'permanent' ? 301 : 302, target, false);
}

function readByExpression(source: string, status: number, target: string, ignoreCase: boolean): Read | UnreadMessage {
  const found = readPlainExpression(source);
  if (found === undefined) return unread('beyond-groups');
  const keeps = target.replace(/\$is_args\$args$/, '');
  const { to, dropsQuery } = readTargetOfGroups(keeps);
  if (/\$[A-Za-z_{]/.test(to)) return unread('target-variables');
  return {
    ...found,
    status,
    to: status === 410 ? undefined : found.isPattern ? to : keeps.replace(/\?$/, ''),
    ignoreCase,
    dropsQuery,
  };
}

interface Parsed {
  readonly statements: readonly Statement[];
  readonly problem?: { readonly line: number; readonly text: string; readonly why: UnreadMessage };
}

interface OpenBlock {
  readonly line: number;
  readonly words: readonly string[];
  readonly block: Statement[];
}

function parse(text: string): Parsed {
  const top: Statement[] = [];
  const open: OpenBlock[] = [];
  let words: string[] = [];
  let started = 1;
  let line = 1;
  const into = () => open.at(-1)?.block ?? top;
  for (const [token] of text.matchAll(
    /\n|#[^\n]*|"(?:\\.|[^"\\])*"|'(?:\\.|[^'\\])*'|[{};]|[^\s{};]+(?:\{\d+(?:,\d*)?\}[^\s{};]*)*|[^\S\n]+/g,
  )) {
    if (words.length === 0) started = line;
    line += token.split('\n').length - 1;
    if (/^\s+$/.test(token) || token.startsWith('#')) continue;
    if (token === ';') {
      if (words.length > 0) into().push({ line: started, words, block: undefined });
      words = [];
    } else if (token === '{') {
      open.push({ line: started, words, block: [] });
      words = [];
    } else if (token === '}') {
      const closed = open.pop();
      if (!closed) return { statements: top, problem: { line, text: '}', why: unread('brace-without') } };
      if (words.length > 0) closed.block.push({ line: started, words, block: undefined });
      words = [];
      into().push(closed);
    } else words.push(/^["']/.test(token) ? token.slice(1, -1).replace(/\\(["'\\])/g, '$1') : token);
  }
  const left = open.at(-1);
  if (left)
    return {
      statements: [...top, ...open.flatMap(({ block }) => block)],
      problem: { line: left.line, text: `${left.words.join(' ')} {`, why: unread('brace-open') },
    };
  return words.length > 0
    ? { statements: top, problem: { line: started, text: words.join(' '), why: unread('no-semicolon') } }
    : { statements: top };
}

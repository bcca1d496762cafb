/**
 * Structured data against the vocabulary it says it uses. Sources: JSON-LD 1.1 for the form, schema.org for
 * types and properties, as the package schema-dts has them (see generate/vocabulary.ts).
 */
import { createScanner, parse, type ParseError } from 'jsonc-parser';
import { structured, type StructuredMessage } from './messages.ts';
import vocabulary from './vocabulary.json' with { type: 'json' };

interface Vocabulary {
  readonly types: Readonly<Record<string, readonly string[]>>;
  readonly properties: Readonly<Record<string, { readonly at: readonly string[]; readonly values: readonly string[] }>>;
  readonly members: Readonly<Record<string, readonly string[]>>;
}

const { types: TYPES, properties: PROPERTIES, members: MEMBERS }: Vocabulary = vocabulary;

export interface DataProblem {
  /** Where in the data, such as `address.postalCode`; empty for the whole. */
  readonly at: string;
  readonly message: StructuredMessage;
}

/** @returns what is wrong, nothing where it is well formed and every term is one of schema.org */
export function checkData(text: string): DataProblem[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return [{ at: '', message: describeJsonFault(text) }];
  }
  const problems: DataProblem[] = [];
  const top = Array.isArray(value) ? value : [value];
  for (const each of top) {
    if (!isObject(each)) {
      problems.push({ at: '', message: structured('no-object') });
      continue;
    }
    if (!speaksSchemaOrg(each['@context'])) problems.push({ at: '@context', message: structured('no-context') });
    const graph = each['@graph'];
    if (Array.isArray(graph))
      graph.forEach((node, index) => {
        checkNode(node, `@graph[${index}]`, problems, 0);
      });
    else checkNode(each, '', problems, 0);
  }
  return problems;
}

/** Whether a type is another, or a kind of it. */
export function isKindOf(type: string, other: string): boolean {
  return type === other || (TYPES[type] ?? []).some((parent) => isKindOf(parent, other));
}

const MOST_DEPTH = 50;

function checkNode(node: unknown, at: string, problems: DataProblem[], depth: number): void {
  if (!isObject(node) || depth > MOST_DEPTH) return;
  const written = node['@type'];
  const types = (Array.isArray(written) ? written : [written])
    .filter((each): each is string => typeof each === 'string')
    .map(stripContext);
  // A reference to something described elsewhere needs no type.
  if (types.length === 0) {
    if (node['@id'] === undefined && node['@value'] === undefined)
      problems.push({ at, message: structured('no-type') });
    return;
  }
  const unknown = types.filter((type) => !(type in TYPES));
  for (const type of unknown)
    problems.push({
      at: join(at, '@type'),
      message: describeUnknownType(type),
    });
  for (const [key, value] of Object.entries(node)) {
    if (key.startsWith('@')) continue;
    const name = stripContext(key);
    const property = PROPERTIES[name];
    const here = join(at, key);
    if (!property) {
      problems.push({ at: here, message: describeUnknownProperty(name) });
      continue;
    }
    if (unknown.length === 0 && !types.some((type) => property.at.some((domain) => isKindOf(type, domain)))) {
      problems.push({ at: here, message: structured('property-elsewhere', { property: name, types }) });
    }
    for (const [index, each] of (Array.isArray(value) ? value : [value]).entries())
      checkValue(each, name, property.values, Array.isArray(value) ? `${here}[${index}]` : here, problems, depth);
  }
}

function checkValue(
  value: unknown,
  name: string,
  allowed: readonly string[],
  at: string,
  problems: DataProblem[],
  depth: number,
): void {
  if (isObject(value)) {
    checkNode(value, at, problems, depth + 1);
    const type = value['@type'];
    if (typeof type !== 'string' || !(stripContext(type) in TYPES) || allowed.length === 0) return;
    // Roles may stand in for any value (schema.org, "Introducing Role").
    if (!allowed.some((each) => isKindOf(stripContext(type), each)) && !isKindOf(stripContext(type), 'Role'))
      problems.push({
        at,
        message: structured('value-of-other-type', { property: name, allowed, type: stripContext(type) }),
      });
    return;
  }
  const faulty = typeof value === 'string' && !isWritable(value, allowed);
  if (faulty || value === null)
    problems.push({
      at,
      message: value === null ? structured('value-empty') : structured('value-unlike', { value, allowed }),
    });
}

const DATE = /^-?\d{4}(-\d{2}(-\d{2})?)?$/;
const DATE_TIME = /^-?\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?$/;

/** A text may stand for a thing by its name or address, so only values of strict form are refused. */
function isWritable(text: string, allowed: readonly string[]): boolean {
  if (allowed.length === 0 || allowed.some((each) => !STRICT.has(each) && !(each in MEMBERS))) return true;
  return allowed.some((each) =>
    each === 'Date'
      ? DATE.test(text) || DATE_TIME.test(text)
      : each === 'DateTime'
        ? DATE_TIME.test(text) || DATE.test(text)
        : each === 'Time'
          ? /^\d{2}:\d{2}(:\d{2})?/.test(text)
          : each === 'Boolean'
            ? /^(true|false|(https?:\/\/schema\.org\/)?(True|False))$/.test(text)
            : each === 'Number' || each === 'Integer' || each === 'Float'
              ? text.trim() !== '' && Number.isFinite(Number(text))
              : (MEMBERS[each] ?? []).includes(stripContext(text)),
  );
}

const STRICT = new Set(['Date', 'DateTime', 'Time', 'Boolean', 'Number', 'Integer', 'Float']);

function speaksSchemaOrg(context: unknown): boolean {
  const all = Array.isArray(context) ? context : [context];
  return all.some((each) =>
    typeof each === 'string'
      ? /^https?:\/\/schema\.org\/?$/.test(each)
      : isObject(each) && typeof each['@vocab'] === 'string' && /^https?:\/\/schema\.org\/?$/.test(each['@vocab']),
  );
}

function stripContext(term: string): string {
  return term.replace(/^https?:\/\/schema\.org\//, '').replace(/^schema:/, '');
}

/** The term somebody may have meant: the same letters in another case, or one letter away. */
function findNear(term: string, all: readonly string[]): string | undefined {
  const lower = term.toLowerCase();
  return all.find((each) => each.toLowerCase() === lower) ?? all.find((each) => isOneAway(each.toLowerCase(), lower));
}

function describeUnknownType(type: string): StructuredMessage {
  const meant = findNear(type, Object.keys(TYPES));
  return meant === undefined
    ? structured('type-unknown', { type })
    : structured('type-mistyped', { type, near: meant });
}

function describeUnknownProperty(property: string): StructuredMessage {
  const meant = findNear(property, Object.keys(PROPERTIES));
  return meant === undefined
    ? structured('property-unknown', { property })
    : structured('property-mistyped', { property, near: meant });
}

function isOneAway(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1) return false;
  let start = 0;
  while (start < a.length && a[start] === b[start]) start += 1;
  let end = 0;
  while (end < Math.min(a.length, b.length) - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end += 1;
  return Math.max(a.length, b.length) - start - end <= 1;
}

function join(at: string, key: string): string {
  return at === '' ? key : `${at}.${key}`;
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** Far deeper than any data that a person or a tool has written. */
const MOST_PARSED = 500;

function countDepth(text: string): number {
  const scanner = createScanner(text, true);
  let [depth, most] = [0, 0];
  for (scanner.scan(); scanner.getTokenLength() > 0; scanner.scan()) {
    const sign = text[scanner.getTokenOffset()];
    if (sign === '{' || sign === '[') depth += 1;
    // Nothing closes what was never opened.
    else if ((sign === '}' || sign === ']') && depth > 0) depth -= 1;
    most = Math.max(most, depth);
  }
  return most;
}

/** Where the first fault is; engines tell it in words of their own, or not at all. */
function describeJsonFault(text: string): StructuredMessage {
  if (text.trim() === '') return structured('not-json-empty');
  // The parser goes down with what it reads, and would run out of stack.
  if (countDepth(text) > MOST_PARSED) return structured('not-json-deep');
  const errors: ParseError[] = [];
  parse(text, errors, { disallowComments: true });
  const [first] = errors;
  if (!first || first.offset >= text.trimEnd().length) return structured('not-json-end');
  const before = text.slice(0, first.offset).split('\n');
  return structured('not-json-at', { line: before.length, letter: (before.at(-1)?.length ?? 0) + 1 });
}

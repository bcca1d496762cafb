/** A file of redirects, read and held against the draft; nothing is taken by it. */
import { type RULE_FORMS, type RulesRead, type RuleToTake } from '@fastigium/contracts/api/ruleFiles';
import { DomainError } from '@fastigium/contracts/errors';
import { reason } from '@fastigium/contracts/messages/reason';
import { splitAddress } from '@fastigium/core/address';
import { decide, indexRules, prove, type FileSet, type Rule, type RuleIndex } from '@fastigium/core/redirects';
import {
  readApacheRules,
  readNginxRules,
  readRuleTable,
  type ReadRule,
  type RulesReading,
} from '@fastigium/core/redirects/exchange/read';
import type { Draft } from '@fastigium/core/site';
import type { Readable } from 'node:stream';
import type { Deps } from '../../../deps.ts';
import { readWholeStream } from '../../../http/wholeStream.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { readAllEntries } from '../../shared/manifests.ts';
import { decodeTable, parseTable } from '../../shared/csvTable.ts';

type Form = (typeof RULE_FORMS)[number];
const MOST_BYTES = 32 * 1024 * 1024; // 32 MiB
/** As many as a person reads. */
const MOST_TOLD = 200;

export async function readRuleFile(
  deps: Deps,
  site: string,
  file: { fileName: string; form: Form | undefined; stream: Readable },
): Promise<RulesRead> {
  const { text } = decodeTable(await readWholeStream(file.stream, MOST_BYTES));
  if (text.includes('\0')) throw new DomainError('rules-unreadable', { name: file.fileName, why: reason('no-text') });
  const form = file.form ?? guessForm(file.fileName, text);
  const reading = readAs(form, text);
  if (!reading || reading.rules.length + reading.notRead.length === 0)
    throw new DomainError('rules-unreadable', {
      name: file.fileName,
      why: form === 'table' ? reason('no-columns') : reason('no-redirects'),
    });
  const { draft, rules, shards, version } = await compileDraft(deps, site);
  const files = await readAllEntries(deps.db, shards);
  const index = indexRules(rules.rules);
  const alone = indexRules([]);
  // One of the file may lead to another of it.
  const after = indexRules([...rules.rules, ...reading.rules.map(asRule)]);
  return {
    version,
    form,
    rules: reading.rules.map((rule) => toTake(rule, draft, files, { index, alone, after })),
    notRead: reading.notRead.slice(0, MOST_TOLD),
    notReadCount: reading.notRead.length,
  };
}

function readAs(form: Form, text: string): RulesReading | undefined {
  switch (form) {
    case 'apache':
      return readApacheRules(text);
    case 'nginx':
      return readNginxRules(text);
    case 'table':
      return readRuleTable(parseTable(text));
  }
}

function guessForm(name: string, text: string): Form {
  if (/\.(?:csv|tsv)$/i.test(name)) return 'table';
  if (/^\s*(?:location|rewrite|map|return|server)\b.*[;{]|^\s*["'~/]\S*"?\s+\S+;\s*$/m.test(text)) return 'nginx';
  if (/^\s*(?:Redirect|RewriteRule)/im.test(text) || /\.(?:htaccess|conf|map)$|^\.?htaccess$/i.test(name))
    return 'apache';
  return /^[^\n]*[,;\t]/.test(text) ? 'table' : 'apache';
}

interface Indexes {
  /** The draft's rules, none at all, and the draft's with those of the file. */
  readonly index: RuleIndex;
  readonly alone: RuleIndex;
  readonly after: RuleIndex;
}

function asRule({ from, isPattern, status, to, ignoreCase, dropsQuery }: ReadRule): Rule {
  return {
    from,
    status,
    ...(to === undefined ? {} : { to }),
    ...(isPattern ? { isPattern } : {}),
    ...(ignoreCase ? { ignoreCase } : {}),
    ...(dropsQuery ? { dropsQuery } : {}),
  };
}

function toTake(
  { line, from, isPattern, status, to: leads, ignoreCase, dropsQuery }: ReadRule,
  draft: Draft,
  files: FileSet,
  { index, alone, after }: Indexes,
): RuleToTake {
  const to = leads ?? null;
  const taken = { line, from, isPattern, status, to, ignoreCase, dropsQuery };
  if (isPattern) {
    const twin = [...draft.patterns.values()].find(
      ({ text, ignoreCase: loose }) => text === from && (loose ?? false) === ignoreCase,
    );
    return {
      ...taken,
      state: !twin ? 'new' : twin.status === status && (twin.target ?? null) === to ? 'same' : 'differs',
      now: twin ? (twin.target ?? 'gone (410)') : null,
    };
  }
  const address = splitAddress(from);
  if (decide(address, files, alone).kind === 'file' && address.query === undefined)
    return { ...taken, state: 'page', now: from };
  const answer = decide(address, files, index);
  const now = answer.kind === 'redirect' ? answer.location : answer.kind === 'gone' ? 'gone (410)' : null;
  const isSame =
    answer.kind === 'redirect'
      ? answer.status === status && answer.location === to
      : answer.kind === 'gone' && status === 410;
  if (isSame) return { ...taken, state: 'same', now };
  const isDead =
    to !== null &&
    to.startsWith('/') &&
    prove(splitAddress(to.split('#')[0] ?? ''), files, after).end.kind === 'missing';
  return { ...taken, state: isDead ? 'dead' : draft.redirects.has(from) ? 'differs' : 'new', now };
}

/** Patterns and what each of them catches, before they are kept and after. */
import type { PatternCatch, PatternPreview, PatternProposal, PatternRow } from '@fastigium/contracts/api/redirects';
import { DomainError } from '@fastigium/contracts/errors';
import { parseAddress, splitAddress, type Address } from '@fastigium/core/address';
import {
  decide,
  listFilesInQuestion,
  indexRules,
  proposePatterns,
  type Answer,
  type FileSet,
  type PatternRedirect,
  type Rule,
} from '@fastigium/core/redirects';
import { matchPattern, readPattern } from '@fastigium/core/redirects/pattern';
import type { Draft } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readRequest } from '../draft/prepare/patterns.ts';
import { readDraftRules } from '../draft/draftRules.ts';
import { readAllEntries, readEntries } from '../shared/manifests.ts';
import { readToday } from '../shared/today.ts';
import { findRuleProblems } from './problems.ts';

interface Old {
  readonly address: string;
  readonly parsed: Address;
  readonly visits: number | null;
}

/** As many as a person looks through; all are counted. */
const MOST_SHOWN = 500;

export async function readPatternRows(deps: Deps, site: string): Promise<PatternRow[]> {
  const { draft, rules, shards } = await compileDraft(deps, site);
  if (draft.patterns.size === 0) return [];
  const olds = await readOldAddresses(deps, site);
  const index = indexRules(rules.rules);
  const files = await readAllEntries(deps.db, shards);
  const problems = new Map(
    (await findRuleProblems(deps.db, site, { draft, rules }, files, readToday(deps)))
      .filter(({ isPattern }) => isPattern)
      .map(({ from, kind, message, final }) => [from, { kind, message, final }]),
  );
  const answers = olds.map((old) => ({ old, answer: decide(old.parsed, files, index) }));
  return [...draft.patterns].map(([id, { text, status, target, ignoreCase, dropsQuery, note, until }]) => {
    const caught = answers.filter(({ answer }) => findRule(answer)?.isPattern && findRule(answer)?.from === text);
    const reading = readPattern(text, { ignoreCase: ignoreCase ?? false });
    const matching = reading.ok ? olds.filter(({ parsed }) => matchPattern(reading.pattern, parsed)).length : 0;
    return {
      id,
      text,
      status,
      target: target ?? null,
      ignoreCase: ignoreCase ?? false,
      dropsQuery: dropsQuery ?? false,
      catches: caught.length,
      visits: caught.reduce((sum, { old }) => sum + (old.visits ?? 0), 0),
      hidden: matching - caught.length,
      note: note ?? null,
      until: until ?? null,
      problem: problems.get(text) ?? null,
    };
  });
}

/** Where single redirects repeat themselves. */
export async function readPatternProposals(deps: Deps, site: string): Promise<PatternProposal[]> {
  const { draft, rules, shards } = await compileDraft(deps, site);
  const olds = await readOldAddresses(deps, site);
  const plain = new Set(
    [...draft.redirects.values()]
      .filter(({ note, until }) => note === undefined && until === undefined)
      .map(({ from }) => from),
  );
  return proposePatterns(
    rules.rules,
    plain,
    await readAllEntries(deps.db, shards),
    olds.map(({ parsed }) => parsed),
  ).map(({ target, replaces, unknown, ...proposal }) => ({
    ...proposal,
    target: target ?? null,
    replaces: [...replaces],
    unknown: { ...unknown, to: unknown.to ?? null },
  }));
}

/** What would change for every known old address if the pattern were kept as it is written. */
export async function previewPattern(
  deps: Deps,
  site: string,
  request: Parameters<typeof readRequest>[0] & { id: string | null },
): Promise<PatternPreview> {
  const nothing = { catches: [], caught: 0, hidden: 0 };
  let pattern: PatternRedirect;
  try {
    pattern = readRequest(request);
  } catch (error) {
    if (error instanceof DomainError) return { problem: error.told, ...nothing };
    throw error;
  }
  const { draft, rules, shards, importId } = await compileDraft(deps, site);
  const reading = readPattern(pattern.text, { ignoreCase: pattern.ignoreCase ?? false });
  const olds = (await readOldAddresses(deps, site)).filter(
    ({ parsed }) => reading.ok && matchPattern(reading.pattern, parsed),
  );
  const patterns = new Map(draft.patterns).set(request.id ?? 'new', pattern);
  const after: Draft = { ...draft, patterns };
  const [now, then] = [
    indexRules(rules.rules),
    indexRules((await readDraftRules(deps.db, importId, after, readToday(deps))).rules),
  ];
  const files = await readFilesFor(
    deps,
    shards,
    olds.flatMap(({ parsed }) => [...listFilesInQuestion(parsed, now), ...listFilesInQuestion(parsed, then)]),
  );
  const caught = olds
    .map(({ address, parsed, visits }) => ({
      address,
      visits,
      before: decide(parsed, files, now),
      after: decide(parsed, files, then),
    }))
    .filter(({ after: answer }) => findRule(answer)?.isPattern && findRule(answer)?.from === pattern.text);
  const landings = await readFilesFor(
    deps,
    shards,
    caught.flatMap(({ after: answer }) => listLandingFiles(answer)),
  );
  const catches = caught.slice(0, MOST_SHOWN).map(({ address, visits, before, after: answer }): PatternCatch => ({
    from: address,
    visits,
    before: describeLanding(before),
    after: describeLanding(answer),
    lands: isThere(answer, landings, then),
  }));
  return { problem: null, catches, caught: caught.length, hidden: olds.length - caught.length };
}

async function readOldAddresses(deps: Deps, site: string): Promise<Old[]> {
  const rows = await deps.db.many<{ address: string; visits: number | null }>(
    `select address, visits from old_address where site_id = $1 and kind <> 'noise' order by visits desc nulls last, address`,
    [site],
  );
  return rows.map(({ address, visits }) => ({ address, parsed: splitAddress(address), visits }));
}

async function readFilesFor(
  deps: Deps,
  shards: Parameters<typeof readEntries>[1],
  paths: readonly string[],
): Promise<FileSet> {
  return readEntries(deps.db, shards, [...new Set(paths)]);
}

function findRule(answer: Answer): Rule | undefined {
  return answer.kind === 'redirect' || answer.kind === 'gone' ? answer.rule : undefined;
}

function describeLanding(answer: Answer): PatternCatch['before'] {
  if (answer.kind === 'redirect') return { status: answer.status, to: answer.location };
  return { status: answer.kind === 'gone' ? 410 : answer.kind === 'file' ? 200 : 404, to: null };
}

function listLandingFiles(answer: Answer): string[] {
  const landing = answer.kind === 'redirect' ? parseAddress(answer.location) : undefined;
  return landing?.ok && landing.host === undefined ? listFilesInQuestion(landing.address, indexRules([])) : [];
}

/** Null for another site, which nobody asked. */
function isThere(answer: Answer, files: FileSet, rules: ReturnType<typeof indexRules>): boolean | null {
  if (answer.kind !== 'redirect') return true;
  const landing = parseAddress(answer.location);
  if (!landing.ok) return false;
  return landing.host === undefined ? decide(landing.address, files, rules).kind !== 'missing' : null;
}

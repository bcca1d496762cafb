/** Changing the draft: a request is checked against the draft as it stands and recorded as a decision. */
import type { DecisionRequest } from '@fastigium/contracts/api/draft';
import { DomainError } from '@fastigium/contracts/errors';
import { fileOfAddress, formatAddress, freeAddress, parseAddress, slug } from '@fastigium/core/address';
import { indexRules, proofSteps, type Redirect, type RedirectTarget } from '@fastigium/core/redirects';
import { compileRules, insideBase, publishedPath, underBase } from '@fastigium/core/release';
import { draftAddress, foldDecisions, siteAddress, stepsAvailable, type Decision, type Draft, type RecordedDecision } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { enqueue } from '../../jobs/queue.ts';
import { history, siteState } from './history.ts';
import { pagesById, pagesOfRules, type SourcePage } from './pageFiles.ts';

interface Situation {
  readonly tx: Queries;
  readonly site: string;
  readonly importId: string;
  readonly decisions: readonly RecordedDecision[];
  readonly draft: Draft;
}

interface Prepared {
  readonly decision: Decision;
  /** The decision in words, for the history. */
  readonly words: string;
}

export async function decide(
  deps: Deps, site: string, by: { id: string; name: string }, request: { version: number; decision: DecisionRequest },
): Promise<{ version: number; words: string }> {
  return deps.db.transaction(async (tx) => {
    const state = await siteState(tx, site, 'for update');
    if (state.currentImport === null) throw new DomainError('nothing-imported');
    if (state.version !== request.version) throw new DomainError('draft-stale', { version: state.version });
    const decisions = await history(tx, site);
    const situation = { tx, site, importId: state.currentImport, decisions, draft: foldDecisions(decisions) };
    const { decision, words } = await prepare(situation, request.decision);
    const version = state.version + 1;
    await tx.run('insert into decision (site_id, seq, body, words, by) values ($1, $2, $3, $4, $5)', [
      site, version, JSON.stringify(decision), words, by.id,
    ]);
    await tx.run('update site set version = $2 where id = $1', [site, version]);
    await announce(tx, { kind: 'draft', site, version, by: by.name });
    await compileSoon(tx, site, by.id);
    return { version, words };
  });
}

/** One waiting compile is enough: it takes up everything decided until it starts. */
export async function compileSoon(tx: Queries, site: string, by: string): Promise<void> {
  const waiting = await tx.maybeOne(`select 1 from job where site_id = $1 and kind = 'compile' and state = 'waiting' limit 1`, [site]);
  if (!waiting) await enqueue(tx, { kind: 'compile', site, body: {}, by });
}

async function prepare(situation: Situation, request: DecisionRequest): Promise<Prepared> {
  switch (request.kind) {
    case 'title': return prepareTitle(situation, request);
    case 'home': return prepareHome(situation, request);
    case 'redirect': return prepareRedirect(situation, request);
    case 'redirect-removed': {
      const from = readAddress(request.from);
      if (!situation.draft.redirects.has(from)) throw new DomainError('redirect-unknown', { address: from });
      return { decision: { kind: 'redirect-removed', from }, words: `Redirect for ${from} taken away` };
    }
    case 'base-path': return prepareBasePath(situation, request.path);
    case 'undo': return prepareUndo(situation, request.of);
    case 'step': {
      const steps = stepsAvailable(situation.decisions);
      const of = request.direction === 'back' ? steps.undo : steps.redo;
      if (of === undefined) throw new DomainError('nothing-to-undo');
      return prepareUndo(situation, of);
    }
  }
}

async function pageOf({ tx, importId }: Situation, id: string): Promise<SourcePage> {
  const page = (await pagesById(tx, importId, [id])).get(id);
  if (!page) throw new DomainError('not-found', { what: 'such page' });
  return page;
}

async function titleOf({ tx, importId, draft }: Situation, page: SourcePage): Promise<string> {
  const row = await tx.maybeOne<{ title: string | null }>('select title from file_reading where import_id = $1 and path = $2', [importId, page.sourcePath]);
  return draft.titles.get(page.id) ?? row?.title ?? '';
}

/** The page's own main heading: titles often carry the site's name as well. */
async function headingOf({ tx, importId }: Situation, page: SourcePage): Promise<string | undefined> {
  const row = await tx.maybeOne<{ text: string }>(
    `select h->>'text' as text from file_reading, jsonb_array_elements(headings) h
      where import_id = $1 and path = $2 and (h->>'level')::int = 1 limit 1`, [importId, page.sourcePath],
  );
  return row?.text || undefined;
}

async function prepareTitle(situation: Situation, request: { page: string; title: string }): Promise<Prepared> {
  const title = request.title.replace(/\s+/g, ' ').trim();
  if (title === '') throw new DomainError('title-empty');
  const page = await pageOf(situation, request.page);
  return {
    decision: { kind: 'title', page: page.id, title },
    words: `Title of ${draftAddress(situation.draft, page)} set to “${title}”`,
  };
}

async function prepareHome(situation: Situation, request: { page: string }): Promise<Prepared> {
  const { tx, importId, draft } = situation;
  const page = await pageOf(situation, request.page);
  if (siteAddress(draft, page) === '/') throw new DomainError('already-home');
  const front = await tx.maybeOne<{ id: string }>(
    `select page_id as id from source_file where import_id = $1 and path in ('index.html', 'index.htm') and page_id is not null order by path desc limit 1`,
    [importId],
  );
  const importedHome = front && { page: front.id, address: await formerHomeAddress(situation, front.id) };
  const title = await titleOf(situation, page);
  return {
    decision: { kind: 'home', page: page.id, importedHome },
    words: `“${title || page.sourcePath}” becomes the home page`,
  };
}

/** Where the imported front page goes: where it already is, or an address made from its title. */
async function formerHomeAddress(situation: Situation, front: string): Promise<string> {
  const { tx, importId, draft } = situation;
  const page = await pageOf(situation, front);
  const already = draft.addresses.get(front);
  if (already !== undefined) return already;
  const name = slug((await headingOf(situation, page)) ?? (await titleOf(situation, page))) || 'former-home';
  // Only addresses of this shape come into question, so only their files are looked up.
  const taken = new Set(
    (await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path like $2', [importId, `${name}%`])).map(({ path }) => path),
  );
  const used = new Set(draft.addresses.values());
  return freeAddress(name, (address) => {
    const file = fileOfAddress(address);
    return used.has(address) || draft.redirects.has(address) || (file !== undefined && (taken.has(file) || taken.has(address.slice(1, -1))));
  });
}

function readAddress(text: string): string {
  const parsed = parseAddress(text);
  if (!parsed.ok) throw new DomainError('address-unreadable', { address: text });
  return formatAddress(parsed.address);
}

type RedirectRequest = Extract<DecisionRequest, { kind: 'redirect' }>;

async function prepareRedirect(situation: Situation, request: RedirectRequest): Promise<Prepared> {
  const { draft } = situation;
  const from = readAddress(request.from);
  const { to } = request;
  if (to.status === 410) {
    await refuseLivePage(situation, from);
    return { decision: { kind: 'redirect', redirect: { from, status: 410 } }, words: `${from} is gone for good (410)` };
  }
  const target: RedirectTarget = to.target.kind === 'address' ? { kind: 'address', address: readTarget(to.target.address) } : to.target;
  const redirect: Redirect = { from, status: to.status, target };
  const after: Draft = { ...draft, redirects: new Map(draft.redirects).set(from, redirect) };
  const pages = await pagesOfRules(situation.tx, situation.importId, after);
  const { rules, withoutTarget } = compileRules(after, pages);
  if (withoutTarget.includes(from)) throw new DomainError('redirect-target-missing');
  const landing = rules.find((rule) => rule.from === from)?.to ?? '';
  if (landing.split('#')[0] === from) throw new DomainError('redirect-onto-itself', { address: from });
  await refuseLivePage(situation, from);
  await refuseLoop(situation, after, pages, from);
  return { decision: { kind: 'redirect', redirect }, words: `${from} lands on ${landing} (${to.status})` };
}

/** A target may carry a fragment, which is no part of an address in its normal form. */
function readTarget(text: string): string {
  const hash = text.indexOf('#');
  return hash < 0 ? readAddress(text) : readAddress(text.slice(0, hash) || '/') + text.slice(hash);
}

async function refuseLivePage(situation: Situation, from: string): Promise<void> {
  if (from.includes('?')) return;
  const parsed = parseAddress(from);
  if (!parsed.ok) return;
  const steps = proofSteps(parsed.address, new Map());
  const paths = steps.next().value;
  const files = await existingFiles(situation, situation.draft, Array.isArray(paths) ? paths : []);
  const step = steps.next(files);
  if (step.done && step.value.end.kind === 'page') throw new DomainError('redirect-hidden', { address: from });
}

async function refuseLoop(situation: Situation, after: Draft, pages: ReadonlyMap<string, SourcePage>, from: string): Promise<void> {
  const parsed = parseAddress(from);
  if (!parsed.ok) return;
  const steps = proofSteps(parsed.address, indexRules(compileRules(after, pages).rules));
  let step = steps.next();
  while (!step.done) step = steps.next(await existingFiles(situation, after, step.value));
  if (step.value.end.kind === 'loop') {
    throw new DomainError('redirect-loop', { hops: step.value.hops.map(({ address }) => address).join(' → ') });
  }
}

/** Which of some paths are published by a draft: imported files, less those that moved away, and those that moved there. */
async function existingFiles({ tx, importId }: Situation, draft: Draft, paths: readonly string[]): Promise<Set<string>> {
  const moved = await pagesById(tx, importId, draft.addresses.keys());
  const left = new Set([...moved.values()].map(({ sourcePath }) => sourcePath));
  const arrived = new Set([...moved.values()].map((page) => publishedPath(draft, page)));
  const inside = paths.flatMap((path) => insideBase(draft.basePath, path) ?? []);
  const rows = await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path = any($2)', [importId, inside]);
  const out = new Set(rows.map(({ path }) => path).filter((path) => !left.has(path)).map((path) => underBase(draft.basePath, path)));
  for (const path of paths) if (arrived.has(path)) out.add(path);
  return out;
}

/** `museum/` and `/museum` mean the same; several folders may be named. Empty: at the root. */
async function prepareBasePath({ draft }: Situation, text: string): Promise<Prepared> {
  const bare = text.trim().replace(/^\/+|\/+$/g, '');
  const parsed = bare === '' ? undefined : parseAddress(`/${bare}`);
  if (parsed && (!parsed.ok || parsed.address.query !== undefined || !/^(\/[A-Za-z0-9][A-Za-z0-9._~-]*)+$/.test(`/${bare}`))) throw new DomainError('base-path-unreadable', { path: text });
  const path = bare === '' ? '' : `/${bare}`;
  if (path === draft.basePath) throw new DomainError('base-path-same', { path: path === '' ? 'the root' : path });
  return Promise.resolve({ decision: { kind: 'base-path', path }, words: path === '' ? 'The site is published at the root' : `The site is published under ${path}/` });
}

async function prepareUndo({ tx, site, decisions }: Situation, of: number): Promise<Prepared> {
  const undone = new Set<number>();
  for (const { seq, decision } of [...decisions].reverse()) {
    if (decision.kind === 'undo' && !undone.has(seq)) undone.add(decision.of);
  }
  const meant = decisions.find(({ seq }) => seq === of);
  if (!meant || undone.has(of)) throw new DomainError('nothing-to-undo');
  const { words } = await tx.one<{ words: string }>('select words from decision where site_id = $1 and seq = $2', [site, of]);
  const isRedo = meant.decision.kind === 'undo';
  return { decision: { kind: 'undo', of }, words: isRedo ? words.replace(/^Taken back: /, 'Done again: ') : `Taken back: ${words}` };
}

/** The words of the next steps back and forward, for buttons and their hints. */
export function nextSteps(decisions: readonly RecordedDecision[], words: (seq: number) => string | undefined) {
  const { undo, redo } = stepsAvailable(decisions);
  const undoneBy = decisions.find(({ seq }) => seq === redo)?.decision;
  return {
    undo: undo === undefined ? null : (words(undo) ?? null),
    redo: undoneBy?.kind === 'undo' ? (words(undoneBy.of) ?? null) : null,
  };
}


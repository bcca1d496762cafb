/** Redirects: never over a live page, never in a circle, never onto nothing. */
import type { DecisionRequest } from '@fastigium/contracts/api/draft';
import { DomainError } from '@fastigium/contracts/errors';
import { parseAddress } from '@fastigium/core/address';
import { indexRules, proofSteps, type Redirect, type RedirectTarget } from '@fastigium/core/redirects';
import { compileRules, insideBase, publishedPath, underBase } from '@fastigium/core/release';
import type { Draft } from '@fastigium/core/site';
import { importedOnly, pagesById, pagesOfRules, type SourcePage } from '../pageFiles.ts';
import { readAddress, type Prepared, type Situation } from './situation.ts';

type RedirectRequest = Extract<DecisionRequest, { kind: 'redirect' }>;

export async function prepareRedirect(situation: Situation, request: RedirectRequest): Promise<Prepared> {
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
  const moved = await pagesById(tx, importId, draft, draft.addresses.keys());
  const left = new Set(importedOnly(draft, moved.values()).map(({ sourcePath }) => sourcePath));
  const arrived = new Set([...moved.values()].map((page) => publishedPath(draft, page)));
  const inside = paths.flatMap((path) => insideBase(draft.basePath, path) ?? []);
  const rows = await tx.many<{ path: string }>('select path from source_file where import_id = $1 and path = any($2)', [importId, inside]);
  const out = new Set(rows.map(({ path }) => path).filter((path) => !left.has(path)).map((path) => underBase(draft.basePath, path)));
  for (const path of paths) if (arrived.has(path)) out.add(path);
  return out;
}

export function prepareRedirectRemoved({ draft }: Situation, request: { from: string }): Prepared {
  const from = readAddress(request.from);
  if (!draft.redirects.has(from)) throw new DomainError('redirect-unknown', { address: from });
  return { decision: { kind: 'redirect-removed', from }, words: `Redirect for ${from} taken away` };
}

/** Redirects: never over a live page, never in a circle, never onto nothing. */
import { decision as decided, type DecisionMessage } from '@fastigium/contracts/messages/decision';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { DomainError } from '@fastigium/contracts/errors';
import { encodeFragment, splitAddress } from '@fastigium/core/address';
import {
  splitHost,
  indexRules,
  walkProof,
  type Redirect,
  type RedirectTarget,
  type Rule,
  type RuleOptions,
  type RuleTerm,
} from '@fastigium/core/redirects';
import type { Draft } from '@fastigium/core/site';
import { readDraftRules } from '../draftRules.ts';
import { readOldDomains, readOldAddress } from '../oldDomains.ts';
import { readToday } from '../../shared/today.ts';
import { numberPatterns } from './patterns.ts';
import { findExistingFiles, proveAll } from './proofs.ts';
import { readTerm } from './term.ts';
import { readAddress, type Prepared, type Situation } from './situation.ts';
import { refuseNoListing } from './listings.ts';

type RedirectRequest = Extract<DecisionRequest, { kind: 'redirect' }>;

export async function prepareRedirect(situation: Situation, request: RedirectRequest): Promise<Prepared> {
  const { draft } = situation;
  const from = readOldAddress(request.from, await readOldDomains(situation.tx, situation.site));
  const { to } = request;
  if (to.status === 410) {
    await refuseLivePage(situation, from);
    return {
      decision: { kind: 'redirect', redirect: { from, status: 410, ...readOptions(request, situation) } },
      message: decided('redirect-gone', { from }),
    };
  }
  const target = readTarget(to.target);
  refuseNoListing(draft, target);
  const redirect: Redirect = { from, status: to.status, target, ...readOptions(request, situation) };
  const after: Draft = { ...draft, redirects: new Map(draft.redirects).set(from, redirect) };
  const { rules, withoutTarget } = await readDraftRules(
    situation.tx,
    situation.importId,
    after,
    readToday(situation.deps),
  );
  if (withoutTarget.includes(from)) throw new DomainError('redirect-target-missing');
  const landing = rules.find((rule) => rule.from === from)?.to ?? '';
  if (landing.split('#')[0] === from) throw new DomainError('redirect-onto-itself', { address: from });
  await refuseLivePage(situation, from);
  await refuseLoop(situation, after, rules, from);
  return {
    decision: { kind: 'redirect', redirect },
    message: decided('redirect-set', { from, to: landing, status: to.status }),
  };
}

function readOptions(how: Omit<Settling, 'from' | 'to'>, situation: Situation): RuleOptions & RuleTerm {
  const { dropsQuery, ignoreCase, anySlash } = how;
  return {
    ...(dropsQuery ? { dropsQuery: true } : {}),
    ...(ignoreCase ? { ignoreCase: true } : {}),
    ...(anySlash ? { anySlash: true } : {}),
    ...readTerm(how, situation),
  };
}

/** As it stands in a header: what is beyond ASCII is encoded here, once (RFC 9110, section 10.2.2; URL standard). */
function readTarget(target: RedirectTarget): RedirectTarget {
  if (target.kind === 'url') {
    const url = new URL(target.url);
    if (url.username !== '' || url.password !== '') throw new DomainError('redirect-target-user', { host: url.host });
    return { kind: 'url', url: url.href };
  }
  if (target.kind !== 'address') return target;
  const hash = target.address.indexOf('#');
  if (hash < 0) return { kind: 'address', address: readAddress(target.address) };
  // A fragment is no part of an address in its normal form.
  const fragment = encodeFragment(target.address.slice(hash + 1));
  return { kind: 'address', address: readAddress(target.address.slice(0, hash) || '/') + fragment };
}

async function refuseLivePage(situation: Situation, from: string): Promise<void> {
  if (from.includes('?') || splitHost(from).host !== undefined) return;
  const steps = walkProof(splitAddress(from), indexRules([]));
  const paths = steps.next().value;
  const files = await findExistingFiles(situation, situation.draft, Array.isArray(paths) ? paths : []);
  const step = steps.next(files);
  if (step.done && step.value.end.kind === 'page') throw new DomainError('redirect-hidden', { address: from });
}

async function refuseLoop(situation: Situation, after: Draft, rules: readonly Rule[], from: string): Promise<void> {
  const steps = walkProof(splitAddress(from), indexRules(rules));
  let step = steps.next();
  while (!step.done) step = steps.next(await findExistingFiles(situation, after, step.value));
  if (step.value.end.kind === 'loop') {
    throw new DomainError('redirect-loop', { hops: step.value.hops.map(({ address }) => address).join(' → ') });
  }
}

type Settling = Extract<DecisionRequest, { kind: 'redirects' }>['settle'][number];

/** Many at once: all of them, or with a reason none. */
export async function prepareRedirects(
  situation: Situation,
  request: Extract<DecisionRequest, { kind: 'redirects' }>,
): Promise<Prepared> {
  const { draft } = situation;
  const domains = await readOldDomains(situation.tx, situation.site);
  const removed = request.remove.map((from) => (draft.redirects.has(from) ? from : readOldAddress(from, domains)));
  const redirects = new Map(
    request.settle.map((each) => {
      const redirect = formRedirect(each, situation, domains);
      return [redirect.from, redirect];
    }),
  );
  const patterns = numberPatterns(situation, request.patterns ?? []);
  if (redirects.size + removed.length + patterns.length === 0) throw new DomainError('nothing-to-settle');
  const unknown = removed.find((from) => !draft.redirects.has(from));
  if (unknown !== undefined) throw new DomainError('redirect-unknown', { address: unknown });
  const merged = new Map([...draft.redirects].filter(([from]) => !removed.includes(from)));
  for (const [from, redirect] of redirects) merged.set(from, redirect);
  const after: Draft = {
    ...draft,
    redirects: merged,
    patterns: new Map([...draft.patterns, ...patterns.map(({ id, pattern }) => [id, pattern] as const)]),
  };
  const { rules, withoutTarget } = await readDraftRules(
    situation.tx,
    situation.importId,
    after,
    readToday(situation.deps),
  );
  if (withoutTarget.some((from) => redirects.has(from))) throw new DomainError('redirect-target-missing');
  const index = indexRules(rules);
  for (const from of redirects.keys())
    if (index.get(from)?.to?.split('#')[0] === from) throw new DomainError('redirect-onto-itself', { address: from });
  const froms = [...redirects.keys()];
  const alone = await proveAll(
    situation,
    draft,
    froms.filter((from) => !from.includes('?') && splitHost(from).host === undefined),
    indexRules([]),
  );
  for (const [from, { end }] of alone)
    if (end.kind === 'page') throw new DomainError('redirect-hidden', { address: from });
  for (const { hops, end } of (await proveAll(situation, after, froms, index)).values()) {
    if (end.kind === 'loop')
      throw new DomainError('redirect-loop', { hops: hops.map(({ address }) => address).join(' → ') });
  }
  return {
    decision: {
      kind: 'redirects',
      redirects: [...redirects.values()],
      removed,
      ...(patterns.length > 0 ? { patterns } : {}),
    },
    message: describeSettling([...redirects.values()], removed, patterns.length),
  };
}

function formRedirect(
  { from: written, to, ...how }: Settling,
  situation: Situation,
  domains: readonly string[],
): Redirect {
  const [from, options] = [readOldAddress(written, domains), readOptions(how, situation)];
  if (to.status === 410) return { from, status: 410, ...options };
  return {
    from,
    status: to.status,
    target: readTarget(to.target),
    ...options,
  };
}

function describeSettling(
  redirects: readonly Redirect[],
  removed: readonly string[],
  patterns: number,
): DecisionMessage {
  const gone = redirects.filter(({ status }) => status === 410).length;
  const moved = redirects.length - gone;
  const open = removed.length;
  return decided('redirects-set', {
    parts: [
      ...(patterns > 0 ? [decided('part-patterns', { count: patterns })] : []),
      ...(moved > 0 ? [decided('part-redirected', { count: moved })] : []),
      ...(gone > 0 ? [decided('part-gone', { count: gone })] : []),
      ...(open > 0 ? [decided(patterns > 0 ? 'part-left-to-pattern' : 'part-open-again', { count: open })] : []),
    ],
  });
}

export async function prepareRedirectRemoved(
  { draft, tx, site }: Situation,
  request: { from: string },
): Promise<Prepared> {
  const from = draft.redirects.has(request.from)
    ? request.from
    : readOldAddress(request.from, await readOldDomains(tx, site));
  if (!draft.redirects.has(from)) throw new DomainError('redirect-unknown', { address: from });
  return { decision: { kind: 'redirect-removed', from }, message: decided('redirect-removed', { from }) };
}

/** Redirects in several steps, led at once to where they end: one decision for all of them. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { judgeDetour, indexRules, isRedirect, type Redirect, type RedirectTarget } from '@fastigium/core/redirects';
import { findDraftAddress } from '@fastigium/core/site';
import { readDraftRules } from '../draftRules.ts';
import { readAllPages } from '../pageFiles.ts';
import { readToday } from '../../shared/today.ts';
import { proveAll } from './proofs.ts';
import type { Prepared, Situation } from './situation.ts';

/** @param addresses old addresses; null for all that take more than one step */
export async function prepareFlattened(situation: Situation, addresses: readonly string[] | null): Promise<Prepared> {
  const { draft, tx, importId } = situation;
  const pages = await readAllPages(tx, importId, draft);
  const { rules } = await readDraftRules(tx, importId, draft, readToday(situation.deps));
  const wanted = addresses && new Set(addresses);
  const froms = rules
    .filter((rule) => isRedirect(rule) && !rule.isPattern && (wanted?.has(rule.from) ?? true))
    .map(({ from }) => from);
  const byAddress = new Map([...pages.values()].map((page) => [findDraftAddress(draft, page), page.id]));
  const proofs = await proveAll(situation, draft, froms, indexRules(rules));
  const byFrom = new Map(rules.map((rule) => [rule.from, rule]));
  const redirects = froms.flatMap((from): Redirect[] => {
    const proof = proofs.get(from);
    const detour = proof && judgeDetour(proof);
    const rule = byFrom.get(from);
    if (detour?.kind !== 'chain' || !rule) return [];
    const before = draft.redirects.get(from);
    const how = {
      ...(rule.dropsQuery ? { dropsQuery: true as const } : {}),
      ...(rule.ignoreCase ? { ignoreCase: true as const } : {}),
      ...(rule.anySlash ? { anySlash: true as const } : {}),
      ...(before?.note === undefined ? {} : { note: before.note }),
      ...(before?.until === undefined ? {} : { until: before.until }),
    };
    if (detour.final === undefined) return [{ from, status: 410, ...how }];
    const status = rule.status === 200 || rule.status === 410 ? 301 : rule.status;
    return [{ from, status, target: findTarget(detour.final, byAddress), ...how }];
  });
  if (redirects.length === 0) throw new DomainError('nothing-to-flatten');
  return {
    decision: { kind: 'redirects', redirects, removed: [] },
    message: decided('flattened', { count: redirects.length, from: redirects[0]?.from ?? '' }),
  };
}

function findTarget(final: string, byAddress: ReadonlyMap<string, string>): RedirectTarget {
  const page = byAddress.get(final);
  if (page !== undefined) return { kind: 'page', page };
  return final.startsWith('/') ? { kind: 'address', address: final } : { kind: 'url', url: final };
}

/** The ledger of old addresses: where each lands by the draft's rules, and what is suggested for the rest. */
import type { RedirectRow, Suggestion } from '@fastigium/contracts/api/redirects';
import { findAddressOfFile, splitAddress } from '@fastigium/core/address';
import { decide, indexRules, isRedirect, prove, ruleFault, type ProofEnd, type Rule } from '@fastigium/core/redirects';
import type { Noise } from '@fastigium/core/redirects/gather';
import { findPublishedPath } from '@fastigium/core/release';
import { findDraftAddress, labelTitle, type Draft } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readListedPages, type ListedPage } from '../draft/listedPages.ts';
import { readTitleEndings } from '../draft/prepare/situation.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { readToday } from '../shared/today.ts';
import { findRuleProblems } from './problems.ts';

interface OldRow extends Record<string, unknown> {
  readonly address: string;
  readonly visits: number | null;
  readonly kind: RedirectRow['kind'];
  readonly noise: Noise | null;
  readonly page: string | null;
  readonly path: string | null;
  readonly probability: number | null;
}

export async function readRedirectRows(
  deps: Deps,
  site: string,
): Promise<{ version: number; rows: RedirectRow[]; suggesting: boolean }> {
  const { draft, importId, version, rules, shards } = await compileDraft(deps, site);
  const pages = await readListedPages(deps.db, importId, draft);
  const files = await readAllEntries(deps.db, shards);
  const byAddress = new Map(pages.map((page) => [findDraftAddress(draft, page), page]));
  const byId = new Map(pages.map((page) => [page.id, page]));
  const home = byAddress.get(`${draft.basePath}/`);
  const endings = await readTitleEndings(deps.db, importId);
  const titles = new Map(
    pages.map((page) => [page.id, labelTitle(draft.titles.get(page.id) ?? page.title ?? '', endings)]),
  );
  const olds = await deps.db.many<OldRow>(
    `select o.address, o.visits, o.kind, o.noise, s.page_id as page, s.path, s.probability
       from old_address o left join suggestion s on s.site_id = o.site_id and s.address = o.address and s.rank = 1 where o.site_id = $1`,
    [site],
  );
  const known = new Map(olds.map((old) => [old.address, old]));
  const suggested = (old: OldRow | undefined): Suggestion | null => {
    if (!old || old.probability === null) return null;
    const page = old.page === null ? undefined : byId.get(old.page);
    if (old.page !== null && !page) return null;
    return {
      page: page?.id ?? null,
      address: page ? findDraftAddress(draft, page) : draft.basePath + findAddressOfFile(old.path ?? ''),
      title: page ? (titles.get(page.id) ?? '') : '',
      probability: old.probability,
    };
  };
  const index = indexRules(rules.rules);
  const problems = new Map(
    (await findRuleProblems(deps.db, site, { draft, rules }, files, readToday(deps)))
      .filter(({ isPattern }) => !isPattern)
      .map(({ from, kind, message, final }) => [from, { kind, message, final }]),
  );
  const row = (from: string): RedirectRow => {
    const address = splitAddress(from);
    const answer = decide(address, files, index);
    const rule = answer.kind === 'redirect' || answer.kind === 'gone' ? answer.rule : undefined;
    const decided = draft.redirects.get(rule && !rule.isPattern ? rule.from : from);
    const old = known.get(from);
    const end = prove(address, files, index).end;
    const to =
      answer.kind === 'redirect'
        ? rule?.from === from
          ? (rule.to ?? null)
          : answer.location
        : answer.kind === 'file'
          ? findAddressOfFile(answer.file)
          : null;
    const page = byAddress.get(to?.split('#')[0] ?? '');
    // A folder that is asked for without its slash has no rule, and is the page all the same.
    const isLost = end.kind === 'missing' || end.kind === 'loop';
    // An address of an old domain without a rule leads to the same one here, which may be nothing.
    const origin =
      answer.kind === 'file'
        ? 'page'
        : answer.kind === 'missing'
          ? 'open'
          : rule === undefined
            ? isLost
              ? 'open'
              : 'page'
            : rule.isPattern
              ? 'pattern'
              : decided
                ? 'decided'
                : 'moved';
    return {
      from,
      visits: old?.visits ?? null,
      kind: old?.kind ?? 'page',
      noise: old?.noise ?? null,
      origin,
      status: rule && isRedirect(rule) ? rule.status : null,
      to,
      toTitle: page ? (titles.get(page.id) ?? null) : null,
      toPage: page?.id ?? null,
      target: decided && decided.status !== 410 ? decided.target : null,
      dropsQuery: rule?.dropsQuery ?? false,
      ignoreCase: rule?.ignoreCase ?? false,
      anySlash: rule?.anySlash ?? false,
      note: decided?.note ?? null,
      until: decided?.until ?? null,
      end: end.kind === 'page' && end.file === findHomeFile(home, draft) ? 'home' : end.kind,
      problem: problems.get(from) ?? findPatternProblem(rule, end),
      suggestion: origin === 'open' ? suggested(old) : null,
    };
  };
  const exact = rules.rules.filter((rule) => isRedirect(rule) && !rule.isPattern).map(({ from }) => from);
  const rows = [...new Set([...exact, ...draft.redirects.keys(), ...known.keys()])].map(row);
  const suggesting =
    (await deps.db.maybeOne(
      `select 1 from job where site_id = $1 and kind = 'suggest' and state in ('waiting', 'running') limit 1`,
      [site],
    )) !== undefined;
  return {
    version,
    rows: rows.sort((a, b) => (b.visits ?? -1) - (a.visits ?? -1) || (a.from < b.from ? -1 : 1)),
    suggesting,
  };
}

/** A pattern is right for most and wrong for some, which are told one by one. */
function findPatternProblem(rule: Rule | undefined, end: ProofEnd): RedirectRow['problem'] {
  if (!rule?.isPattern || (end.kind !== 'missing' && end.kind !== 'loop')) return null;
  return {
    kind: end.kind === 'loop' ? 'loop' : 'dead',
    message:
      end.kind === 'loop'
        ? ruleFault('pattern-in-circle', { pattern: rule.from })
        : ruleFault('pattern-to-nowhere', { pattern: rule.from, at: end.address }),
    final: null,
  };
}

const findHomeFile = (home: ListedPage | undefined, draft: Draft): string | undefined =>
  home ? findPublishedPath(draft, home) : undefined;

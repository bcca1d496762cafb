/** The proof as people see it: the draft reckoned now, beside what the live host answered when it was asked. */
import type { LiveWayMessage } from '@fastigium/core/redirects';
import type { RedirectProof } from '@fastigium/contracts/api/redirectProof';
import { splitAddress } from '@fastigium/core/address';
import { indexRules, isRedirect, prove } from '@fastigium/core/redirects';
import { findPublishedPath } from '@fastigium/core/release';
import { findDraftAddress, labelTitle } from '@fastigium/core/site';
import type { Deps } from '../../../deps.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { readListedPages } from '../../draft/listedPages.ts';
import { readTitleEndings } from '../../draft/prepare/situation.ts';
import { readAllEntries } from '../../shared/manifests.ts';
import { deriveInitials } from '../../shared/initials.ts';
import { readAddressesToProve } from './proveJob.ts';
import { judgeWay } from './ways.ts';

interface LiveRow extends Record<string, unknown> {
  readonly address: string;
  readonly hops: { address: string; status: number }[];
  readonly end: Exclude<RedirectProof['rows'][number]['draft']['end'], 'home'>;
  readonly final: string | null;
  readonly problem: LiveWayMessage | null;
}

export async function readRedirectProof(deps: Deps, site: string): Promise<RedirectProof> {
  const { draft, importId, version, rules, shards } = await compileDraft(deps, site);
  const [files, index] = [await readAllEntries(deps.db, shards), indexRules(rules.rules)];
  const pages = await readListedPages(deps.db, importId, draft);
  const endings = await readTitleEndings(deps.db, importId);
  const titles = new Map(
    pages.map((page) => [
      findPublishedPath(draft, page),
      labelTitle(draft.titles.get(page.id) ?? page.title ?? '', endings),
    ]),
  );
  const homeAddress = `${draft.basePath}/`;
  const homePage = pages.find((page) => findDraftAddress(draft, page) === homeAddress);
  const home = homePage && findPublishedPath(draft, homePage);
  const visits = new Map(
    (
      await deps.db.many<{ address: string; visits: number | null }>(
        'select address, visits from old_address where site_id = $1',
        [site],
      )
    ).map((row) => [row.address, row.visits]),
  );
  const lives = new Map(
    (
      await deps.db.many<LiveRow>(
        'select address, hops, end_kind as end, final, message as problem from redirect_proof_row where site_id = $1',
        [site],
      )
    ).map((row) => [row.address, row]),
  );
  const last = await deps.db.maybeOne<{
    number: number;
    origin: string;
    at: Date;
    id: string;
    name: string;
    isCurrent: boolean;
  }>(
    `select r.number, p.origin, p.at, b.id, b.name, s.live_release = p.release_id as "isCurrent"
       from redirect_proof p join release r on r.id = p.release_id join person b on b.id = p.by join site s on s.id = p.site_id where p.site_id = $1`,
    [site],
  );
  const { isLive } = await deps.db.one<{ isLive: boolean }>(
    'select live_release is not null as "isLive" from site where id = $1',
    [site],
  );
  const addresses = await readAddressesToProve(
    deps.db,
    site,
    rules.rules.filter((rule) => isRedirect(rule) && !rule.isPattern).map(({ from }) => from),
  );
  return {
    version,
    isLive,
    live: last
      ? {
          release: last.number,
          origin: last.origin,
          at: last.at.toISOString(),
          by: { id: last.id, name: last.name, initials: deriveInitials(last.name) },
          isCurrent: last.isCurrent,
        }
      : null,
    rows: addresses.map((from) => {
      const proof = prove(splitAddress(from), files, index);
      const live = lives.get(from);
      const isHome = live?.end === 'page' && live.final?.split('?')[0] === homeAddress;
      return {
        from,
        visits: visits.get(from) ?? null,
        draft: judgeWay(proof, home),
        title: proof.end.kind === 'page' ? (titles.get(proof.end.file) ?? null) : null,
        live: live
          ? { hops: live.hops, end: isHome ? 'home' : live.end, final: live.final, problem: live.problem }
          : null,
      };
    }),
  };
}

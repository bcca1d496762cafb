/** What is wrong with a draft's rules, as snags. */
import { mend } from '@fastigium/core/checks';
import type { FileSet } from '@fastigium/core/redirects';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { findRuleProblems, type CompiledRules } from '../redirects/problems.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { readToday } from '../shared/today.ts';
import { keepSiteFamily } from './snagRows.ts';

/** Again, where something outside is known that was not: which targets answer. */
export async function checkRedirects(deps: Deps, site: string): Promise<void> {
  const compiled = await compileDraft(deps, site);
  await deps.db.transaction(async (tx) => {
    await keepRedirectSnags(tx, deps, site, compiled, await readAllEntries(tx, compiled.shards));
    await announce(tx, { kind: 'snags', site });
  });
}

/** Under the old address; it is no page, so nothing of it is in a file. */
export async function keepRedirectSnags(
  tx: Queries,
  deps: Pick<Deps, 'world'>,
  site: string,
  compiled: CompiledRules,
  files: FileSet,
): Promise<void> {
  const found = await findRuleProblems(tx, site, compiled, files, readToday(deps));
  await keepSiteFamily(
    tx,
    site,
    'redirects',
    found.map(({ from, kind, message, final }) => ({
      code: `redirect-${kind}`,
      path: from.slice(1),
      page: undefined,
      detail: message,
      start: undefined,
      end: undefined,
      mend: final === null ? undefined : { label: mend('lead-there'), asks: undefined },
    })),
  );
}

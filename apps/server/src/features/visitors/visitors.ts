/** Who may visit, as the draft says it. */
import type { VisitorPlace, Visitors } from '@fastigium/contracts/api/visitors';
import { DomainError } from '@fastigium/contracts/errors';
import { draftAddress, withRemoved } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { draftAt, history, latestDraft, siteState } from '../draft/history.ts';
import { pagesById } from '../draft/pageFiles.ts';
import { nameOf } from '../draft/prepare/situation.ts';
import { passwordsOf } from '../shared/visitorPasswords.ts';

export async function visitorsOf(deps: Deps, site: string): Promise<Visitors> {
  const { db } = deps;
  const { currentImport: importId, version } = await siteState(db, site);
  const isEnforced = (await deps.hosts.of(db, site)).asksPasswords;
  if (importId === null) return { version, places: [], instead: null, lastDay: null, isEnforced };
  const decisions = await history(db, site);
  const draft = draftAt(decisions, Infinity);
  const situation = { tx: db, deps, site, importId, decisions, draft: withRemoved(draft), seq: version };
  const ids = [
    ...[...draft.entries.keys()].flatMap((place) => place ?? []),
    ...(draft.shownInstead === undefined ? [] : [draft.shownInstead]),
  ];
  const pages = await pagesById(db, importId, situation.draft, ids);
  const named = async (id: string) => {
    const page = pages.get(id);
    return page && { title: await nameOf(situation, page), address: draftAddress(draft, page) };
  };
  const places: VisitorPlace[] = [];
  for (const [place, entry] of draft.entries) {
    const name = place === null ? { title: 'The whole site', address: '/' } : await named(place);
    if (name) places.push({ place, ...name, kind: entry.kind, user: entry.kind === 'password' ? entry.user : null });
  }
  const shown = draft.shownInstead === undefined ? undefined : await named(draft.shownInstead);
  return {
    version,
    places: places.sort((a, b) => (a.place === null ? -1 : b.place === null ? 1 : a.address < b.address ? -1 : 1)),
    instead: shown && draft.shownInstead !== undefined ? { page: draft.shownInstead, ...shown } : null,
    lastDay: draft.lastDay ?? null,
    isEnforced,
  };
}

export async function passwordsInDraft(
  deps: Deps,
  site: string,
): Promise<{ place: string | null; user: string; password: string }[]> {
  const entries = [...(await latestDraft(deps.db, site)).entries].flatMap(([place, entry]) =>
    entry.kind === 'password' ? [{ place, ...entry }] : [],
  );
  const known = await passwordsOf(
    deps.db,
    deps,
    site,
    entries.map(({ hash }) => hash),
  );
  return entries.map(({ place, user, hash }) => {
    const password = known.get(hash);
    if (password === undefined) throw new DomainError('not-found', { what: 'password' });
    return { place, user, password };
  });
}

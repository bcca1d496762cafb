/** Who may visit, as the draft says it. */
import type { VisitorPlace, Visitors } from '@fastigium/contracts/api/visitors';
import { DomainError } from '@fastigium/contracts/errors';
import { findDraftAddress, withRemoved } from '@fastigium/core/site';
import type { Deps } from '../../deps.ts';
import { foldDraftAt, readHistory, readLatestDraft, readSiteState } from '../draft/history.ts';
import { readPagesById } from '../draft/pageFiles.ts';
import { readName } from '../draft/prepare/situation.ts';
import { readPasswords } from '../shared/visitorPasswords.ts';

export async function readVisitors(deps: Deps, site: string): Promise<Visitors> {
  const { db } = deps;
  const { currentImport: importId, version } = await readSiteState(db, site);
  const isEnforced = (await deps.hosts.of(db, site)).asksPasswords;
  if (importId === null) return { version, places: [], instead: null, lastDay: null, isEnforced };
  const decisions = await readHistory(db, site);
  const draft = foldDraftAt(decisions, Infinity);
  const situation = { tx: db, deps, site, importId, decisions, draft: withRemoved(draft), seq: version };
  const ids = [
    ...[...draft.entries.keys()].flatMap((place) => place ?? []),
    ...(draft.shownInstead === undefined ? [] : [draft.shownInstead]),
  ];
  const pages = await readPagesById(db, importId, situation.draft, ids);
  const named = async (id: string) => {
    const page = pages.get(id);
    return page && { title: await readName(situation, page), address: findDraftAddress(draft, page) };
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

export async function readPasswordsInDraft(
  deps: Deps,
  site: string,
): Promise<{ place: string | null; user: string; password: string }[]> {
  const entries = [...(await readLatestDraft(deps.db, site)).entries].flatMap(([place, entry]) =>
    entry.kind === 'password' ? [{ place, ...entry }] : [],
  );
  const known = await readPasswords(
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

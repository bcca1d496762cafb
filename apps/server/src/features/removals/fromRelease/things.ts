/** What a kept release had and today's draft has not, or has otherwise. */
import type { ReleaseThing, ReleaseThingDetail } from '@fastigium/contracts/api/removals';
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import { decodeSource, parsePage, readPage, findSections } from '@fastigium/core/html';
import { findPublishedPath, type ManifestEntry } from '@fastigium/core/release';
import { compareSources } from '@fastigium/core/report';
import { findDraftAddress, isOut, labelTitle, keySection, withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../../db/database.ts';
import type { Deps } from '../../../deps.ts';
import { readContent } from '../../shared/contents.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { readAllPages, readPagesById } from '../../draft/pageFiles.ts';
import { readTitleEndings } from '../../draft/prepare/situation.ts';
import { readEntries } from '../../shared/manifests.ts';
import { readDifference } from '../../changes/changes.ts';
import { readKeptEntry, readKeptRelease, findPageThen } from '../../draft/keptReleases.ts';

/** Titles are read from the pages themselves; of more than these, addresses are what a person can use. */
const MOST_TITLES = 300;
const MOST_LINES = 400;

export async function readThingsInRelease(deps: Deps, site: string, number: number): Promise<ReleaseThing[]> {
  const { db } = deps;
  const release = await readKeptRelease(db, site, number);
  const today = await compileDraft(deps, site);
  const { removed, changed, moved } = await readDifference(db, release.shards, today.shards);
  // The same page under another address is there today.
  const then = new Map(
    [...(await readAllPages(db, release.importId, release.draft)).values()].map((page) => [
      findPublishedPath(release.draft, page),
      page.id,
    ]),
  );
  const now = new Map(
    [...(await readAllPages(db, today.importId, withRemoved(today.draft))).values()].map((page) => [page.id, page]),
  );
  const isElsewhere = ({ path }: ManifestEntry) => {
    const id = then.get(path);
    return id !== undefined && now.has(id) && !isOut(today.draft, id);
  };
  const movedFrom = new Set(moved.map(({ before }) => before.path));
  const gone = removed.filter((entry) => !movedFrom.has(entry.path));
  const endings = await readTitleEndings(db, today.importId);
  const rows = [
    ...gone.filter((entry) => !isElsewhere(entry)).map((entry) => ({ entry, today: standing(entry) })),
    ...[...changed.map(({ before }) => before), ...gone.filter(isElsewhere)].map((entry) => ({
      entry,
      today: 'different' as const,
    })),
  ];
  function standing({ path }: ManifestEntry): ReleaseThing['today'] {
    const id = then.get(path);
    return (id !== undefined && today.draft.removals.has(today.draft.removed.get(id) ?? 0)) ||
      today.draft.removedFiles.has(path)
      ? 'removed'
      : 'missing';
  }
  return Promise.all(
    rows
      .sort((a, b) => RANK[a.today] - RANK[b.today] || (a.entry.path < b.entry.path ? -1 : 1))
      .map(async ({ entry, today: how }, index): Promise<ReleaseThing> => ({
        path: entry.path,
        address: findAddressOfFile(entry.path),
        kind: isPageFile(entry.path) ? 'page' : 'file',
        today: how,
        label:
          index < MOST_TITLES && isPageFile(entry.path)
            ? await readTitleIn(db, entry, endings)
            : readFileName(entry.path),
      })),
  );
}

const RANK = { missing: 0, removed: 1, different: 2 } as const;
const readFileName = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

async function readTitleIn(db: Queries, { hash, path }: ManifestEntry, endings: readonly string[]): Promise<string> {
  const { title } = readPage(await readContent(db, hash));
  return labelTitle(title ?? '', endings) || findAddressOfFile(path);
}

export async function readThingInRelease(
  deps: Deps,
  site: string,
  number: number,
  path: string,
): Promise<ReleaseThingDetail> {
  const { db } = deps;
  const release = await readKeptRelease(db, site, number);
  const entry = await readKeptEntry(db, release, path);
  const { draft, importId, shards } = await compileDraft(deps, site);
  const bytes = await readContent(db, entry.hash);
  const isPage = isPageFile(path);
  const id = isPage ? (await findPageThen(db, release, path))?.id : undefined;
  const page = id === undefined ? undefined : (await readPagesById(db, importId, draft, [id])).get(id);
  const pathToday = page ? findPublishedPath(draft, page) : path;
  const entryToday = (await readEntries(db, shards, [pathToday])).get(pathToday);
  const bytesToday = entryToday ? await readContent(db, entryToday.hash) : undefined;
  const namesToday = new Set(isPage && bytesToday ? findSections(parsePage(bytesToday)).map(({ name }) => name) : []);
  const isText = /^text\/|json|xml|javascript/.test(entry.headers['content-type'] ?? '') && bytes.length <= 1024 * 1024;
  return {
    path,
    address: findAddressOfFile(path),
    kind: isPage ? 'page' : 'file',
    label: isPage ? await readTitleIn(db, entry, await readTitleEndings(db, importId)) : readFileName(path),
    page: page?.id ?? null,
    addressToday: page ? findDraftAddress(draft, page) : isPage || !entryToday ? null : findAddressOfFile(path),
    removal: findRemoval(draft, id, path),
    sections: isPage
      ? findSections(parsePage(bytes)).map(({ name, nth }) => ({
          name,
          nth,
          today: namesToday.has(name),
          removal:
            (id === undefined ? undefined : draft.removedSections.get(id)?.get(keySection({ name, nth }))?.removal) ??
            null,
        }))
      : [],
    lines:
      isText && bytesToday
        ? compareSources(decodeSource(bytes).text, decodeSource(bytesToday).text)
            .slice(0, MOST_LINES)
            .map(({ sign, text }) => ({ sign, text: text.slice(0, 2000) }))
        : [],
    sizeBytes: entry.sizeBytes,
  };
}

function findRemoval(draft: Draft, id: string | undefined, path: string): number | null {
  const removal = id === undefined ? draft.removedFiles.get(path) : draft.removed.get(id);
  return removal !== undefined && draft.removals.has(removal) ? removal : null;
}

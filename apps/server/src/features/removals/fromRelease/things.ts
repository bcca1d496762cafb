/** What a kept release had and today's draft has not, or has otherwise. */
import type { ReleaseThing, ReleaseThingDetail } from '@fastigium/contracts/api/removals';
import { addressOfFile, isPageFile } from '@fastigium/core/address';
import { decodeSource, parsePage, readPage, sections } from '@fastigium/core/html';
import { publishedPath, type ManifestEntry } from '@fastigium/core/release';
import { sourceDiff } from '@fastigium/core/report';
import { draftAddress, isOut, labelOf, sectionKey, withRemoved, type Draft } from '@fastigium/core/site';
import type { Queries } from '../../../db/database.ts';
import type { Deps } from '../../../deps.ts';
import { contentBytes } from '../../shared/contents.ts';
import { compileDraft } from '../../draft/compileDraft.ts';
import { allPages, pagesById } from '../../draft/pageFiles.ts';
import { titleEndings } from '../../draft/prepare/situation.ts';
import { entriesOf } from '../../shared/manifests.ts';
import { differenceBetween } from '../../changes/changes.ts';
import { keptEntry, keptRelease, pageAtThen } from '../../draft/keptReleases.ts';

/** Titles are read from the pages themselves; of more than these, addresses are what a person can use. */
const MOST_TITLES = 300;
const MOST_LINES = 400;

export async function thingsInRelease(deps: Deps, site: string, number: number): Promise<ReleaseThing[]> {
  const { db } = deps;
  const release = await keptRelease(db, site, number);
  const today = await compileDraft(deps, site);
  const { removed, changed, moved } = await differenceBetween(db, release.shards, today.shards);
  // The same page under another address is there today.
  const then = new Map(
    [...(await allPages(db, release.importId, release.draft)).values()].map((page) => [
      publishedPath(release.draft, page),
      page.id,
    ]),
  );
  const now = new Map(
    [...(await allPages(db, today.importId, withRemoved(today.draft))).values()].map((page) => [page.id, page]),
  );
  const isElsewhere = ({ path }: ManifestEntry) => {
    const id = then.get(path);
    return id !== undefined && now.has(id) && !isOut(today.draft, id);
  };
  const movedFrom = new Set(moved.map(({ before }) => before.path));
  const gone = removed.filter((entry) => !movedFrom.has(entry.path));
  const endings = await titleEndings(db, today.importId);
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
        address: addressOfFile(entry.path),
        kind: isPageFile(entry.path) ? 'page' : 'file',
        today: how,
        label:
          index < MOST_TITLES && isPageFile(entry.path) ? await titleIn(db, entry, endings) : nameOfFile(entry.path),
      })),
  );
}

const RANK = { missing: 0, removed: 1, different: 2 } as const;
const nameOfFile = (path: string): string => path.slice(path.lastIndexOf('/') + 1);

async function titleIn(db: Queries, { hash, path }: ManifestEntry, endings: readonly string[]): Promise<string> {
  const { title } = readPage(await contentBytes(db, hash));
  return labelOf(title ?? '', endings) || addressOfFile(path);
}

export async function thingInRelease(
  deps: Deps,
  site: string,
  number: number,
  path: string,
): Promise<ReleaseThingDetail> {
  const { db } = deps;
  const release = await keptRelease(db, site, number);
  const entry = await keptEntry(db, release, path);
  const { draft, importId, shards } = await compileDraft(deps, site);
  const bytes = await contentBytes(db, entry.hash);
  const isPage = isPageFile(path);
  const id = isPage ? (await pageAtThen(db, release, path))?.id : undefined;
  const page = id === undefined ? undefined : (await pagesById(db, importId, draft, [id])).get(id);
  const pathToday = page ? publishedPath(draft, page) : path;
  const entryToday = (await entriesOf(db, shards, [pathToday])).get(pathToday);
  const bytesToday = entryToday ? await contentBytes(db, entryToday.hash) : undefined;
  const namesToday = new Set(isPage && bytesToday ? sections(parsePage(bytesToday)).map(({ name }) => name) : []);
  const isText = /^text\/|json|xml|javascript/.test(entry.headers['content-type'] ?? '') && bytes.length <= 1024 * 1024;
  return {
    path,
    address: addressOfFile(path),
    kind: isPage ? 'page' : 'file',
    label: isPage ? await titleIn(db, entry, await titleEndings(db, importId)) : nameOfFile(path),
    page: page?.id ?? null,
    addressToday: page ? draftAddress(draft, page) : isPage || !entryToday ? null : addressOfFile(path),
    removal: removalOf(draft, id, path),
    sections: isPage
      ? sections(parsePage(bytes)).map(({ name, nth }) => ({
          name,
          nth,
          today: namesToday.has(name),
          removal:
            (id === undefined ? undefined : draft.removedSections.get(id)?.get(sectionKey({ name, nth }))?.removal) ??
            null,
        }))
      : [],
    lines:
      isText && bytesToday
        ? sourceDiff(decodeSource(bytes).text, decodeSource(bytesToday).text)
            .slice(0, MOST_LINES)
            .map(({ sign, text }) => ({ sign, text: text.slice(0, 2000) }))
        : [],
    sizeBytes: entry.sizeBytes,
  };
}

function removalOf(draft: Draft, id: string | undefined, path: string): number | null {
  const removal = id === undefined ? draft.removedFiles.get(path) : draft.removed.get(id);
  return removal !== undefined && draft.removals.has(removal) ? removal : null;
}

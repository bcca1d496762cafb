/** A newer export against the one the site stands on: what it adds, changes and drops, and where it meets what was decided here. */
import { touch as touched, type TouchMessage } from '@fastigium/contracts/messages/touch';
import type { Conflict, ImportReview } from '@fastigium/contracts/api/imports';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile } from '@fastigium/core/address';
import { fold, parsePage, recognise, type Anchor } from '@fastigium/core/html';
import { matchPages, type ExportPage, type KnownPage, type Matching } from '@fastigium/core/reimport';
import { findSiteAddress, type Draft } from '@fastigium/core/site';
import { editTouch, type Touch } from '@fastigium/core/touches';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { readContent, readContentsByHash } from '../shared/contents.ts';
import { readLatestDraft, readSiteState } from '../draft/history.ts';
import { describeTouch } from '../draft/prepare/touches.ts';

export interface Compared {
  readonly importId: string;
  readonly fileName: string;
  readonly current: string;
  readonly version: number;
  readonly draft: Draft;
  readonly matching: Matching;
  readonly meetings: readonly Meeting[];
}

/** A decision of one page that the newer export concerns. */
export interface Meeting {
  readonly key: string;
  readonly kind: 'conflict' | 'waiting';
  readonly message: TouchMessage;
  readonly page: KnownPage;
  readonly before: string;
  readonly theirs: string;
  readonly ours: string | TouchMessage;
  /** Pages it concerns, `page` the first of them. */
  readonly pages: number;
  readonly touch:
    | {
        readonly seq: number;
        readonly touch: Touch;
        /** The place as the newer export has it. */
        readonly anchor: Anchor | undefined;
        /** In wider scopes: there are pages where its place is as it was. */
        readonly staysElsewhere: boolean;
      }
    | undefined;
}

export async function compareExports(threads: Deps['threads'], queries: Queries, site: string): Promise<Compared> {
  const waiting = await queries.maybeOne<{ id: string; fileName: string }>(
    `select id, file_name as "fileName" from import where site_id = $1 and state = 'reviewing'`,
    [site],
  );
  const { currentImport: current, version } = await readSiteState(queries, site);
  if (!waiting || current === null) throw new DomainError('no-review');
  const draft = await readLatestDraft(queries, site);
  const before = (await exportPages(queries, current)) as KnownPage[];
  const after = await exportPages(queries, waiting.id);
  const matching = matchPages(
    before.filter(({ id }) => id !== null),
    after,
  );
  const meetings = [
    ...(await findMeetings(queries, draft, matching)),
    ...(await findWideMeetings(threads, queries, current, draft, matching)),
  ];
  return { importId: waiting.id, fileName: waiting.fileName, current, version, draft, matching, meetings };
}

export async function exportPages(queries: Queries, importId: string): Promise<(ExportPage & { id: string | null })[]> {
  return queries.many<ExportPage & { id: string | null } & Record<string, unknown>>(
    `select f.page_id as id, f.path, f.hash, coalesce(r.title, '') as title, r.fingerprint
       from source_file f join file_reading r using (import_id, path) where f.import_id = $1 and f.path ~* '\\.(html?|xhtml)$' order by f.path`,
    [importId],
  );
}

/** Touches of single pages, and titles set here, where the newer export says something else in their place. */
async function findMeetings(queries: Queries, draft: Draft, { changed, moved, dropped }: Matching): Promise<Meeting[]> {
  const after = new Map(
    [...changed, ...moved]
      .filter(({ before, after: now }) => before.hash !== now.hash)
      .map(({ before, after: now }) => [before.id, { before, now }]),
  );
  const gone = new Map(dropped.map((page) => [page.id, page]));
  const out: Meeting[] = [];
  for (const [seq, touch] of draft.touches) {
    if (touch.scope.kind !== 'page') continue;
    const lost = gone.get(touch.scope.page);
    const pair = after.get(touch.scope.page);
    if (lost)
      out.push({
        key: `touch:${seq}`,
        kind: 'waiting',
        message: touched('on-dropped-page', { touch: describeTouch(touch) }),
        page: lost,
        before: '',
        theirs: '',
        ours: '',
        pages: 1,
        touch: { seq, touch, anchor: undefined, staysElsewhere: false },
      });
    if (!pair) continue;
    const document = parsePage(await readContent(queries, pair.now.hash));
    const found = 'place' in touch ? recognise(document, touch.place) : undefined;
    const message = describeTouch(touch);
    if (found?.kind === 'changed') {
      out.push({
        key: `touch:${seq}`,
        kind: 'conflict',
        message,
        page: pair.before,
        before: 'place' in touch ? touch.place.mark : '',
        theirs: found.place.anchor.mark,
        ours: touch.kind === 'text' ? touch.to : message,
        pages: 1,
        touch: { seq, touch, anchor: found.place.anchor, staysElsewhere: false },
      });
    } else if (
      found?.kind === 'lost' ||
      (!found &&
        editTouch(
          document,
          touch,
          { id: pair.before.id, before: findAddressOfFile(pair.now.path), after: findAddressOfFile(pair.now.path) },
          () => '/',
        ).places === 0)
    ) {
      out.push({
        key: `touch:${seq}`,
        kind: 'waiting',
        message,
        page: pair.before,
        before: '',
        theirs: '',
        ours: '',
        pages: 1,
        touch: { seq, touch, anchor: undefined, staysElsewhere: false },
      });
    }
  }
  for (const [id, title] of draft.titles) {
    const pair = after.get(id);
    if (pair && fold(pair.before.title) !== fold(pair.now.title) && pair.now.title !== title) {
      out.push({
        key: `title:${id}`,
        kind: 'conflict',
        message: touched('title', { title }),
        page: pair.before,
        before: pair.before.title,
        theirs: pair.now.title,
        ours: title,
        pages: 1,
        touch: undefined,
      });
    }
  }
  return out;
}

/** The same of touches on a branch or everywhere: one meeting for each text that stands in their place now, with all its pages. */
async function findWideMeetings(
  threads: Deps['threads'],
  queries: Queries,
  current: string,
  draft: Draft,
  { changed, moved, dropped }: Matching,
): Promise<Meeting[]> {
  const pairs = new Map(
    [...changed, ...moved]
      .filter(({ before, after }) => before.hash !== after.hash)
      .map((pair) => [pair.before.id, pair]),
  );
  const gone = new Set(dropped.map(({ id }) => id));
  const out: Meeting[] = [];
  for (const [seq, touch] of draft.touches) {
    if (touch.scope.kind === 'page') continue;
    const stood = await queries.many<{ page: string }>(
      'select page_id as page from touch_place where import_id = $1 and seq = $2 and places > 0',
      [current, seq],
    );
    const concerned = stood.flatMap(({ page }) => pairs.get(page) ?? []);
    let staysElsewhere = stood.some(({ page }) => !pairs.has(page) && !gone.has(page));
    const lost: KnownPage[] = [];
    const theirs = new Map<string, { anchor: Anchor; pages: KnownPage[] }>();
    for (let from = 0; from < concerned.length; from += PAGES_A_BATCH) {
      const batch = concerned.slice(from, from + PAGES_A_BATCH);
      const contents = await readContentsByHash(
        queries,
        batch.map(({ after }) => after.hash),
      );
      const work = batch.flatMap(({ before, after }) => {
        const bytes = contents.get(after.hash);
        const at = findAddressOfFile(after.path);
        return bytes ? [{ page: { id: before.id, before: at, after: at }, bytes }] : [];
      });
      const found = await threads.find(work, [touch]);
      for (const [index, { page }] of work.entries()) {
        const { places = 0, instead } = found[index]?.[0] ?? {};
        const before = pairs.get(page.id)?.before;
        if (!before) continue;
        if (places > 0) staysElsewhere = true;
        else if (instead) {
          const same = theirs.get(instead.mark) ?? { anchor: instead, pages: [] };
          same.pages.push(before);
          theirs.set(instead.mark, same);
        } else lost.push(before);
      }
    }
    const message = describeTouch(touch);
    for (const { anchor, pages } of theirs.values()) {
      const [page] = pages;
      if (page)
        out.push({
          key: `touch:${seq}:${out.length}`,
          kind: 'conflict',
          message,
          page,
          pages: pages.length,
          before: 'place' in touch ? touch.place.mark : '',
          theirs: anchor.mark,
          ours: touch.kind === 'text' ? touch.to : message,
          touch: { seq, touch, anchor, staysElsewhere },
        });
    }
    const [page] = lost;
    if (page)
      out.push({
        key: `touch:${seq}:lost`,
        kind: 'waiting',
        message: touched('place-gone', { touch: message, pages: lost.length }),
        page,
        pages: lost.length,
        before: '',
        theirs: '',
        ours: '',
        touch: { seq, touch, anchor: undefined, staysElsewhere },
      });
  }
  return out;
}

const PAGES_A_BATCH = 64;

export async function importReview(deps: Deps, site: string): Promise<ImportReview> {
  const { importId, fileName, current, version, draft, matching, meetings } = await compareExports(
    deps.threads,
    deps.db,
    site,
  );
  const files = await deps.db.one<{ added: number; changed: number; dropped: number }>(
    `select count(*) filter (where o.path is null)::int as added, count(*) filter (where n.path is null)::int as dropped, count(*) filter (where o.hash <> n.hash)::int as changed
       from (select path, hash from source_file where import_id = $1 and page_id is null) o
       full join (select path, hash from source_file where import_id = $2 and path !~* '\\.(html?|xhtml)$') n using (path)`,
    [current, importId],
  );
  const uses = new Map(
    (
      await deps.db.many<{ path: string; uses: number }>(
        'select path, uses from source_file where import_id = $1 and path = any($2)',
        [current, matching.dropped.map(({ path }) => path)],
      )
    ).map(({ path, uses: n }) => [path, n]),
  );
  const shown = ({ path, title }: ExportPage) => ({ path, title });
  const conflicts: Conflict[] = meetings
    .filter(({ kind }) => kind === 'conflict')
    .map(({ key, page, pages, message, before, theirs, ours, touch }) => ({
      key,
      page: page.id,
      title: page.title,
      pages,
      kind: touch ? 'touch' : 'title',
      message,
      before,
      theirs,
      ours,
    }));
  return {
    import: importId,
    fileName,
    version,
    unchanged: matching.unchanged,
    files,
    conflicts,
    added: matching.added.map(shown),
    changed: matching.changed.map(({ after }) => shown(after)),
    dropped: matching.dropped.map((page) => ({
      ...shown(page),
      isHome: findSiteAddress(draft, { id: page.id, sourcePath: page.path }) === '/',
      linksIn: uses.get(page.path) ?? 0,
    })),
    moved: matching.moved.map(({ before, after, alike }) => ({
      from: before.path,
      to: after.path,
      title: after.title,
      alike,
    })),
    waiting: meetings.filter(({ kind }) => kind === 'waiting').map(({ key, message }) => ({ key, message })),
  };
}

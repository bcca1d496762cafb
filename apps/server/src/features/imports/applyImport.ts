/** Putting a site on an import: pages keep who they are, decisions stay, and touches find their places again. */
import { decision as decided, type DecisionMessage } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { addressOfFile, isPageFile } from '@fastigium/core/address';
import {
  foldDecisions,
  plainAddress,
  withRemoved,
  type AddedNode,
  type Addresses,
  type Decision,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { announce } from '../../db/events.ts';
import type { Deps } from '../../deps.ts';
import { compileSoon } from '../draft/record.ts';
import { draftAt, history } from '../draft/history.ts';
import { findTouchPlaces, keepTouchPlaces } from '../draft/touchPlaces.ts';
import { clearImport } from './clearImport.ts';
import { recordTakenAlong } from './takenAlong.ts';
import { compareExports, type Compared } from './review.ts';

export interface Chosen {
  readonly by: { readonly id: string; readonly name: string };
  readonly import: string;
  readonly version: number;
  readonly choices: Readonly<Record<string, 'ours' | 'theirs'>>;
}

/** @param chosen for a newer export: who applies it, and how its conflicts are settled; those left open wait as touches do */
export async function applyImport(
  deps: Deps,
  site: string,
  importId: string,
  chosen: Chosen | undefined,
): Promise<number> {
  return deps.db.transaction(async (tx) => {
    const { version: before } = await tx.one<{ version: number }>(
      'select version from site where id = $1 for no key update',
      [site],
    );
    if (chosen && chosen.version !== before) throw new DomainError('draft-stale');
    const compared = chosen ? await compareExports(deps.threads, tx, site) : undefined;
    if (chosen && compared?.importId !== chosen.import) throw new DomainError('no-review');
    await assignPages(tx, site, importId, compared);
    const { by } = await tx.one<{ by: string }>(
      `update import set state = 'applied', applied_at = now() where id = $1 returning created_by as by`,
      [importId],
    );
    await tx.run('update site set current_import = $2 where id = $1', [site, importId]);
    const taken = chosen && compared ? await recordTaken(tx, site, before, compared, chosen) : before;
    const crawled = await recordCrawled(tx, site, importId, taken, chosen?.by.id ?? by);
    const version = chosen ? crawled : await recordTakenAlong(tx, site, importId, crawled, by);
    await placeTouches(deps, tx, site, importId);
    await announce(tx, { kind: 'draft', site, version, by: chosen?.by.name ?? '' });
    await compileSoon(tx, site, chosen?.by.id ?? by);
    return version;
  });
}

/** Pages known again keep their identity; one that was dropped and comes back has the one it had. */
async function assignPages(tx: Queries, site: string, importId: string, compared: Compared | undefined): Promise<void> {
  const read = await tx.many<{ path: string }>('select path from file_reading where import_id = $1', [importId]);
  const paths = read.map(({ path }) => path).filter(isPageFile);
  const known = new Map([...(compared?.matching.known ?? [])].map(([path, { id }]) => [path, id]));
  const used = new Set(known.values());
  const former = new Map(
    (
      await tx.many<{ id: string; path: string }>(
        'select id, source_path as path from page where site_id = $1 and source_path = any($2)',
        [site, paths],
      )
    ).map(({ id, path }) => [path, id]),
  );
  for (const path of paths) {
    const id = former.get(path);
    if (!known.has(path) && id !== undefined && !used.has(id)) known.set(path, id);
  }
  const fresh = paths.filter((path) => !known.has(path));
  const made = await tx.many<{ id: string; path: string }>(
    'insert into page (site_id, source_path) select $1, * from unnest($2::text[]) returning id, source_path as path',
    [site, fresh],
  );
  for (const { id, path } of made) known.set(path, id);
  await tx.run(
    'update page p set source_path = k.path from unnest($1::uuid[], $2::text[]) as k(id, path) where p.id = k.id',
    [[...known.values()], [...known.keys()]],
  );
  await tx.run(
    'update source_file f set page_id = k.id from unnest($2::text[], $3::uuid[]) as k(path, id) where f.import_id = $1 and f.path = k.path',
    [importId, [...known.keys()], [...known.values()]],
  );
}

async function recordTaken(
  tx: Queries,
  site: string,
  before: number,
  { fileName, matching, meetings }: Compared,
  { by, import: importId, choices }: Chosen,
): Promise<number> {
  let version = before;
  const record = async (decision: Decision, message: DecisionMessage) => {
    version += 1;
    await tx.run('insert into decision (site_id, seq, body, message, by) values ($1, $2, $3, $4, $5)', [
      site,
      version,
      JSON.stringify(decision),
      JSON.stringify(message),
      by.id,
    ]);
  };
  const former: Addresses = Object.fromEntries(
    matching.moved.map(({ before: page }) => [page.id, addressOfFile(page.path)]),
  );
  const kept = await keepRemoved(tx, site, before, importId);
  await record(
    { kind: 'export-taken', import: importId, former, ...kept },
    decided('export-taken', {
      file: fileName,
      added: matching.added.length,
      changed: matching.changed.length,
      moved: matching.moved.length,
      dropped: matching.dropped.length,
    }),
  );
  for (const { key, message, theirs, page, touch } of meetings) {
    const choice = choices[key];
    if (choice === undefined) continue;
    if (choice === 'theirs') {
      // Where the place is as it was the touch goes on.
      if (touch?.staysElsewhere) continue;
      if (touch)
        await record({ kind: 'touch-removed', of: touch.seq }, decided('as-export-has-it', { touch: message }));
      else await record({ kind: 'title', page: page.id, title: theirs }, decided('title-of-export', { title: theirs }));
    } else if (touch?.anchor && 'place' in touch.touch) {
      // The same touch, in the place where its old one was.
      await record(
        { kind: 'touch', touch: { ...touch.touch, place: touch.anchor } },
        decided('kept-over-export', { touch: message }),
      );
      if (!touch.staysElsewhere)
        await record({ kind: 'touch-removed', of: touch.seq }, decided('former-place', { touch: message }));
    }
  }
  await tx.run('update site set version = $2 where id = $1', [site, version]);
  return version;
}

/** What is removed can be put back although the newer export has it no more: its source and what was read in it stay. */
async function keepRemoved(
  tx: Queries,
  site: string,
  version: number,
  importId: string,
): Promise<{ kept?: AddedNode[]; again?: string[] }> {
  const draft = draftAt(await history(tx, site), version);
  const there = new Set(
    (
      await tx.many<{ id: string }>(
        'select page_id as id from source_file where import_id = $1 and page_id is not null',
        [importId],
      )
    ).map(({ id }) => id),
  );
  const again = [...draft.nodes.keys()].filter((id) => there.has(id));
  const away = [...draft.removals.values()]
    .flatMap(({ left }) => left)
    .filter((id) => !there.has(id) && !draft.nodes.has(id));
  if (away.length === 0) return again.length > 0 ? { again } : {};
  const rows = await tx.many<{ id: string; path: string; hash: string; sizeBytes: number; import: string }>(
    `select distinct on (f.page_id) f.page_id as id, f.path, f.hash, f.size_bytes as "sizeBytes", f.import_id as import
       from source_file f join import i on i.id = f.import_id where i.site_id = $1 and f.page_id = any($2) order by f.page_id, i.applied_at desc nulls last`,
    [site, away],
  );
  await tx.run(
    `insert into added_page (site_id, page_id, title, language, description, headings, dated, own_head, lead)
     select $1, k.id, r.title, r.language, r.description, r.headings, r.dated, coalesce(r.own_head, '[]'), coalesce(r.lead, '')
       from unnest($2::uuid[], $3::uuid[], $4::text[]) as k(id, import_id, path) join file_reading r using (import_id, path) on conflict (page_id) do nothing`,
    [site, rows.map(({ id }) => id), rows.map((row) => row.import), rows.map(({ path }) => path)],
  );
  const kept = rows.map(({ id, path, hash, sizeBytes }): AddedNode => ({
    kind: 'page',
    id,
    hash,
    sizeBytes,
    writtenAt: path,
    address: plainAddress(draft, { id, sourcePath: path }),
  }));
  return { kept, ...(again.length > 0 ? { again } : {}) };
}

/** Addresses a crawled site answered at lead on to its pages. */
async function recordCrawled(tx: Queries, site: string, importId: string, before: number, by: string): Promise<number> {
  const rows = await tx.many<{ page: string; addresses: string[]; host: string }>(
    `select f.page_id as page, array_agg(c.address order by c.address) as addresses, min(i.file_name) as host
       from crawled_address c join source_file f using (import_id, path) join import i on i.id = c.import_id
      where c.import_id = $1 and f.page_id is not null group by f.page_id`,
    [importId],
  );
  const others = await tx.many<{ address: string; path: string; host: string }>(
    `select c.address, c.path, i.file_name as host from crawled_address c join source_file f using (import_id, path) join import i on i.id = c.import_id
      where c.import_id = $1 and f.page_id is null order by c.address`,
    [importId],
  );
  const host = rows[0]?.host ?? others[0]?.host;
  if (host === undefined) return before;
  const decision: Decision = {
    kind: 'crawled',
    import: importId,
    from: Object.fromEntries(rows.map(({ page, addresses }) => [page, addresses])),
    files: Object.fromEntries(others.map(({ address, path }) => [address, path])),
  };
  const count = rows.reduce((sum, { addresses }) => sum + addresses.length, others.length);
  await tx.run('insert into decision (site_id, seq, body, message, by) values ($1, $2, $3, $4, $5)', [
    site,
    before + 1,
    JSON.stringify(decision),
    JSON.stringify(decided('redirects-crawled', { host, count })),
    by,
  ]);
  await tx.run('update site set version = $2 where id = $1', [site, before + 1]);
  return before + 1;
}

/** Where every touch stands in this import; what compiling asks instead of looking through all pages. */
async function placeTouches(deps: Deps, tx: Queries, site: string, importId: string): Promise<void> {
  const draft = foldDecisions(await history(tx, site));
  for (const [seq, touch] of draft.touches) {
    if (!Number.isInteger(seq)) continue;
    await keepTouchPlaces(
      tx,
      site,
      importId,
      seq,
      await findTouchPlaces(deps.threads, tx, importId, withRemoved(draft), touch),
    );
  }
}

export async function dropReview(deps: Deps, site: string): Promise<void> {
  const dropped = await deps.db.maybeOne<{ id: string }>(
    `update import set state = 'dropped' where site_id = $1 and state = 'reviewing' returning id`,
    [site],
  );
  if (!dropped) throw new DomainError('no-review');
  await clearImport(deps, dropped.id);
}

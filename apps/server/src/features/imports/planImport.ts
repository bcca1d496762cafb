/**
 * What putting a site on an import does: pages keep who they are, decisions stay, and touches find their places again.
 * All of it is read and reckoned before anything is held.
 */
import { randomUUID } from 'node:crypto';
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile, isPageFile } from '@fastigium/core/address';
import {
  foldDecisions,
  findPlainAddress,
  withRemoved,
  type AddedNode,
  type Addresses,
  type Draft,
  type RecordedDecision,
} from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import type { Deps } from '../../deps.ts';
import { foldDraftAt, readHistory, readSiteState } from '../draft/history.ts';
import { indexPages, type SourcePage } from '../draft/pageFiles.ts';
import type { Author, Step } from '../draft/record.ts';
import { findTouchPlaces, findPagesInScope, type FoundPlaces } from '../draft/touchPlaces.ts';
import { prepareTakenAlong } from './takenAlong.ts';
import { compareExports, type Compared } from './review.ts';

export interface Chosen {
  readonly by: { readonly id: string; readonly name: string };
  readonly import: string;
  readonly version: number;
  readonly choices: Readonly<Record<string, 'ours' | 'theirs'>>;
}

export interface ImportPlan {
  readonly importId: string;
  readonly by: Author;
  /** The site it was made on. */
  readonly version: number;
  readonly currentImport: string | null;
  readonly pages: PagesPlan;
  /** Pages that are removed and not in this import; they can be put back all the same. */
  readonly removed: readonly KeptPage[];
  readonly steps: readonly Step[];
  /** Where every touch stands, by the number of its decision; what compiling asks instead of looking through all pages. */
  readonly places: readonly { readonly seq: number; readonly found: readonly FoundPlaces[] }[];
}

/** Identities by path in the import: all of them, and of these the new ones and those that come back. */
export interface PagesPlan {
  readonly byPath: ReadonlyMap<string, string>;
  readonly fresh: ReadonlyMap<string, string>;
  readonly former: ReadonlyMap<string, string>;
}

export interface KeptPage {
  readonly id: string;
  readonly import: string;
  readonly path: string;
}

/** Throws where what was chosen is not about the export that waits, or somebody decided since. */
export async function planImport(
  deps: Deps,
  site: string,
  importId: string,
  chosen: Chosen | undefined,
): Promise<ImportPlan> {
  const { db } = deps;
  const { version, currentImport } = await readSiteState(db, site);
  if (chosen && chosen.version !== version) throw new DomainError('draft-stale');
  const compared = chosen ? await compareExports(deps.threads, db, site) : undefined;
  if (chosen && compared?.importId !== chosen.import) throw new DomainError('no-review');
  const files = await readImportedFiles(db, importId);
  const pages = await planPages(db, site, files, compared);
  const before = await readHistory(db, site);
  const draft = foldDraftAt(before, version);
  const removed = compared ? await readRemovedPages(db, site, draft, new Set(pages.byPath.values())) : [];
  const steps = [
    ...(chosen && compared ? listStepsTaken(draft, pages, removed, compared, chosen) : []),
    ...(await listStepsCrawled(db, importId, files, pages)),
    ...(chosen ? [] : await listStepsAlong(db, importId, files, pages)),
  ];
  const { by } = await db.one<{ by: string }>('select created_by as by from import where id = $1', [importId]);
  return {
    importId,
    by: chosen?.by ?? { id: by, name: '' },
    version,
    currentImport,
    pages,
    removed,
    steps,
    places: await placeTouches(deps, [...before, ...numberSteps(steps, version)], files, pages),
  };
}

const numberSteps = (steps: readonly Step[], version: number): RecordedDecision[] =>
  steps.map(({ decision }, index) => ({ seq: version + index + 1, decision }));

interface ImportedFile extends Record<string, unknown> {
  readonly path: string;
  readonly address: string;
  readonly hash: string;
  readonly sizeBytes: number;
  readonly isRead: boolean;
}

const readImportedFiles = (queries: Queries, importId: string): Promise<ImportedFile[]> =>
  queries.many<ImportedFile>(
    `select f.path, f.address, f.hash, f.size_bytes as "sizeBytes", r.path is not null as "isRead"
       from source_file f left join file_reading r using (import_id, path) where f.import_id = $1`,
    [importId],
  );

/** Pages known again keep their identity; one that was dropped and comes back has the one it had. */
async function planPages(
  queries: Queries,
  site: string,
  files: readonly ImportedFile[],
  compared: Compared | undefined,
): Promise<PagesPlan> {
  const paths = files.filter(({ path, isRead }) => isRead && isPageFile(path)).map(({ path }) => path);
  const byPath = new Map([...(compared?.matching.known ?? [])].map(([path, { id }]) => [path, id]));
  const used = new Set(byPath.values());
  const former = new Map(
    [...(await readFormerPages(queries, site, paths))].filter(([path, id]) => !byPath.has(path) && !used.has(id)),
  );
  for (const [path, id] of former) byPath.set(path, id);
  const fresh = new Map(paths.filter((path) => !byPath.has(path)).map((path) => [path, randomUUID()]));
  for (const [path, id] of fresh) byPath.set(path, id);
  return { byPath, fresh, former };
}

/** Pages the site has or had, by their paths. */
export async function readFormerPages(
  queries: Queries,
  site: string,
  paths: readonly string[],
): Promise<Map<string, string>> {
  const rows = await queries.many<{ id: string; path: string }>(
    'select id, source_path as path from page where site_id = $1 and source_path = any($2)',
    [site, paths],
  );
  return new Map(rows.map(({ id, path }) => [path, id]));
}

function listStepsTaken(
  draft: Draft,
  { byPath }: PagesPlan,
  removed: readonly RemovedPage[],
  { fileName, matching, meetings }: Compared,
  { import: importId, choices }: Chosen,
): Step[] {
  const former: Addresses = Object.fromEntries(
    matching.moved.map(({ before: page }) => [page.id, findAddressOfFile(page.path)]),
  );
  const there = new Set(byPath.values());
  const again = [...draft.nodes.keys()].filter((id) => there.has(id));
  const kept = removed.map(({ id, path, hash, sizeBytes }): AddedNode => ({
    kind: 'page',
    id,
    hash,
    sizeBytes,
    writtenAt: path,
    address: findPlainAddress(draft, { id, sourcePath: path }),
  }));
  const steps: Step[] = [
    {
      decision: {
        kind: 'export-taken',
        import: importId,
        former,
        ...(kept.length > 0 ? { kept } : {}),
        ...(again.length > 0 ? { again } : {}),
      },
      message: decided('export-taken', {
        file: fileName,
        added: matching.added.length,
        changed: matching.changed.length,
        moved: matching.moved.length,
        dropped: matching.dropped.length,
      }),
    },
  ];
  for (const { key, message, theirs, page, touch } of meetings) {
    const choice = choices[key];
    if (choice === undefined) continue;
    if (choice === 'theirs') {
      // Where the place is as it was the touch goes on.
      if (touch?.staysElsewhere) continue;
      steps.push(
        touch
          ? {
              decision: { kind: 'touch-removed', of: touch.seq },
              message: decided('as-export-has-it', { touch: message }),
            }
          : {
              decision: { kind: 'title', page: page.id, title: theirs },
              message: decided('title-of-export', { title: theirs }),
            },
      );
    } else if (touch?.anchor && 'place' in touch.touch) {
      // The same touch, in the place where its old one was.
      steps.push({
        decision: { kind: 'touch', touch: { ...touch.touch, place: touch.anchor } },
        message: decided('kept-over-export', { touch: message }),
      });
      if (!touch.staysElsewhere)
        steps.push({
          decision: { kind: 'touch-removed', of: touch.seq },
          message: decided('former-place', { touch: message }),
        });
    }
  }
  return steps;
}

interface RemovedPage extends KeptPage {
  readonly hash: string;
  readonly sizeBytes: number;
}

/** What is removed can be put back although the newer export has it no more: its source and what was read in it stay. */
async function readRemovedPages(
  queries: Queries,
  site: string,
  draft: Draft,
  there: ReadonlySet<string>,
): Promise<RemovedPage[]> {
  const away = [...draft.removals.values()]
    .flatMap(({ left }) => left)
    .filter((id) => !there.has(id) && !draft.nodes.has(id));
  if (away.length === 0) return [];
  return queries.many<RemovedPage & Record<string, unknown>>(
    `select distinct on (f.page_id) f.page_id as id, f.path, f.hash, f.size_bytes as "sizeBytes", f.import_id as import
       from source_file f join import i on i.id = f.import_id where i.site_id = $1 and f.page_id = any($2) order by f.page_id, i.applied_at desc nulls last`,
    [site, away],
  );
}

/** Addresses a crawled site answered at lead on to its pages. */
async function listStepsCrawled(
  queries: Queries,
  importId: string,
  imported: readonly ImportedFile[],
  { byPath }: PagesPlan,
): Promise<Step[]> {
  const rows = await queries.many<{ path: string; addresses: string[]; host: string }>(
    `select c.path, array_agg(c.address order by c.address) as addresses, min(i.file_name) as host
       from crawled_address c join import i on i.id = c.import_id where c.import_id = $1 group by c.path order by min(c.address)`,
    [importId],
  );
  const there = new Set(imported.map(({ path }) => path));
  const kept = rows.filter(({ path }) => there.has(path));
  const [first] = kept;
  if (!first) return [];
  const from: Record<string, readonly string[]> = {};
  const files: Record<string, string> = {};
  for (const { path, addresses } of kept) {
    const page = byPath.get(path);
    if (page !== undefined) from[page] = addresses;
    else for (const address of addresses) files[address] = path;
  }
  const count = Object.values(from).flat().length + Object.keys(files).length;
  return [
    {
      decision: { kind: 'crawled', import: importId, from, files },
      message: decided('redirects-crawled', { host: first.host, count }),
    },
  ];
}

async function listStepsAlong(
  queries: Queries,
  importId: string,
  files: readonly ImportedFile[],
  { byPath }: PagesPlan,
): Promise<Step[]> {
  const byAddress = new Map(
    files.flatMap(({ path, address }) => {
      const page = byPath.get(path);
      return page === undefined ? [] : [[address, page] as const];
    }),
  );
  const step = await prepareTakenAlong(queries, importId, byAddress);
  return step ? [step] : [];
}

async function placeTouches(
  deps: Deps,
  decisions: readonly RecordedDecision[],
  files: readonly ImportedFile[],
  { byPath }: PagesPlan,
): Promise<ImportPlan['places']> {
  const draft = withRemoved(foldDecisions(decisions));
  const pages = indexPages(
    draft,
    files.flatMap(({ path, hash, sizeBytes }): SourcePage[] => {
      const id = byPath.get(path);
      return id === undefined ? [] : [{ id, sourcePath: path, hash, sizeBytes }];
    }),
  );
  const places: { seq: number; found: FoundPlaces[] }[] = [];
  for (const [seq, touch] of draft.touches) {
    // Those of a copied page have no decision of their own; their scope says where they are.
    if (!Number.isInteger(seq)) continue;
    places.push({ seq, found: await findTouchPlaces(deps, findPagesInScope(pages, draft, touch), touch) });
  }
  return places;
}

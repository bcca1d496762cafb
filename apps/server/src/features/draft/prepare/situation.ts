/** What deciding starts from, and what the preparations of all kinds of decisions share. */
import { DomainError } from '@fastigium/contracts/errors';
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import {
  findCommonEnding,
  reckonDraftRows,
  isOut,
  labelTitle,
  findSiteAddress,
  withoutNodes,
  withRemoved,
  type Decision,
  type Draft,
  type RecordedDecision,
  type TreeNode,
  type TreeRow,
} from '@fastigium/core/site';
import type { Queries } from '../../../db/database.ts';
import type { Deps } from '../../../deps.ts';
import { foldDraftAt, readHistory, type SiteState } from '../history.ts';
import { readAllPages, readPagesById, type SourcePage } from '../pageFiles.ts';
import type { FoundPlaces } from '../touchPlaces.ts';

export interface Situation {
  readonly tx: Queries;
  readonly deps: Pick<Deps, 'world' | 'seal'>;
  readonly site: string;
  readonly importId: string;
  readonly decisions: readonly RecordedDecision[];
  readonly draft: Draft;
  /** The number the decision will have. */
  readonly seq: number;
  /** For a touch: where it stands, looked up before anything was held. */
  readonly places?: readonly FoundPlaces[] | undefined;
}

/** Throws where nothing was imported yet. */
export async function readSituation(
  tx: Queries,
  deps: Situation['deps'],
  site: string,
  { currentImport: importId, version }: Pick<SiteState, 'currentImport' | 'version'>,
  places?: readonly FoundPlaces[],
): Promise<Situation> {
  if (importId === null) throw new DomainError('nothing-imported');
  const decisions = await readHistory(tx, site);
  return { tx, deps, site, importId, decisions, draft: foldDraftAt(decisions, Infinity), seq: version + 1, places };
}

export interface Prepared {
  readonly decision: Decision;
  /** What it did, for the history. */
  readonly message: DecisionMessage;
  /** What it brings into being. */
  readonly made?: string;
}

export async function requirePage({ tx, importId, draft }: Situation, id: string): Promise<SourcePage> {
  const page = (await readPagesById(tx, importId, draft, [id])).get(id);
  if (!page) throw new DomainError('not-found', { what: 'page' });
  return page;
}

export async function readTitle({ tx, importId, draft }: Situation, page: SourcePage): Promise<string> {
  const set = draft.titles.get(page.id);
  if (set !== undefined) return set;
  const row = draft.nodes.has(page.id)
    ? await tx.maybeOne<{ title: string | null }>('select title from added_page where page_id = $1', [page.id])
    : await tx.maybeOne<{ title: string | null }>('select title from file_reading where import_id = $1 and path = $2', [
        importId,
        page.sourcePath,
      ]);
  return row?.title ?? '';
}

/** A page's title without what all titles end in, for words people read. */
export async function readName(situation: Situation, page: SourcePage): Promise<string> {
  const title = await readTitle(situation, page);
  return (
    labelTitle(title, await readTitleEndings(situation.tx, situation.importId)) ||
    findSiteAddress(situation.draft, page)
  );
}

/** What the titles of the import end in, language by language. */
export async function readTitleEndings(tx: Queries, importId: string): Promise<string[]> {
  const rows = await tx.many<{ titles: string[] }>(
    `select array_agg(r.title) as titles from file_reading r join source_file f using (import_id, path)
      where r.import_id = $1 and r.title is not null and f.page_id is not null group by r.language`,
    [importId],
  );
  return [...new Set(rows.flatMap(({ titles }) => findCommonEnding(titles) ?? []))];
}

export function readAddress(text: string): string {
  const parsed = parseAddress(text);
  if (!parsed.ok) throw new DomainError('address-unreadable', { address: text });
  return formatAddress(parsed.address);
}

export interface DraftTree {
  readonly rows: readonly TreeRow<TreeNode>[];
  /** The removed ones in their places. */
  readonly whole: readonly TreeRow<TreeNode>[];
  readonly every: ReadonlyMap<string, SourcePage>;
  readonly pages: ReadonlyMap<string, SourcePage>;
}

export async function readDraftTree({ tx, importId, draft }: Situation): Promise<DraftTree> {
  const every = await readAllPages(tx, importId, withRemoved(draft));
  const rows = reckonDraftRows(draft, every.values());
  const pages = new Map([...every].filter(([id]) => !isOut(draft, id)));
  return { whole: rows, rows: withoutNodes(rows, (id) => isOut(draft, id)), pages, every };
}

/** A node's name for words people read, also of a removed one. */
export async function readNodeName(situation: Situation, tree: DraftTree, id: string): Promise<string> {
  const page = tree.every.get(id);
  if (page) return readName(situation, page);
  const node = situation.draft.nodes.get(id);
  return node && node.kind !== 'page' ? (situation.draft.titles.get(id) ?? node.title) : '';
}

/** A page of the draft as it stands, with its source. */
import { DomainError } from '@fastigium/contracts/errors';
import { type Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readContent } from '../shared/contents.ts';
import { readLatestDraft, readSiteState } from './history.ts';
import { readPagesById, type SourcePage } from './pageFiles.ts';

export interface OpenPage {
  readonly page: SourcePage;
  readonly draft: Draft;
  readonly importId: string;
  readonly bytes: Uint8Array;
}

export async function openPage(queries: Queries, site: string, id: string): Promise<OpenPage> {
  const { currentImport: importId } = await readSiteState(queries, site);
  if (importId === null) throw new DomainError('nothing-imported');
  const draft = await readLatestDraft(queries, site);
  const page = (await readPagesById(queries, importId, draft, [id])).get(id);
  if (!page) throw new DomainError('not-found', { what: 'page' });
  return { page, draft, importId, bytes: await readContent(queries, page.hash) };
}

/** The effective head of one page as its source, live beside draft. */
import type { PageHead } from '@fastigium/contracts/api/metadata';
import { DomainError } from '@fastigium/contracts/errors';
import { readHeadSource, type EffectiveHead, type Origin, type SourceLine } from '@fastigium/core/head';
import { parsePage } from '@fastigium/core/html';
import { findPublishedPath } from '@fastigium/core/release';
import { checkData } from '@fastigium/core/structured';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { readEntries } from '../shared/manifests.ts';
import { readLiveRelease } from '../changes/changes.ts';
import { readDraftHeads, describeSetting } from './table.ts';

export async function readPageHead(deps: Deps, site: string, id: string): Promise<PageHead> {
  const { shards } = await compileDraft(deps, site);
  const { heads, draft, version, origin } = await readDraftHeads(deps.db, site);
  const page = heads.pages.get(id);
  if (!page) throw new DomainError('not-found', { what: 'page' });
  const head = heads.of(id);
  const path = findPublishedPath(draft, page);
  const live = await readLiveRelease(deps.db, site);
  const sourceAt = async (lines: readonly string[] | undefined) => {
    const entry = lines && (await readEntries(deps.db, lines, [path])).get(path);
    return entry && readHeadSource(parsePage(await readContent(deps.db, entry.hash)));
  };
  // A page that is held back is in no manifest; its head is shown as it came.
  const draftLines = (await sourceAt(shards)) ?? readHeadSource(parsePage(await readContent(deps.db, page.hash)));
  const liveLines = await sourceAt(live?.shards);
  const fromOf = createOriginOfLines(head);
  const branches = new Set(
    head.lines.length > 0
      ? [...draft.head.values()].flatMap(({ scope }) =>
          scope.kind === 'branch' && heads.branchesOf(id).includes(scope.page) ? [scope.page] : [],
        )
      : [],
  );
  const text = (name: string) => head.lines.find((line) => line.name === name)?.text;
  const image = text('meta:og:image') ?? null;
  const inside =
    image === null
      ? undefined
      : origin !== undefined && image.startsWith(`${origin}/`)
        ? image.slice(origin.length)
        : image;
  const size = inside?.startsWith('/') ? heads.pictureSize(inside) : undefined;
  const translations = heads.groups.find((group) => group.some((each) => each.id === id)) ?? [];
  return {
    version,
    address: heads.addressOf(id) ?? '',
    lines: head.lines.map(({ name, text: each, from, own: ownText, conflict }) => ({
      name,
      text: each ?? null,
      from,
      own: [...ownText],
      conflict: conflict ?? null,
    })),
    draft: draftLines.map((line) => writeSourceRow(line, fromOf(line))),
    live: liveLines?.map((line) => writeSourceRow(line, 'imported')) ?? null,
    settings: [...draft.head.values()]
      .filter(
        ({ scope }) =>
          (scope.kind === 'page' && scope.page === id) || (scope.kind === 'branch' && branches.has(scope.page)),
      )
      .map(describeSetting),
    share: {
      title: text('meta:og:title') ?? text('title') ?? '',
      description: text('meta:og:description') ?? text('meta:description') ?? '',
      image: inside ?? image,
      widthPx: size?.widthPx ?? null,
      heightPx: size?.heightPx ?? null,
    },
    translations: translations.map(({ id: each, language, address }) => ({
      id: each,
      language,
      address: draft.basePath + address,
    })),
    dataProblems: draftLines.filter(({ name }) => name === 'json').flatMap(({ text: data }) => checkData(data)),
  };
}

function writeSourceRow({ source, name }: SourceLine, from: Origin) {
  return { source, name: name ?? null, from };
}

/** Where a line of the source comes from; lines that were not written here are the page's own. */
function createOriginOfLines({ lines, plan }: EffectiveHead): (line: SourceLine) => Origin {
  const byName = new Map<string, Origin>();
  for (const { name, from } of lines) if (!byName.has(name)) byName.set(name, from);
  const written = plan.filter(({ name }) => name.startsWith('json:') || name === 'code:head');
  return ({ name, text, source }) => {
    if (name === 'json')
      return (
        written.find(
          (each) => each.name.startsWith('json:') && typeof each.text === 'string' && isSameData(each.text, text),
        )?.from ?? 'imported'
      );
    if (name === undefined)
      return (
        written.find((each) => each.name === 'code:head' && typeof each.text === 'string' && each.text.includes(source))
          ?.from ?? 'imported'
      );
    return byName.get(name) ?? 'imported';
  };
}

function isSameData(a: string, b: string): boolean {
  const flat = (text: string) => {
    try {
      return JSON.stringify(JSON.parse(text));
    } catch {
      return text.replace(/\s+/g, ' ').trim();
    }
  };
  return flat(a) === flat(b);
}

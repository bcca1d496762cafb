/** What goes with a section: the links and pictures in it, and pages nothing else leads to. */
import type { RemovePreview } from '@fastigium/contracts/api/removals';
import { resolveHref } from '@fastigium/core/address';
import {
  readAttribute,
  readBaseHref,
  walkElements,
  parsePage,
  findSectionNamed,
  collectText,
  type PageDocument,
} from '@fastigium/core/html';
import { compilePage, type PagePlan } from '@fastigium/core/release';
import { findDraftAddress, type RemovedThing } from '@fastigium/core/site';
import { resolveLed } from '@fastigium/core/touches';
import { readContent } from '../shared/contents.ts';
import { planOne } from '../draft/compileOne.ts';
import { readAllPages, readPagesLinkingTo, type SourcePage } from '../draft/pageFiles.ts';
import { readName, requirePage, type Situation } from '../draft/prepare/situation.ts';
import { readText, readSectionSource } from '../draft/sectionsNow.ts';

const MOST_SHOWN = 50;

type Inside = NonNullable<RemovePreview['inside']>;

export async function goesWithSection(
  situation: Situation,
  { page: id, section }: Extract<RemovedThing, { kind: 'section' }>,
): Promise<Inside> {
  const { tx, site } = situation;
  const page = await requirePage(situation, id);
  const bytes = await readContent(tx, page.hash);
  const document = parsePage(bytes);
  const { plan, shared } = await planOne(tx, site, situation, page);
  const found = findSectionNamed(document, section);
  const source = found && readSectionSource(plan, shared, document, found);
  if (source === undefined) return { words: '', links: [], linksInAll: 0, pictures: [], picturesInAll: 0, lost: [] };
  const part = parsePage(Buffer.from(source));
  const whole = parsePage(compilePage(plan, shared, bytes).bytes);
  const base = readBaseHref(whole);
  const links = listLinks(part, plan, base);
  const pictures = listPictures(part, plan, base);
  return {
    words: readText(source),
    links: links.slice(0, MOST_SHOWN),
    linksInAll: links.length,
    pictures: pictures.slice(0, MOST_SHOWN),
    picturesInAll: pictures.length,
    lost: await findLostPages(situation, page, links, listLinks(whole, plan, base)),
  };
}

function listLinks(document: PageDocument, { after }: PagePlan, base: string | undefined): Inside['links'] {
  return [...walkElements(document.root)].flatMap((element) => {
    const href = element.tagName === 'a' || element.tagName === 'area' ? readAttribute(element, 'href') : undefined;
    const to = href === undefined || href === '' || href.startsWith('#') ? undefined : resolveLed(href, after, base);
    if (to === undefined) return [];
    const picture = [...walkElements(element)].find(({ tagName }) => tagName === 'img');
    const label =
      collectText(element) || (picture && readAttribute(picture, 'alt')) || (readAttribute(element, 'title') ?? '');
    return [{ label, to }];
  });
}

/** Each once, by where its file is; undefined addresses are of pictures that are elsewhere. */
function listPictures(document: PageDocument, { after }: PagePlan, base: string | undefined): Inside['pictures'] {
  const out = new Map<string, Inside['pictures'][number]>();
  for (const element of walkElements(document.root)) {
    const src = element.tagName === 'img' ? readAttribute(element, 'src') : undefined;
    if (src === undefined || src.startsWith('data:')) continue;
    const to = resolveHref(src, after, base);
    out.set(src, {
      words: readAttribute(element, 'alt') ?? '',
      address: to.kind === 'inside' ? to.address.path : null,
    });
  }
  return [...out.values()];
}

/** Pages of the site that would be linked from nowhere any more. */
async function findLostPages(
  situation: Situation,
  from: SourcePage,
  inside: Inside['links'],
  inPage: Inside['links'],
): Promise<Inside['lost']> {
  const { tx, importId, draft } = situation;
  const count = (links: Inside['links'], to: string) => links.filter((each) => bare(each.to) === to).length;
  const onlyThere = [...new Set(inside.map(({ to }) => bare(to)))].filter(
    (to) => count(inside, to) === count(inPage, to),
  );
  const out: Inside['lost'] = [];
  for (const page of (await readAllPages(tx, importId, draft)).values()) {
    const address = findDraftAddress(draft, page);
    if (page.id === from.id || !onlyThere.includes(bare(address))) continue;
    const others = (await readPagesLinkingTo(tx, importId, draft, [page.sourcePath])).filter(
      ({ id }) => id !== from.id && id !== page.id,
    );
    if (others.length === 0) out.push({ id: page.id, label: await readName(situation, page), address });
  }
  return out;
}

const bare = (to: string): string => to.replace(/#.*$/s, '').replace(/(?<=.)\/$/, '');

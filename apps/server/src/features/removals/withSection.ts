/** What goes with a section: the links and pictures in it, and pages nothing else leads to. */
import type { RemovePreview } from '@fastigium/contracts/api/removals';
import { resolveHref } from '@fastigium/core/address';
import {
  attribute,
  baseHref,
  elements,
  parsePage,
  sectionNamed,
  textOf,
  type PageDocument,
} from '@fastigium/core/html';
import { compilePage, type PagePlan } from '@fastigium/core/release';
import { draftAddress, type RemovedThing } from '@fastigium/core/site';
import { addressLed } from '@fastigium/core/touches';
import { contentBytes } from '../shared/contents.ts';
import { planOne } from '../draft/compileOne.ts';
import { allPages, pagesLinkingTo, type SourcePage } from '../draft/pageFiles.ts';
import { nameOf, pageOf, type Situation } from '../draft/prepare/situation.ts';
import { readText, sectionSource } from '../draft/sectionsNow.ts';

const MOST_SHOWN = 50;

type Inside = NonNullable<RemovePreview['inside']>;

export async function goesWithSection(
  situation: Situation,
  { page: id, section }: Extract<RemovedThing, { kind: 'section' }>,
): Promise<Inside> {
  const { tx, site } = situation;
  const page = await pageOf(situation, id);
  const bytes = await contentBytes(tx, page.hash);
  const document = parsePage(bytes);
  const { plan, shared } = await planOne(tx, site, situation, page);
  const found = sectionNamed(document, section);
  const source = found && sectionSource(plan, shared, document, found);
  if (source === undefined) return { words: '', links: [], linksInAll: 0, pictures: [], picturesInAll: 0, lost: [] };
  const part = parsePage(Buffer.from(source));
  const whole = parsePage(compilePage(plan, shared, bytes).bytes);
  const base = baseHref(whole);
  const links = linksIn(part, plan, base);
  const pictures = picturesIn(part, plan, base);
  return {
    words: readText(source),
    links: links.slice(0, MOST_SHOWN),
    linksInAll: links.length,
    pictures: pictures.slice(0, MOST_SHOWN),
    picturesInAll: pictures.length,
    lost: await lostPages(situation, page, links, linksIn(whole, plan, base)),
  };
}

function linksIn(document: PageDocument, { after }: PagePlan, base: string | undefined): Inside['links'] {
  return [...elements(document.root)].flatMap((element) => {
    const href = element.tagName === 'a' || element.tagName === 'area' ? attribute(element, 'href') : undefined;
    const to = href === undefined || href === '' || href.startsWith('#') ? undefined : addressLed(href, after, base);
    if (to === undefined) return [];
    const picture = [...elements(element)].find(({ tagName }) => tagName === 'img');
    const label = textOf(element) || (picture && attribute(picture, 'alt')) || (attribute(element, 'title') ?? '');
    return [{ label, to }];
  });
}

/** Each once, by where its file is; undefined addresses are of pictures that are elsewhere. */
function picturesIn(document: PageDocument, { after }: PagePlan, base: string | undefined): Inside['pictures'] {
  const out = new Map<string, Inside['pictures'][number]>();
  for (const element of elements(document.root)) {
    const src = element.tagName === 'img' ? attribute(element, 'src') : undefined;
    if (src === undefined || src.startsWith('data:')) continue;
    const to = resolveHref(src, after, base);
    out.set(src, {
      words: attribute(element, 'alt') ?? '',
      address: to.kind === 'inside' ? to.address.path : null,
    });
  }
  return [...out.values()];
}

/** Pages of the site that would be linked from nowhere any more. */
async function lostPages(
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
  for (const page of (await allPages(tx, importId, draft)).values()) {
    const address = draftAddress(draft, page);
    if (page.id === from.id || !onlyThere.includes(bare(address))) continue;
    const others = (await pagesLinkingTo(tx, importId, draft, [page.sourcePath])).filter(
      ({ id }) => id !== from.id && id !== page.id,
    );
    if (others.length === 0) out.push({ id: page.id, label: await nameOf(situation, page), address });
  }
  return out;
}

const bare = (to: string): string => to.replace(/#.*$/s, '').replace(/(?<=.)\/$/, '');

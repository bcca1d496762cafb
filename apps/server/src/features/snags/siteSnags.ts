/** Snags that only the whole site shows: links, doubles, files, menus and listings. */
import { findAddressOfFile, isPageFile, splitAddress } from '@fastigium/core/address';
import {
  findCaseTwins,
  describeConflict,
  findDeadAnchors,
  findDeadLinks,
  findDoubled,
  judgeHeaviness,
  isSamplePicture,
  judgeSecret,
  shareSmallness,
  isShuttingAll,
  type Finding,
  type Landing,
  type PageFacts,
  mend,
  snag,
  type SnagDetail,
} from '@fastigium/core/checks';
import { decodeSource, parsePage } from '@fastigium/core/html';
import type { EffectiveLine } from '@fastigium/core/head';
import { isAllowed, parseRobots } from '@fastigium/core/robots';
import { findOtherContent } from '@fastigium/core/listing';
import { findMediaType, findPublishedPath, placeUnderBase, type ManifestEntry } from '@fastigium/core/release';
import type { Draft } from '@fastigium/core/site';
import type { Queries } from '../../db/database.ts';
import { readContent } from '../shared/contents.ts';
import { readHeads, readHeadSources, readOrigin, setsHeads } from '../draft/heads/heads.ts';
import { hasSitemap, ROBOTS } from '../draft/heads/siteFiles.ts';
import { readListings } from '../draft/listings.ts';
import { readSiteMenus } from '../draft/menus.ts';
import { readAllPages } from '../draft/pageFiles.ts';
import type { Anew } from './anew.ts';
import { keepLinkSnags, keepSiteFamily, type NewSnag, type Subjects } from './snagRows.ts';

export interface SiteToCheck {
  readonly site: string;
  readonly draft: Draft;
  readonly importId: string;
  readonly all: ReadonlyMap<string, ManifestEntry>;
  readonly landing: Landing;
  readonly subjects: Subjects;
  /** Addresses that answer differently, or inside which something differs. */
  readonly changed: readonly string[];
  readonly changedRules: readonly string[] | undefined;
  /** Pages that were read just now. */
  readonly read: ReadonlySet<string>;
  /** One of those has a share picture; asking all pages for theirs is not for every edit. */
  readonly sharesPictures: boolean;
  readonly anew: Anew;
}

/** @returns how many pages' links were asked about again */
export async function keepSiteSnags(tx: Queries, toCheck: SiteToCheck): Promise<number> {
  const { asked, leadElsewhere } = await checkLinks(tx, toCheck);
  const { site, all, subjects, anew } = toCheck;
  const about = async (found: readonly Plain[]): Promise<NewSnag[]> => {
    const ids = await subjects([...new Set(found.map(({ path }) => path))]);
    return found.map(({ code, path, detail }) => ({
      code,
      path,
      page: ids.get(path),
      detail,
      start: undefined,
      end: undefined,
      mend: code === 'head-conflict' ? { label: mend('use-what-is-set'), asks: undefined } : undefined,
    }));
  };
  for (const column of ['title', 'description'] as const) {
    const values = anew.values?.[column];
    if (values?.length !== 0) await keepDoubles(tx, site, column, values, about);
  }
  if (anew.reach || leadElsewhere)
    await keepSiteFamily(tx, site, 'reach', await about(await findReachSnags(tx, toCheck)));
  if (anew.files) await keepSiteFamily(tx, site, 'files', await about(await findFileSnags(tx, site, all)));
  if (setsHeads(toCheck.draft) || anew.heads)
    await keepSiteFamily(tx, site, 'heads', await about(await findHeadSnags(tx, toCheck)));
  if (
    anew.files ||
    toCheck.sharesPictures ||
    (await tx.maybeOne(`select 1 from snag where site_id = $1 and code = 'share-picture-small' limit 1`, [site]))
  )
    await keepSiteFamily(tx, site, 'shared', await about(await shareSnags(tx, toCheck)));
  if (anew.structure || (leadElsewhere && toCheck.draft.listings.size > 0))
    await keepSiteFamily(tx, site, 'structure', await about(await findStructureSnags(tx, toCheck)));
  return asked;
}

/** Whether what was set for heads holds together with what the pages say and with each other. */
async function findHeadSnags(tx: Queries, { site, draft, importId, landing, all }: SiteToCheck): Promise<Plain[]> {
  if (!setsHeads(draft)) return [];
  const robotsFile = hasSitemap(draft) ? all.get(ROBOTS) : undefined;
  const robots = robotsFile && parseRobots(decodeSource(await readContent(tx, robotsFile.hash)).text);
  const origin = await readOrigin(tx, site);
  const heads = await readHeads(tx, importId, draft, await readHeadSources(tx, site, importId), origin);
  return [...heads.pages.values()]
    .filter(({ id }) => !draft.notReady.has(id))
    .flatMap((page) => {
      const path = findPublishedPath(draft, page);
      const { lines } = heads.of(page.id);
      const canonical = lines.find(({ name }) => name === 'link:canonical')?.text;
      const inside =
        canonical !== undefined && origin !== undefined && canonical.startsWith(`${origin}/`)
          ? canonical.slice(origin.length)
          : undefined;
      return [
        ...lines.flatMap((line) => {
          const conflict = describeConflict(line);
          return conflict ? [createPlain('head-conflict', path, conflict)] : [];
        }),
        ...(robots && !isNotFoundPage(path) && !isShutLine(lines) && !isAllowed(robots, '*', findAddressOfFile(path))
          ? [createPlain('sitemap-shut', path, findAddressOfFile(path))]
          : []),
        ...(inside !== undefined && landing(inside) === undefined ? [createPlain('canonical-gone', path, inside)] : []),
      ];
    });
}

const isShutLine = (lines: readonly EffectiveLine[]) =>
  /\b(noindex|none)\b/i.test(lines.find(({ name }) => name === 'meta:robots')?.text ?? '');

/** Once for each picture, at the first of the pages that have it. */
async function shareSnags(tx: Queries, { site, all }: SiteToCheck): Promise<Plain[]> {
  const rows = await tx.many<{ image: string; path: string }>(
    `select facts->>'shareImage' as image, min(path) as path from page_fact where site_id = $1 and coalesce(facts->>'shareImage', '') <> '' group by 1`,
    [site],
  );
  if (rows.length === 0) return [];
  const byAddress = new Map([...all.values()].map(({ path, hash }) => [findAddressOfFile(path), hash]));
  const sizes = new Map(
    (
      await tx.many<{ hash: string; widthPx: number; heightPx: number }>(
        'select hash, width_px as "widthPx", height_px as "heightPx" from picture_size where hash = any($1) and width_px is not null',
        [rows.flatMap(({ image }) => byAddress.get(image) ?? [])],
      )
    ).map((row) => [row.hash, row]),
  );
  return rows.flatMap(({ image, path }) => {
    const small = shareSmallness(sizes.get(byAddress.get(image) ?? ''));
    return small === undefined
      ? []
      : [createPlain('share-picture-small', path, snag('share-small', { picture: image, ...small }))];
  });
}

interface Plain {
  readonly code: string;
  readonly path: string;
  readonly detail: SnagDetail;
}
const createPlain = (code: string, path: string, detail: SnagDetail): Plain => ({ code, path, detail });
const PAGES_AT_ONCE = 500;

/** Of pages read just now, and of those that lead to what changed. `leadElsewhere`: some lead to other files than before. */
async function checkLinks(
  tx: Queries,
  { site, landing, subjects, changed, changedRules, read }: SiteToCheck,
): Promise<{ asked: number; leadElsewhere: boolean }> {
  let leadElsewhere = false;
  const addresses = [...new Set([...changed, ...(changedRules ?? [])].map((address) => splitAddress(address).path))];
  // A folder may be asked for without its slash, and by the name of its file.
  const spelled = addresses.flatMap((address) => [address, address.replace(/\/$/, ''), `${address}index.html`]);
  const rows = await tx.many<{ path: string }>(
    'select path from page_fact where site_id = $1 and path = any($2) union select path from page_fact where site_id = $1 and links_to && $3::text[]',
    [site, [...read], spelled],
  );
  for (let from = 0; from < rows.length; from += PAGES_AT_ONCE) {
    const paths = rows.slice(from, from + PAGES_AT_ONCE).map(({ path }) => path);
    const pages = (
      await tx.many<{ facts: PageFacts }>('select facts from page_fact where site_id = $1 and path = any($2)', [
        site,
        paths,
      ])
    ).map(({ facts }) => facts);
    const fragments = pages.flatMap(({ links }) =>
      links.flatMap(({ to, fragment }) => {
        const there = fragment === undefined ? undefined : landing(to);
        return there && there !== 'elsewhere' ? [there.file] : [];
      }),
    );
    const ids = new Map(
      (
        await tx.many<{ path: string; ids: string[] }>(
          `select path, facts->'ids' as ids from page_fact where site_id = $1 and path = any($2)`,
          [site, [...new Set(fragments)]],
        )
      ).map(({ path, ids: each }) => [path, new Set(each)]),
    );
    const ofPage = await subjects(paths);
    const snags = pages.flatMap((page): NewSnag[] => {
      const found = (code: string, findings: Iterable<Finding>) =>
        [...findings].map(({ detail, start, end }): NewSnag => ({
          code,
          path: page.path,
          page: ofPage.get(page.path),
          detail,
          start,
          end,
          mend: undefined,
        }));
      return [
        ...found('link-dead', findDeadLinks(page, landing)),
        ...found(
          'anchor-dead',
          findDeadAnchors(page, landing, (file) => ids.get(file)),
        ),
      ];
    });
    await keepLinkSnags(tx, site, paths, snags);
    const targets = pages.map((page) => [
      ...new Set(
        page.links.flatMap(({ to }) => {
          const there = landing(to);
          return there && there !== 'elsewhere' && there.file !== page.path ? [there.file] : [];
        }),
      ),
    ]);
    const other = await tx.run(
      `update page_fact p set targets = r.targets from (select path, array(select jsonb_array_elements_text(each)) as targets from unnest($2::text[], $3::jsonb[]) as u(path, each)) r
        where p.site_id = $1 and p.path = r.path and p.targets is distinct from r.targets`,
      [site, pages.map(({ path }) => path), targets.map((each) => JSON.stringify(each))],
    );
    leadElsewhere ||= other > 0;
  }
  return { asked: rows.length, leadElsewhere };
}

/** Pages that share a title, or a description; of some values, or of all. */
async function keepDoubles(
  tx: Queries,
  site: string,
  column: 'title' | 'description',
  values: readonly string[] | undefined,
  about: (found: readonly Plain[]) => Promise<NewSnag[]>,
): Promise<void> {
  const code = `${column}-doubled`;
  const rows = await tx.many<{ value: string; paths: string[] }>(
    `select ${column} as value, array_agg(path order by path) as paths from page_fact
      where site_id = $1 and ${column} <> '' ${values === undefined ? '' : `and ${column} = any($2)`} group by ${column} having count(*) > 1`,
    values === undefined ? [site] : [site, values],
  );
  const found = rows.flatMap(({ value, paths }) => paths.map((path) => createPlain(code, path, value)));
  await keepSiteFamily(tx, site, `${column}s`, await about(found), values);
}

const isNotFoundPage = (path: string) => path === '404.html' || path.endsWith('/404.html');

async function findReachSnags(tx: Queries, { site, draft, all }: SiteToCheck): Promise<Plain[]> {
  const front = placeUnderBase(draft.basePath, 'index.html');
  const home = all.has(front) ? front : undefined;
  const unreached = await tx.many<{ path: string; title: string }>(
    // Joined, not "not in": that looks through all targets for each page once they are more than fit into the memory of a hash.
    `select f.path, f.title from page_fact f left join (select distinct unnest(targets) as path from page_fact where site_id = $1) led on led.path = f.path
      where f.site_id = $1 and led.path is null`,
    [site],
  );
  const out = unreached
    .filter(({ path }) => path !== home && !isNotFoundPage(path) && isPageFile(path) && all.has(path))
    .map(({ path, title }) => createPlain('page-orphan', path, title || findAddressOfFile(path)));
  const robots = all.get('robots.txt');
  if (robots && isShuttingAll(decodeSource(await readContent(tx, robots.hash)).text))
    out.push(createPlain('site-shut', 'robots.txt', snag('everyone-out')));
  const { pages, shut } = await tx.one<{ pages: number; shut: number }>(
    `select count(*)::int as pages, count(*) filter (where (facts->>'isShut')::boolean)::int as shut from page_fact where site_id = $1 and path ~* '\\.(html?|xhtml)$' and path not like '%404.html'`,
    [site],
  );
  if (pages > 1 && shut === pages)
    out.push(createPlain('site-shut', home ?? [...all.keys()].find(isPageFile) ?? '', snag('noindex-everywhere')));
  return out;
}

async function findFileSnags(tx: Queries, site: string, all: ReadonlyMap<string, ManifestEntry>): Promise<Plain[]> {
  const out: Plain[] = [];
  const twins = findCaseTwins(all.keys());
  const pictures = [...all.values()].filter(({ path }) => findMediaType(path).startsWith('image/'));
  for (const { path } of all.values()) {
    const kind = judgeSecret(path);
    if (kind !== undefined) out.push(createPlain('file-secret', path, kind));
    const others = twins.get(path);
    if (others) out.push(createPlain('name-case', path, others.join(', ')));
  }
  if (pictures.length === 0) return out;
  const sizes = new Map(
    (
      await tx.many<{ hash: string; widthPx: number; heightPx: number }>(
        'select hash, width_px as "widthPx", height_px as "heightPx" from picture_size where hash = any($1) and width_px is not null',
        [pictures.map(({ hash }) => hash)],
      )
    ).map((row) => [row.hash, row]),
  );
  const widths = new Map(
    (
      await tx.many<{ to: string; widths: number[] }>(
        `select p->>'to' as to, array_agg((p->>'widthPx')::float8::int) as widths from page_fact, jsonb_array_elements(facts->'pictures') p where site_id = $1 and p ? 'widthPx' group by 1`,
        [site],
      )
    ).map(({ to, widths: each }) => [to, each]),
  );
  const same = findDoubled(
    pictures.filter(({ sizeBytes }) => sizeBytes > 0).map(({ path, hash }) => [path, hash] as const),
  );
  for (const { path, hash, sizeBytes } of pictures) {
    if (isSamplePicture(path)) out.push(createPlain('sample-picture', path, path.split('/').at(-1) ?? ''));
    const heavy = judgeHeaviness(sizeBytes, sizes.get(hash), widths.get(findAddressOfFile(path)) ?? []);
    if (heavy !== undefined) out.push(createPlain('picture-heavy', path, heavy));
    const others = same.get(hash);
    if (others?.[0] === path) out.push(createPlain('picture-doubled', path, others.slice(1).join(', ')));
  }
  return out;
}

/** Menus that differ from page to page, and listings that hold more, or that nothing leads to. */
async function findStructureSnags(tx: Queries, { site, draft, importId }: SiteToCheck): Promise<Plain[]> {
  const out: Plain[] = [];
  const pages = await readAllPages(tx, importId, draft);
  const bySource = new Map([...pages.values()].map((page) => [page.sourcePath, page]));
  for (const menu of await readSiteMenus(tx, importId)) {
    if (draft.menus.get(menu.id)?.whereItDiffers) continue;
    for (const { page: source, missing, extra } of menu.differing) {
      const page = bySource.get(source);
      const how = [
        ...missing.map((label) => snag('menu-lacks', { label })),
        ...extra.map((label) => snag('menu-has-more', { label })),
      ];
      if (page)
        out.push(
          createPlain(
            'menu-differs',
            findPublishedPath(draft, page),
            how.length === 0 ? snag('menu-order') : snag('menu-differs', { how }),
          ),
        );
    }
  }
  for (const [id, { page, importedAddresses }] of await readListings(tx, site, importId, draft)) {
    const path = findPublishedPath(draft, page);
    const removed = [...(draft.removedSections.get(id)?.values() ?? [])].map(({ section }) => section.name);
    const leftOut = [
      ...removed,
      ...[...draft.touches.values()].flatMap((touch) =>
        touch.kind === 'sections' && touch.scope.kind === 'page' && touch.scope.page === id
          ? touch.order.filter((section) => section.out).map(({ name }) => name)
          : [],
      ),
    ];
    const other = findOtherContent(parsePage(await readContent(tx, page.hash)), {
      importedAddresses: new Set(importedAddresses),
      before: findAddressOfFile(page.sourcePath),
    }).filter((name) => !leftOut.includes(name));
    if (other.length > 0) out.push(createPlain('listing-content', path, other.join(', ')));
    const led = await tx.maybeOne(
      'select 1 from page_fact where site_id = $1 and path <> $2 and targets @> array[$2] and path not like $3 limit 1',
      [site, path, `${path.replace(/index\.html$/, '')}%`],
    );
    if (!led) out.push(createPlain('listing-unreached', path, findAddressOfFile(path)));
  }
  return out;
}

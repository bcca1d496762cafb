/** What visitors notice between two versions of pages: kept, since it never changes. */
import type { PageChange } from '@fastigium/core/report';
import type { Deps } from '../../deps.ts';
import { readContentsByHash } from '../shared/contents.ts';

export interface Versions {
  readonly before: string;
  readonly after: string;
}

/** Pages that worker threads compare in one go. */
const AT_ONCE = 40;

export const deriveKey = ({ before, after }: Versions): string => `${before} ${after}`;

/** @returns by `deriveKey`; without those of which a content is not kept any more */
export async function comparePages(deps: Deps, all: readonly Versions[]): Promise<ReadonlyMap<string, PageChange>> {
  if (all.length === 0) return new Map();
  const rows = await deps.db.many<Versions & { change: PageChange } & Record<string, unknown>>(
    `select before_hash as before, after_hash as after, change from page_difference d join unnest($1::text[], $2::text[]) as w(b, a) on d.before_hash = w.b and d.after_hash = w.a`,
    [all.map(({ before }) => before), all.map(({ after }) => after)],
  );
  const known = new Map(rows.map((row) => [deriveKey(row), row.change]));
  const fresh = [
    ...new Map(all.filter((each) => !known.has(deriveKey(each))).map((each) => [deriveKey(each), each])).values(),
  ];
  const batches = Array.from({ length: Math.ceil(fresh.length / AT_ONCE) }, (_, n) =>
    fresh.slice(n * AT_ONCE, (n + 1) * AT_ONCE),
  );
  const waiting = batches.values();
  const work = async () => {
    for (const batch of waiting) for (const [key, change] of await compare(deps, batch)) known.set(key, change);
  };
  await Promise.all(Array.from({ length: deps.threads.size }, work));
  return known;
}

async function compare(deps: Deps, batch: readonly Versions[]): Promise<[string, PageChange][]> {
  const bytes = await readContentsByHash(
    deps.db,
    batch.flatMap(({ before, after }) => [before, after]),
  );
  const there = batch.flatMap((each) => {
    const [before, after] = [bytes.get(each.before), bytes.get(each.after)];
    return before && after ? [{ each, before, after }] : [];
  });
  const found = await deps.threads.compare(there.map(({ before, after }) => ({ before, after })));
  await deps.db.run(
    'insert into page_difference (before_hash, after_hash, change) select * from unnest($1::text[], $2::text[], $3::jsonb[]) on conflict do nothing',
    [
      there.map(({ each }) => each.before),
      there.map(({ each }) => each.after),
      found.map((each) => JSON.stringify(each)),
    ],
  );
  return there.flatMap(({ each }, at): [string, PageChange][] => {
    const change = found[at];
    return change ? [[deriveKey(each), change]] : [];
  });
}

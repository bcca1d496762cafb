/** Removing and putting back in any mixture with everything else, and by several people at the same moment. */
import type { PageRow, RemovedRow } from '@fastigium/contracts/api/draft';
import type { RemovalList } from '@fastigium/contracts/api/removals';
import { describe, expect, it } from 'vitest';
import { compileDraft } from '../src/features/draft/compileDraft.ts';
import { zip } from './harness.ts';
import { house, site, tree, at, last, remove, putBack, sites, useRemovals } from './removals.house.ts';

useRemovals();

describe('any mixture of moves, renames, removals and put-backs', () => {
  it('leaves addresses of their own, a whole tree, and the same release step by step as from nothing', async () => {
    const { deps } = house.server;
    const small = await house.owner.newSite(`Mixture ${sites}`);
    const names = ['a', 'a/b', 'a/c', 'a/c/d', 'e', 'e/f', 'g', 'g/h', 'i'];
    await house.owner.bringIn(
      small,
      await zip({
        'index.html': '<title>Home</title><a href="/a/">A</a><a href="/e/f/">F</a>',
        ...Object.fromEntries(
          names.map((name, n) => [
            `${name}/index.html`,
            `<title>P${n}</title><a href="/${names[(n + 2) % names.length]}/">next</a>`,
          ]),
        ),
      }),
    );
    // The same walk every time (a linear congruential generator; constants of Numerical Recipes).
    let state = 7;
    const pick = <T>(list: readonly T[]): T | undefined => {
      state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
      return list[state % (list.length || 1)];
    };
    let [done, refused] = [0, 0];
    for (let turn = 0; turn < 50; turn += 1) {
      const { pages } = (await house.owner.get<{ pages: PageRow[] }>(`/api/sites/${small}/pages`)).body;
      const { rows } = (await house.owner.get<RemovalList>(`/api/sites/${small}/removals`)).body;
      const page = pick(pages.filter(({ isHome }) => !isHome))?.id ?? '';
      const other = pick(pages)?.id ?? null;
      const acts = [
        'place',
        'rename',
        'remove',
        'alone',
        ...(rows.length > 0 ? (['back', 'back', 'part'] as const) : []),
        'step',
      ] as const;
      const act = pick(acts);
      const of = pick(rows)?.of ?? 1;
      const decision =
        act === 'place'
          ? { kind: 'place', node: page, parent: pick([other, null]) ?? null, after: null }
          : act === 'rename'
            ? { kind: 'rename', page, address: `/${pick(names) ?? 'x'}/` }
            : act === 'remove' || act === 'alone'
              ? {
                  kind: 'remove',
                  thing: { kind: 'node', node: page, alone: act === 'alone' },
                  standIn: pick([{ kind: 'home' }, { kind: 'parent' }, { kind: 'none' }]),
                  links: pick(['kept', 'lead-on', 'unlinked']),
                  newHome: null,
                }
              : act === 'back'
                ? {
                    kind: 'put-back',
                    things: [{ of }],
                    taken: pick(['keep-both', 'swap']),
                    where: pick(['in-place', 'with-parents', 'top']),
                  }
                : act === 'part'
                  ? { kind: 'put-back', things: [{ of, nodes: [pick(rows)?.page ?? page] }], taken: 'keep-both' }
                  : { kind: 'step', direction: pick(['back', 'forward']) };
      const { status, body } = await house.owner.decide(small, decision);
      expect(status, JSON.stringify([decision, body])).not.toBe(500);
      if (status !== 201) {
        refused += 1;
        continue;
      }
      done += 1;
      const { pages: now, removed } = (
        await house.owner.get<{ pages: PageRow[]; removed: RemovedRow[] }>(`/api/sites/${small}/pages`)
      ).body;
      const taken = now.map(({ address }) => address);
      expect(new Set(taken).size, JSON.stringify([decision, taken])).toBe(taken.length);
      expect([...now, ...removed].map(({ title }) => title).sort()).toEqual(
        ['Home', ...names.map((_, n) => `P${n}`)].sort(),
      );
      now.forEach(({ parent, depth }, index) => {
        expect(parent === null ? depth : now.slice(0, index).find(({ id }) => id === parent)?.depth).toBe(
          parent === null ? 0 : depth - 1,
        );
      });
    }
    expect(done).toBeGreaterThan(15);
    expect(refused).toBeGreaterThan(0);
    const step = await compileDraft(deps, small);
    await deps.db.run('delete from draft where site_id = $1', [small]);
    expect((await compileDraft(deps, small)).shards).toEqual(step.shards);
  });
});

describe('two people at the same moment', () => {
  it('who put back, remove and sweep the same end in one state, and everybody else is told', async () => {
    const groups = await at('/visit/groups/');
    await remove(groups.id);
    const of = await last();
    const { version } = await house.owner.overview(site);
    const attempts = await Promise.all([
      ...Array.from({ length: 4 }, () =>
        house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/decisions`, {
          version,
          decision: { kind: 'put-back', things: [{ of }] },
        }),
      ),
      ...Array.from({ length: 2 }, () =>
        house.owner.post<{ error?: { code: string } }>(`/api/sites/${site}/removals/for-good`, {
          version,
          of: [of],
          confirmed: 'Groups and schools',
        }),
      ),
    ]);
    expect(attempts.filter(({ status }) => status < 300)).toHaveLength(1);
    expect(new Set(attempts.filter(({ status }) => status >= 300).map(({ body }) => body.error?.code))).toEqual(
      new Set(['draft-stale', 'not-removed']),
    );
    const isBack = (await tree()).pages.some(({ id }) => id === groups.id);
    expect(await putBack(of)).toMatchObject(isBack ? { code: 'not-removed' } : { code: 'removal-swept' });
  });
});

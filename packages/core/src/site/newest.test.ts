import { describe, expect, it } from 'vitest';
import { emptyDraft, type Draft } from './draft.ts';
import { leadsToNewest, withNewest } from './newest.ts';

const newest = { kind: 'page', page: 'news', newest: true } as const;
const item = (target: unknown, children: unknown[] = []) => ({ label: 'x', newWindow: false, target, children });
const draft = (more: Partial<Record<keyof Draft, unknown>>): Draft => ({ ...emptyDraft, ...more }) as Draft;
const link = (target: unknown) => ({ kind: 'link', scope: { kind: 'everywhere' }, target });
const of = (listing: string) => (listing === 'news' ? 'entry' : undefined);

describe('what leads to the newest of a list', () => {
  it('leads to that entry, in menus at every depth, links and redirects', () => {
    const decided = draft({
      menus: new Map([['m', { items: [item({ kind: 'home' }, [item(newest)])], whereItDiffers: false }]]),
      touches: new Map([[1, link({ ...newest, fragment: 'top' })]]),
      redirects: new Map([['/last', { from: '/last', status: 302, target: newest }]]),
    });
    expect(leadsToNewest(decided)).toBe(true);
    const meant = withNewest(decided, of);
    expect(meant.menus.get('m')?.items[0]?.children[0]?.target).toEqual({ kind: 'page', page: 'entry' });
    expect(meant.touches.get(1)).toMatchObject({ target: { kind: 'page', page: 'entry', fragment: 'top' } });
    expect(meant.redirects.get('/last')).toMatchObject({ target: { kind: 'page', page: 'entry' } });
    expect(leadsToNewest(meant)).toBe(false);
    // What was decided stays as it was.
    expect(decided.redirects.get('/last')).toMatchObject({ target: newest });
  });

  it('leads to the list itself while it has no entry', () => {
    const decided = draft({ touches: new Map([[1, link({ ...newest, page: 'empty' })]]) });
    expect(withNewest(decided, of).touches.get(1)).toMatchObject({ target: { kind: 'page', page: 'empty' } });
  });

  it('changes nothing of what leads elsewhere, the very objects included', () => {
    const plain = link({ kind: 'page', page: 'news' });
    const menu = { items: [item({ kind: 'page', page: 'news' })], whereItDiffers: false };
    const decided = draft({ touches: new Map([[1, plain]]), menus: new Map([['m', menu]]) });
    expect(withNewest(decided, of)).toBe(decided);
    const beside = draft({
      touches: new Map<number, unknown>([
        [1, plain],
        [2, link(newest)],
      ]),
      menus: decided.menus,
    });
    expect(withNewest(beside, of).touches.get(1)).toBe(plain);
    expect(withNewest(beside, of).menus.get('m')).toBe(menu);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  filterActiveDecisions,
  findAffected,
  findCommonEnding,
  labelTitle,
  findDraftAddress,
  foldDecisions,
  findMovedAddresses,
  listSpellings,
  findStepsAvailable,
  reckonTreeRows,
  type Decision,
  type RecordedDecision,
} from './index.ts';

const record = (...decisions: Decision[]): RecordedDecision[] =>
  decisions.map((decision, i) => ({ seq: i + 1, decision }));
const title = (page: string, text: string): Decision => ({ kind: 'title', page, title: text });
const undo = (of: number): Decision => ({ kind: 'undo', of });
const home = (page: string): Decision => ({ kind: 'home', page, importedHome: { page: 'front', address: '/front/' } });

describe('a history of decisions', () => {
  it('adds up, the last word on a thing counting', () => {
    const draft = foldDecisions(record(title('a', 'One'), title('a', 'Two'), title('b', 'Three')));
    expect([...draft.titles]).toEqual([
      ['a', 'Two'],
      ['b', 'Three'],
    ]);
  });

  it('is as if an undone decision had never been', () => {
    expect([...foldDecisions(record(title('a', 'One'), title('a', 'Two'), undo(2))).titles]).toEqual([['a', 'One']]);
  });

  it('has an undone decision again when the undo is undone', () => {
    const history = record(title('a', 'One'), undo(1), undo(2));
    expect(filterActiveDecisions(history).map(({ seq }) => seq)).toEqual([1]);
  });

  // A walk of edits, steps back and steps forward, as an editor with two stacks would keep it.
  it('steps back and forward like an editor', () => {
    const action = fc.oneof(
      fc.constant('back' as const),
      fc.constant('forward' as const),
      fc.string({ minLength: 1, maxLength: 3 }),
    );
    fc.assert(
      fc.property(fc.array(action, { maxLength: 40 }), (actions) => {
        const history: RecordedDecision[] = [];
        const append = (decision: Decision) => history.push({ seq: history.length + 1, decision });
        const done: string[] = [];
        const ahead: string[] = [];
        for (const each of actions) {
          const steps = findStepsAvailable(history);
          if (each === 'back') {
            expect(steps.undo !== undefined).toBe(done.length > 0);
            if (steps.undo === undefined) continue;
            append(undo(steps.undo));
            ahead.push(done.pop() ?? '');
          } else if (each === 'forward') {
            expect(steps.redo !== undefined).toBe(ahead.length > 0);
            if (steps.redo === undefined) continue;
            append(undo(steps.redo));
            done.push(ahead.pop() ?? '');
          } else {
            append(title('p', each));
            done.push(each);
            ahead.length = 0;
          }
          expect(foldDecisions(history).titles.get('p')).toBe(done.at(-1));
        }
      }),
    );
  });
});

describe('the home page', () => {
  const front = { id: 'front', sourcePath: 'index.html' };
  const welcome = { id: 'welcome', sourcePath: 'welcome/index.html' };
  const about = { id: 'about', sourcePath: 'about/index.html' };
  const addresses = (...decisions: Decision[]) =>
    [front, welcome, about].map((page) => findDraftAddress(foldDecisions(record(...decisions)), page));

  it.each([
    ['nothing chosen', [], ['/', '/welcome/', '/about/']],
    ['a page becomes home, the front page keeps living', [home('welcome')], ['/front/', '/', '/about/']],
    ['another one after it', [home('welcome'), home('about')], ['/front/', '/welcome/', '/']],
    ['the imported front page again', [home('welcome'), home('front')], ['/', '/welcome/', '/about/']],
    ['one step back', [home('welcome'), home('about'), undo(2)], ['/front/', '/', '/about/']],
    ['an earlier choice undone', [home('welcome'), home('about'), undo(1)], ['/front/', '/welcome/', '/']],
  ] as const)('%s', (_, decisions, expected) =>
    expect(addresses(...(decisions as readonly Decision[]))).toEqual(expected),
  );

  it('is at exactly one page after any history', () => {
    const step = fc.oneof(
      fc.constantFrom(...['front', 'welcome', 'about'].map(home)),
      fc.nat({ max: 12 }).map((n) => undo(n)),
    );
    fc.assert(
      fc.property(fc.array(step, { maxLength: 12 }), (decisions) => {
        expect(addresses(...decisions).filter((address) => address === '/')).toHaveLength(1);
      }),
    );
  });

  it('takes links along, but not those to "/", which mean the home page whichever it is', () => {
    const draft = foldDecisions(record(home('welcome')));
    expect([...findMovedAddresses(draft, [front, welcome])]).toEqual([
      ['/#', '/front/'],
      ['/index.html#', '/front/'],
      ['/welcome/', '/'],
      ['/welcome/index.html', '/'],
      ['/welcome', '/'],
    ]);
  });
});

describe('what a change touches', () => {
  it('is the page whose title changed, and the pages that moved', () => {
    const before = foldDecisions(record(title('a', 'One'), title('b', 'Same')));
    const after = foldDecisions(record(title('a', 'Two'), title('b', 'Same'), home('c')));
    const { pages, moved } = findAffected(before, after);
    expect([...pages].sort()).toEqual(['a', 'c', 'front']);
    expect([...moved].sort()).toEqual(['c', 'front']);
  });

  it('knows every spelling of an address', () => {
    expect(listSpellings('visit/index.html')).toEqual(['/visit/', '/visit/index.html', '/visit']);
    expect(listSpellings('about.html')).toEqual(['/about.html']);
    expect(listSpellings('index.html')).toEqual(['/', '/index.html']);
  });
});

describe('the tree', () => {
  const rows = (...addresses: string[]) =>
    reckonTreeRows(addresses.map((address) => ({ id: address, address }))).map(
      ({ page, depth }) => `${'  '.repeat(depth)}${page.address}`,
    );

  it('puts pages behind the nearest page above them, home first', () => {
    expect(rows('/about-us/', '/about/people/', '/', '/about/', '/visit/deep/down/', '/x.html')).toEqual([
      '/',
      '/about/',
      '  /about/people/',
      '/about-us/',
      '/visit/deep/down/',
      '/x.html',
    ]);
  });

  const nodes = ['/', '/a/', '/a/b/', '/a/c/', '/d/', '/d/e/'].map((address) => ({
    id: address,
    address: address as string | undefined,
  }));
  const shape = (places: [string, { parent: string | null; after: string | null }][]) =>
    reckonTreeRows(nodes, new Map(places)).map(({ page, depth }) => `${'  '.repeat(depth)}${page.id}`);

  it('stands where people put it, in the order they said', () => {
    expect(shape([['/d/', { parent: null, after: null }]])).toEqual([
      '/d/',
      '  /d/e/',
      '/',
      '/a/',
      '  /a/b/',
      '  /a/c/',
    ]);
    expect(
      shape([
        ['/a/c/', { parent: '/a/', after: null }],
        ['/d/e/', { parent: '/a/', after: '/a/c/' }],
      ]),
    ).toEqual(['/', '/a/', '  /a/c/', '  /d/e/', '  /a/b/', '/d/']);
  });

  it('holds groups without an address, and pages whose group is gone', () => {
    const withGroup = [...nodes, { id: 'g', address: undefined }];
    const places = new Map([
      ['g', { parent: null, after: '/' }],
      ['/d/', { parent: 'g', after: null }],
    ]);
    expect(reckonTreeRows(withGroup, places).map(({ page, depth }) => `${depth} ${page.id}`)).toEqual([
      '0 /',
      '0 g',
      '1 /d/',
      '2 /d/e/',
      '0 /a/',
      '1 /a/b/',
      '1 /a/c/',
    ]);
    expect(reckonTreeRows(nodes, places)).toHaveLength(nodes.length);
  });

  it('has every node once, below nobody it holds itself, whatever was decided (property)', () => {
    const id = fc.constantFrom(...nodes.map((node) => node.id));
    const place = fc.tuple(id, fc.record({ parent: fc.option(id), after: fc.option(id) }));
    fc.assert(
      fc.property(fc.array(place, { maxLength: 10 }), (places) => {
        const rows = reckonTreeRows(nodes, new Map(places));
        expect(rows.map(({ page }) => page.id).sort()).toEqual(nodes.map((node) => node.id).sort());
        rows.forEach(({ depth, parent }, index) => {
          if (parent === null) expect(depth).toBe(0);
          else {
            const above = rows.findIndex(({ page }) => page.id === parent);
            expect(above).toBeLessThan(index);
            expect(rows[above]?.depth).toBe(depth - 1);
          }
        });
      }),
    );
  });
});

describe('pages that are renamed', () => {
  const page = { id: 'p', sourcePath: 'visit/index.html' };
  const fold = (...decisions: Decision[]) => foldDecisions(record(...decisions));
  const to = (address: string): Decision => ({ kind: 'address', page: 'p', addresses: { p: address } });

  it('remember every address they had, in every style', () => {
    const draft = fold(to('/come/'), { kind: 'address-style', style: 'html' }, to('/plan/'));
    expect(findDraftAddress(draft, page)).toBe('/plan.html');
    expect([...(draft.formerAddresses.get('p') ?? [])]).toEqual(['/come/']);
    expect([...draft.formerStyles]).toEqual(['imported']);
  });

  it('come back to what they were called before they were home', () => {
    const front: Decision = { kind: 'home', page: 'q', importedHome: { page: 'front', address: '/front/' } };
    const draft = fold(
      to('/come/'),
      { kind: 'home', page: 'p', importedHome: { page: 'front', address: '/front/' } },
      front,
    );
    expect(findDraftAddress(draft, page)).toBe('/come/');
  });
});

describe('touches that are made again', () => {
  const touch = (to: string): Decision => ({
    kind: 'touch',
    touch: {
      kind: 'text',
      scope: { kind: 'page', page: 'p' },
      place: { tag: 'p', what: 'text', mark: 'x', nth: 0, under: '', way: '' },
      to,
    },
  });

  it('replace the one before in the same place, until that is taken back', () => {
    expect([...foldDecisions(record(touch('one'), touch('two'))).touches.keys()]).toEqual([2]);
    expect([...foldDecisions(record(touch('one'), touch('two'), undo(2))).touches.keys()]).toEqual([1]);
  });

  it('go along with a copy of their page', () => {
    const node: Decision = {
      kind: 'node-added',
      node: { kind: 'page', id: 'c', hash: 'h', sizeBytes: 1, writtenAt: 'p.html', address: '/c/', copyOf: 'p' },
      place: { parent: null, after: null },
      title: 'Copy',
    };
    const draft = foldDecisions(record(touch('one'), node));
    expect([...draft.touches.values()].map(({ scope }) => scope)).toEqual([
      { kind: 'page', page: 'p' },
      { kind: 'page', page: 'c' },
    ]);
    expect(draft.titles.get('c')).toBe('Copy');
  });
});

describe('what all titles end in', () => {
  it('is left out of labels, but never the whole title', () => {
    const titles = ['Visit · Moor', 'Learn · Moor', 'Moor', 'About · Moor'];
    expect(findCommonEnding(titles)).toBe(' · Moor');
    expect(titles.map((each) => labelTitle(each, [' · Moor']))).toEqual(['Visit', 'Learn', 'Moor', 'About']);
    expect(findCommonEnding(['One - a', 'Two - b', 'Three'])).toBeUndefined();
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { activeDecisions, affectedBetween, draftAddress, foldDecisions, movedAddresses, spellings, stepsAvailable, treeRows, type Decision, type RecordedDecision } from './index.ts';

const record = (...decisions: Decision[]): RecordedDecision[] => decisions.map((decision, i) => ({ seq: i + 1, decision }));
const title = (page: string, text: string): Decision => ({ kind: 'title', page, title: text });
const undo = (of: number): Decision => ({ kind: 'undo', of });
const home = (page: string): Decision => ({ kind: 'home', page, importedHome: { page: 'front', address: '/front/' } });

describe('a history of decisions', () => {
  it('adds up, the last word on a thing counting', () => {
    const draft = foldDecisions(record(title('a', 'One'), title('a', 'Two'), title('b', 'Three')));
    expect([...draft.titles]).toEqual([['a', 'Two'], ['b', 'Three']]);
  });

  it('is as if an undone decision had never been', () => {
    expect([...foldDecisions(record(title('a', 'One'), title('a', 'Two'), undo(2))).titles]).toEqual([['a', 'One']]);
  });

  it('has an undone decision again when the undo is undone', () => {
    const history = record(title('a', 'One'), undo(1), undo(2));
    expect(activeDecisions(history).map(({ seq }) => seq)).toEqual([1]);
  });

  // A walk of edits, steps back and steps forward, as an editor with two stacks would keep it.
  it('steps back and forward like an editor', () => {
    const action = fc.oneof(fc.constant('back' as const), fc.constant('forward' as const), fc.string({ minLength: 1, maxLength: 3 }));
    fc.assert(fc.property(fc.array(action, { maxLength: 40 }), (actions) => {
      const history: RecordedDecision[] = [];
      const append = (decision: Decision) => history.push({ seq: history.length + 1, decision });
      const done: string[] = [];
      const ahead: string[] = [];
      for (const each of actions) {
        const steps = stepsAvailable(history);
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
    }));
  });
});

describe('the home page', () => {
  const front = { id: 'front', sourcePath: 'index.html' };
  const welcome = { id: 'welcome', sourcePath: 'welcome/index.html' };
  const about = { id: 'about', sourcePath: 'about/index.html' };
  const addresses = (...decisions: Decision[]) => [front, welcome, about].map((page) => draftAddress(foldDecisions(record(...decisions)), page));

  it.each([
    ['nothing chosen', [], ['/', '/welcome/', '/about/']],
    ['a page becomes home, the front page keeps living', [home('welcome')], ['/front/', '/', '/about/']],
    ['another one after it', [home('welcome'), home('about')], ['/front/', '/welcome/', '/']],
    ['the imported front page again', [home('welcome'), home('front')], ['/', '/welcome/', '/about/']],
    ['one step back', [home('welcome'), home('about'), undo(2)], ['/front/', '/', '/about/']],
    ['an earlier choice undone', [home('welcome'), home('about'), undo(1)], ['/front/', '/welcome/', '/']],
  ] as const)('%s', (_, decisions, expected) => expect(addresses(...(decisions as readonly Decision[]))).toEqual(expected));

  it('is at exactly one page after any history', () => {
    const step = fc.oneof(fc.constantFrom(...['front', 'welcome', 'about'].map(home)), fc.nat({ max: 12 }).map((n) => undo(n)));
    fc.assert(fc.property(fc.array(step, { maxLength: 12 }), (decisions) => {
      expect(addresses(...decisions).filter((address) => address === '/')).toHaveLength(1);
    }));
  });

  it('takes links along, but not those to "/", which mean the home page whichever it is', () => {
    const draft = foldDecisions(record(home('welcome')));
    expect([...movedAddresses(draft, [front, welcome])]).toEqual([['/welcome/', '/'], ['/welcome/index.html', '/'], ['/welcome', '/']]);
  });
});

describe('what a change touches', () => {
  it('is the page whose title changed, and the pages that moved', () => {
    const before = foldDecisions(record(title('a', 'One'), title('b', 'Same')));
    const after = foldDecisions(record(title('a', 'Two'), title('b', 'Same'), home('c')));
    const { pages, moved } = affectedBetween(before, after);
    expect([...pages].sort()).toEqual(['a', 'c', 'front']);
    expect([...moved].sort()).toEqual(['c', 'front']);
  });

  it('knows every spelling of an address', () => {
    expect(spellings('visit/index.html')).toEqual(['/visit/', '/visit/index.html', '/visit']);
    expect(spellings('about.html')).toEqual(['/about.html']);
    expect(spellings('index.html')).toEqual(['/', '/index.html']);
  });
});

describe('the tree', () => {
  const rows = (...addresses: string[]) => treeRows(addresses.map((address) => ({ address }))).map(({ page, depth }) => `${'  '.repeat(depth)}${page.address}`);

  it('puts pages behind the nearest page above them, home first', () => {
    expect(rows('/about-us/', '/about/people/', '/', '/about/', '/visit/deep/down/', '/x.html')).toEqual([
      '/', '/about/', '  /about/people/', '/about-us/', '/visit/deep/down/', '/x.html',
    ]);
  });
});

/**
 * A draft's redirects as rules. Statuses: RFC 9110, sections 15.4 and 15.5.11. Which address leads where is this
 * project's own.
 */
import { describe, expect, it } from 'vitest';
import { readReleased, type Decision, type PageFile } from '../site/index.ts';
import { backAgain, fold, page as addedPage, removal } from '../site/testing.ts';
import { compileRules, listStandInRedirects, type Answered } from './index.ts';

const TODAY = '2026-11-30';
const pages = new Map<string, PageFile>(
  ['index.html', 'visit/index.html', 'bus.html', 'n.html'].map((sourcePath) => {
    const id = sourcePath.replace(/\/?(index)?\.html$/, '') || 'front';
    return [id, { id, sourcePath }];
  }),
);
const renamed = (id: string, to: string): Decision => ({ kind: 'address', page: id, addresses: { [id]: to } });
const base = (path: string): Decision => ({ kind: 'base-path', path });
const style = (to: string): Decision => ({ kind: 'address-style', style: to }) as Decision;
const settled = (from: string, more: object): Decision =>
  ({ kind: 'redirect', redirect: { from, status: 301, ...more } }) as Decision;
const toPage = (id: string, more: object = {}) => ({ target: { kind: 'page', page: id, ...more } });
const lines = (decisions: readonly Decision[], answered?: Answered) =>
  compileRules(fold(...decisions), pages, TODAY, answered).rules.map(({ from, status, to }) =>
    [from, status, to].filter((each) => each !== undefined).join(' '),
  );
/** What visitors were answered at: one release an entry, made by these decisions. */
const released = (...releases: Decision[][]): Answered => ({
  released: releases.map((decisions) => readReleased(fold(...decisions))),
  files: ['a b.pdf'],
});

describe('pages that moved', () => {
  it.each<[string, Decision[], string[]]>([
    ['nothing moved', [], []],
    ['one did', [renamed('visit', '/come/')], ['/visit/ 301 /come/']],
    ['twice', [renamed('visit', '/come/'), renamed('visit', '/go/')], ['/come/ 301 /go/', '/visit/ 301 /go/']],
    ['and back', [renamed('visit', '/come/'), renamed('visit', '/visit/')], ['/come/ 301 /visit/']],
    ['to where another one was', [renamed('visit', '/come/'), renamed('bus', '/visit/')], ['/bus.html 301 /visit/']],
    ['the style changed', [style('html')], ['/visit/ 301 /visit.html']],
    [
      'the style changed twice',
      [style('html'), style('slash')],
      ['/bus.html 301 /bus/', '/n.html 301 /n/', '/visit.html 301 /visit/'],
    ],
    [
      'one moved in another style',
      [style('html'), renamed('visit', '/come/')],
      ['/come/ 301 /come.html', '/visit.html 301 /come.html', '/visit/ 301 /come.html'],
    ],
    ['one is held back', [renamed('visit', '/come/'), { kind: 'ready', page: 'visit', ready: false }], []],
    [
      'one is removed',
      [renamed('visit', '/come/'), removal({ kind: 'nodes', nodes: ['visit'] }, { standIn: { kind: 'none' } })],
      [],
    ],
    ['one was added here', [addedPage('n'), renamed('n', '/m/')], ['/n/ 301 /m/']],
    ['the front did', [renamed('front', '/start/')], []],
  ])('%s', (_, decisions, expected) =>
    expect(lines(decisions).filter((line) => !line.includes(' 200 '))).toEqual(expected),
  );

  it('without an ending are answered by their files, which send visitors on', () => {
    expect(lines([style('bare')])).toEqual([
      '/bus 200 /bus.html',
      '/bus.html 301 /bus',
      '/n 200 /n.html',
      '/n.html 301 /n',
      '/visit 200 /visit.html',
      '/visit.html 301 /visit',
      '/visit/ 301 /visit',
    ]);
  });

  it('lead on from what visitors were answered at, and from where their file says they are', () => {
    const decisions = [renamed('visit', '/come/'), renamed('visit', '/go/')];
    // Nobody was ever answered at /come/.
    expect(lines(decisions, released([]))).toEqual(['/visit/ 301 /go/']);
    expect(lines(decisions, released([renamed('visit', '/come/')]))).toEqual(['/come/ 301 /go/', '/visit/ 301 /go/']);
    expect(lines(decisions, released([renamed('visit', '/go/')]))).toEqual(['/visit/ 301 /go/']);
    const held: Decision = { kind: 'ready', page: 'visit', ready: false };
    expect(lines(decisions, released([renamed('visit', '/come/'), held]))).toEqual(['/visit/ 301 /go/']);
    // An export before this one had it elsewhere.
    const export_: Decision = { kind: 'export-taken', import: 'i', former: { visit: '/besuch/' } };
    expect(lines([export_], released([]))).toEqual(['/besuch/ 301 /visit/']);
    // A page added here has no file that says so.
    expect(lines([addedPage('n'), renamed('n', '/m/')], released([]))).toEqual([]);
    expect(lines([addedPage('n'), renamed('n', '/m/')], released([addedPage('n')]))).toEqual(['/n/ 301 /m/']);
  });

  it('never lead away from the front, here or where a release had it', () => {
    const home: Decision = { kind: 'home', page: 'visit', importedHome: { page: 'front', address: '/front/' } };
    expect(lines([home])).toEqual(['/visit/ 301 /']);
    expect(lines([home, base('/m')], released([base('/m')]))).toEqual(['/ 302 /m/', '/m/visit/ 301 /m/']);
    expect(lines([home], released([base('/m')])).filter((line) => line.startsWith('/m/ '))).toEqual([]);
  });
});

describe('a site that stood elsewhere', () => {
  it('is found page by page and file by file from the root', () => {
    expect(lines([base('/m')], released([]))).toEqual([
      '/ 301 /m/',
      '/a%20b.pdf 301 /m/a%20b.pdf',
      '/bus.html 301 /m/bus.html',
      '/index.html 301 /m/',
      '/n.html 301 /m/n.html',
      '/visit 301 /m/visit/',
      '/visit/ 301 /m/visit/',
      '/visit/index.html 301 /m/visit/',
    ]);
  });

  it('is found by one rule from another path', () => {
    const rules = compileRules(fold(base('/m'), base('/k')), pages, TODAY, released([base('/m')])).rules;
    expect(rules).toEqual([
      { from: '/', status: 302, to: '/k/' },
      { from: '/m/*', status: 301, to: '/k/:0', isPattern: true },
    ]);
    // A page that moved with it needs its own.
    expect(lines([base('/m'), base('/k'), renamed('bus', '/ways.html')], released([base('/m')]))).toEqual([
      '/ 302 /k/',
      '/k/bus.html 301 /k/ways.html',
      '/m/bus.html 301 /k/ways.html',
      '/m/* 301 /k/:0',
    ]);
  });

  it('is found page by page where one path lies in the other', () => {
    const inside = lines([base('/m'), base('/m/n')], released([base('/m')]));
    expect(inside).not.toContain('/m/* 301 /m/n/:0');
    expect(inside).toContain('/m/bus.html 301 /m/n/bus.html');
    expect(inside).toContain('/m/visit 301 /m/n/visit/');
    expect(lines([base('/m/n'), base('/m')], released([base('/m/n')]))).toContain('/m/n/* 301 /m/:0');
  });

  it('gives way to a pattern that somebody made for the same', () => {
    const own: Decision = { kind: 'pattern', id: 'p', pattern: { text: '/m/*', status: 410, target: undefined } };
    expect(
      lines([own, base('/m'), base('/k')], released([base('/m')])).filter((line) => line.startsWith('/m/*')),
    ).toEqual(['/m/* 410']);
  });
});

describe('what is removed', () => {
  const gone = (more: object) => removal({ kind: 'nodes', nodes: ['visit', 'never'] }, more);
  it.each<[string, Decision[], string[]]>([
    ['is gone', [gone({ standIn: { kind: 'gone' } })], ['/visit/ 410']],
    ['is nothing', [gone({ standIn: { kind: 'none' } })], []],
    ['leads home', [gone({ standIn: { kind: 'home' } })], ['/visit/ 301 /']],
    ['leads home under a path', [base('/m'), gone({ standIn: { kind: 'home' } })], ['/m/visit/ 301 /m/']],
    ['leads to a page', [gone({ standIn: { kind: 'page', page: 'bus' } })], ['/visit/ 301 /bus.html']],
    [
      'leads from every address it had',
      [renamed('visit', '/come/'), gone({ standIn: { kind: 'page', page: 'bus' } })],
      ['/come/ 301 /bus.html', '/visit/ 301 /bus.html'],
    ],
    [
      'leads nowhere where that is held back',
      [gone({ standIn: { kind: 'page', page: 'bus' } }), { kind: 'ready', page: 'bus', ready: false }],
      [],
    ],
    [
      'gives way to a page that is there',
      [renamed('bus', '/visit/'), gone({ standIn: { kind: 'gone' } })],
      ['/bus.html 301 /visit/'],
    ],
    [
      'gives way to what somebody decided',
      [gone({ standIn: { kind: 'gone' } }), settled('/visit/', toPage('bus'))],
      ['/visit/ 301 /bus.html'],
    ],
    ['is back', [gone({ standIn: { kind: 'gone' } }), backAgain([{ of: 1 }])], []],
    ['is a file', [base('/m'), removal({ kind: 'file', path: 'a b.pdf' })], ['/m/a%20b.pdf 410']],
    [
      'leads from where it was crawled',
      [{ kind: 'crawled', import: 'i', from: { visit: ['/v.php'] }, files: {} }, gone({ standIn: { kind: 'gone' } })],
      ['/v.php 410', '/visit/ 410'],
    ],
    [
      'is home, whose address another one has',
      [removal({ kind: 'nodes', nodes: ['front'] }, { home: { page: 'visit', importedHome: undefined } })],
      ['/visit/ 301 /'],
    ],
  ])('%s', (_, decisions, expected) => {
    const answered = decisions.some(({ kind }) => kind === 'base-path') ? released([base('/m')]) : undefined;
    expect(lines(decisions, answered).filter((line) => !line.startsWith('/ '))).toEqual(expected);
  });

  it('does not lead to itself', () => {
    const draft = fold(
      removal({ kind: 'file', path: 'visit/index.html' }, { standIn: { kind: 'page', page: 'visit' } }),
    );
    expect(compileRules(draft, pages, TODAY).rules).toEqual([]);
  });

  it('leads on for good by decisions of their own', () => {
    const redirects = (standIn: object) => {
      const draft = fold(gone({ standIn }));
      return listStandInRedirects(draft, [...draft.removals.values()], pages);
    };
    expect(redirects({ kind: 'page', page: 'bus' })).toEqual([
      { from: '/visit/', status: 301, target: { kind: 'page', page: 'bus' } },
    ]);
    expect(redirects({ kind: 'home' })).toEqual([{ from: '/visit/', status: 301, target: { kind: 'home' } }]);
    expect(redirects({ kind: 'gone' })).toEqual([{ from: '/visit/', status: 410 }]);
    expect(redirects({ kind: 'none' })).toEqual([]);
  });
});

describe('what somebody decided', () => {
  it.each<[string, Decision, string | undefined]>([
    ['a page', settled('/o', toPage('visit')), '/o 301 /m/visit/'],
    ['an element in it', settled('/o', toPage('visit', { fragment: 'bus' })), '/o 301 /m/visit/#bus'],
    ['home', settled('/o', { target: { kind: 'home' } }), '/o 301 /m/'],
    ['an address', settled('/o', { status: 302, target: { kind: 'address', address: '/x?y' } }), '/o 302 /x?y'],
    [
      'another host',
      settled('/o', { status: 308, target: { kind: 'url', url: 'https://fell.example/' } }),
      '/o 308 https://fell.example/',
    ],
    ['nothing any more', settled('/o', { status: 410 }), '/o 410'],
    ['a page until yesterday', settled('/o', { ...toPage('visit'), until: '2026-11-29' }), undefined],
    ['a page until today', settled('/o', { ...toPage('visit'), until: TODAY }), '/o 301 /m/visit/'],
    ['nothing until yesterday', settled('/o', { status: 410, until: '2026-11-29' }), undefined],
  ])('leads to %s', (_, decision, expected) => {
    expect(lines([base('/m'), decision], released([base('/m')])).find((line) => line.startsWith('/o'))).toBe(expected);
  });

  it('is told where its page is not there any more', () => {
    const draft = (...more: Decision[]) =>
      compileRules(fold(settled('/o', toPage('visit')), ...more), pages, TODAY).withoutTarget;
    expect(draft()).toEqual([]);
    expect(draft(settled('/p', toPage('never')))).toEqual(['/p']);
    expect(draft({ kind: 'ready', page: 'visit', ready: false })).toEqual(['/o']);
    expect(draft(removal({ kind: 'nodes', nodes: ['visit'] }))).toEqual(['/o']);
    expect(draft(settled('/q', { ...toPage('never'), until: '2026-01-01' }))).toEqual([]);
  });

  it('keeps what it says of the query, letters and slashes, and nothing for people', () => {
    const options = { dropsQuery: true, ignoreCase: true, anySlash: true, note: 'why', until: '2027-01-01' };
    expect(compileRules(fold(settled('/o', { status: 410, ...options })), pages, TODAY).rules).toEqual([
      { from: '/o', status: 410, dropsQuery: true, ignoreCase: true, anySlash: true },
    ]);
    expect(compileRules(fold(settled('/o', { ...toPage('bus'), ...options })), pages, TODAY).rules).toEqual([
      { from: '/o', status: 301, to: '/bus.html', dropsQuery: true, ignoreCase: true, anySlash: true },
    ]);
  });

  it('counts before what a page had, a file answered at or a path leads to', () => {
    const crawled: Decision = {
      kind: 'crawled',
      import: 'i',
      from: { visit: ['/v.php', '/', '/bus.html'] },
      files: { '/f.php': 'f.pdf', '/v.php': 'g.pdf', '/h.pdf': 'h.pdf', '/bus.html': 'i.pdf' },
    };
    expect(lines([crawled])).toEqual(['/f.php 301 /f.pdf', '/v.php 301 /visit/']);
    expect(lines([crawled, settled('/f.php', { status: 410 }), settled('/v.php', toPage('bus'))])).toEqual([
      '/f.php 410',
      '/v.php 301 /bus.html',
    ]);
  });

  it('holds for patterns behind all others, in their order', () => {
    const q: Decision = {
      kind: 'pattern',
      id: 'q',
      pattern: { text: '/q/*', status: 301, target: '/new/:0', ignoreCase: true, dropsQuery: true, note: 'x' },
    };
    const a: Decision = { kind: 'pattern', id: 'a', pattern: { text: '/a/*', status: 410, target: undefined } };
    const over: Decision = {
      kind: 'pattern',
      id: 'o',
      pattern: { text: '/o/*', status: 410, target: undefined, until: '2026-01-01' },
    };
    expect(compileRules(fold(q, over, a, settled('/z', { status: 410 })), pages, TODAY).rules).toEqual([
      { from: '/z', status: 410 },
      { from: '/q/*', status: 301, to: '/new/:0', isPattern: true, dropsQuery: true, ignoreCase: true },
      { from: '/a/*', status: 410, isPattern: true },
    ]);
  });
});

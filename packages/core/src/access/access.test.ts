/** Who may visit: the nearest word counts, however an address is written. Laws are this project's own where no source stands beside. */
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  judgeAdmission,
  writeApacheAccess,
  findEntry,
  writeNginxAccess,
  isRestricted,
  parseServing,
  isSameEntry,
  serialiseServing,
  type AccessRule,
  type Entry,
  type SiteAccess,
} from './index.ts';

const HASH = '$2b$10$abcdefghijklmnopqrstuuuuuuuuuuuuuuuuuuuuuuuuuuuuuuuuu';
const MEMBERS: SiteAccess = {
  rules: [
    { branch: '/', entry: { kind: 'nobody' } },
    { branch: '/members/', entry: { kind: 'password', user: 'friends', hash: HASH } },
    { branch: '/members/open', entry: { kind: 'everyone' } },
  ],
};
const NOON = Date.UTC(2027, 2, 31, 12);
const entry = fc.constantFrom<Entry>(
  { kind: 'everyone' },
  { kind: 'nobody' },
  { kind: 'password', user: 'a', hash: HASH },
);
const segment = fc.constantFrom('a', 'b', 'members', 'caf%C3%A9');
const branch = fc.array(segment, { maxLength: 3 }).map((segments) => `/${segments.map((each) => `${each}/`).join('')}`);
const rules = fc.uniqueArray(fc.record({ branch, entry }), {
  selector: (rule: AccessRule) => rule.branch,
  maxLength: 6,
});

describe('the nearest branch counts', () => {
  it.each([
    ['/', 'nobody'],
    ['/membership/', 'nobody'],
    ['/members/', 'password'],
    ['/members', 'password'],
    ['/members.html', 'password'],
    ['/members/a/b.pdf', 'password'],
    ['/members/open', 'everyone'],
    ['/members/open.html', 'everyone'],
    ['/members/open/deep', 'everyone'],
    ['/members/opening', 'password'],
  ])('%s: %s', (address, kind) => expect(findEntry(MEMBERS, address).kind).toBe(kind));

  it('what a farther branch says changes nothing below a nearer one (property)', () => {
    fc.assert(
      fc.property(rules, branch, entry, (own, near, other) => {
        const fixed = [
          ...own.filter((rule) => rule.branch !== near),
          { branch: near, entry: { kind: 'password', user: 'near', hash: HASH } as Entry },
        ];
        const farther = fixed.map((rule) => (rule.branch.length < near.length ? { ...rule, entry: other } : rule));
        const deepest = `${near}x.pdf`;
        expect(findEntry({ rules: farther }, deepest)).toEqual(findEntry({ rules: fixed }, deepest));
      }),
    );
  });

  it('of the address that is asked for and the file that answers it the stricter one', () => {
    expect(judgeAdmission(MEMBERS, { path: '/members/open', file: 'members/secret.html' }, NOON).kind).toBe('password');
    expect(judgeAdmission(MEMBERS, { path: '/members/open', file: 'other.html' }, NOON).kind).toBe('nobody');
  });
});

describe('two words for who may come in', () => {
  const password = (user: string, hash: string): Entry => ({ kind: 'password', user, hash });
  it.each<[string, Entry, Entry, boolean]>([
    ['everyone twice', { kind: 'everyone' }, { kind: 'everyone' }, true],
    ['everyone and nobody', { kind: 'everyone' }, { kind: 'nobody' }, false],
    ['one password', password('a', HASH), password('a', HASH), true],
    ['another name', password('a', HASH), password('b', HASH), false],
    ['another password', password('a', HASH), password('a', `${HASH}.`), false],
    ['a password and nobody', password('a', HASH), { kind: 'nobody' }, false],
    ['nobody and a password', { kind: 'nobody' }, password('a', HASH), false],
  ])('%s', (_, one, other, same) => expect(isSameEntry(one, other)).toBe(same));

  it('a last day alone restricts a site, and a page shown instead alone does not', () => {
    expect(isRestricted({ rules: [], lastDay: '2027-03-31' })).toBe(true);
    expect(isRestricted({ rules: [], instead: { page: 'soon.html', files: [] } })).toBe(false);
    expect(
      judgeAdmission({ rules: [], lastDay: '2027-03-31' }, { path: '/', file: 'index.html' }, NOON + 1e9).kind,
    ).toBe('over');
  });

  it('of two branches as long the one that is asked for counts, in whatever order they are said', () => {
    const [near, far]: AccessRule[] = [
      { branch: '/a/b/', entry: { kind: 'nobody' } },
      { branch: '/a/', entry: { kind: 'everyone' } },
    ];
    for (const all of [
      [near, far],
      [far, near],
    ] as AccessRule[][])
      expect([findEntry({ rules: all }, '/a/b/c').kind, findEntry({ rules: all }, '/a/x').kind]).toEqual([
        'nobody',
        'everyone',
      ]);
  });
});

describe('shown instead, and a last day', () => {
  const access: SiteAccess = {
    ...MEMBERS,
    instead: { page: 'soon/index.html', files: ['soon/soon.css'] },
    lastDay: '2027-03-31',
  };
  it('what it shows is open to everyone, before and after', () => {
    for (const at of [NOON, NOON + 86_400_000])
      for (const file of ['soon/index.html', 'soon/soon.css'])
        expect(judgeAdmission(access, { path: `/${file}`, file }, at)).toEqual({ kind: 'everyone' });
  });
  it('the day is over at midnight in UTC and not before', () => {
    const midnight = Date.UTC(2027, 3, 1);
    expect(judgeAdmission(access, { path: '/members/open', file: undefined }, midnight - 1).kind).toBe('everyone');
    expect(judgeAdmission(access, { path: '/members/open', file: undefined }, midnight).kind).toBe('over');
  });
});

describe('as a content for hosts', () => {
  it('comes back as it was (property)', () => {
    const access = fc
      .record({
        rules,
        instead: fc.option(fc.record({ page: fc.string(), files: fc.array(fc.string()) }), { nil: undefined }),
        lastDay: fc.option(fc.constant('2027-03-31'), { nil: undefined }),
      })
      .filter(({ rules: all, lastDay }) => all.length > 0 || lastDay !== undefined);
    fc.assert(
      fc.property(access, (given) => {
        const said = JSON.parse(JSON.stringify(given)) as SiteAccess;
        const serving = { access: said, rules: [{ from: '/old', status: 301 as const, to: '/new' }] };
        expect(parseServing(serialiseServing(serving))).toEqual(serving);
      }),
    );
  });
  it('stands in the first line alone, with no rule behind it', () => {
    const access: SiteAccess = { rules: [{ branch: '/', entry: { kind: 'nobody' } }] };
    const text = serialiseServing({ rules: [], access });
    expect(text).toBe('{"access":[["/","nobody"]]}\n');
    expect(parseServing(text.trimEnd())).toEqual({ rules: [], access });
  });
  it('says nothing where everyone may visit everything', () =>
    expect(serialiseServing({ rules: [], access: { rules: [], instead: { page: 'a.html', files: [] } } })).toBe(''));
  it.each([
    '{}',
    '{"access":[["/","someone"]]}',
    '{"access":[[1,"nobody"]]}',
    '{"access":[],"lastDay":3}',
    '{"access":[["/","nobody"]],"instead":{"page":1}}',
    '{"access":[["/","nobody"]],"instead":{"page":1,"files":[]}}',
    '{"access":[["/","nobody"]],"instead":{"page":"a.html","files":"a"}}',
    '{"access":[["/","nobody"]],"instead":{"page":"a.html","files":[1]}}',
    '{"access":[["/",["a",1]]]}',
    '{"access":[["/",[1,"a"]]]}',
    '{"access":["/"]}',
    '{"access":"/"}',
    '{',
  ])('%s is refused', (text) => expect(() => parseServing(text)).toThrow(SyntaxError));
});

describe('for servers', () => {
  const said = (files: ReturnType<typeof writeNginxAccess>, name: string) =>
    files.files.find((file) => file.name === name)?.text ?? '';

  it('nginx is told the days after the last one by a pattern that agrees with the calendar (property)', () => {
    const day = fc
      .date({ min: new Date('1990-01-01'), max: new Date('2199-12-31'), noInvalidDate: true })
      .map((date) => date.toISOString().slice(0, 10));
    fc.assert(
      fc.property(day, day, (lastDay, today) => {
        const pattern =
          /"~(\^\(\?:.*\))" 1;/.exec(said(writeNginxAccess({ rules: [], lastDay }), 'access-maps.conf'))?.[1] ?? '';
        expect(new RegExp(pattern).test(`${today}T12:00:00+00:00`)).toBe(today > lastDay);
      }),
    );
  });
  it('each password has a file of its own, in the form both servers read', () => {
    for (const files of [writeNginxAccess(MEMBERS), writeApacheAccess(MEMBERS)]) {
      expect(files.files.filter(({ name }) => name.startsWith('access-users-')).map(({ text }) => text)).toEqual([
        `friends:${HASH.replace('$2b$', '$2y$')}\n`,
      ]);
    }
  });
  // Kept so that no letter changes unnoticed; what servers make of such files is tried on them in peers/access.test.ts.
  it.each<[string, SiteAccess]>([
    [
      'closed',
      {
        ...MEMBERS,
        instead: { page: 'soon/index.html', files: ['soon/soon.css', 'soon/index.html'] },
        lastDay: '2027-03-31',
      },
    ],
    ['branch', { rules: MEMBERS.rules.slice(1) }],
    ['day', { rules: [], lastDay: '2027-03-31' }],
    [
      'quoted',
      {
        rules: [
          { branch: '/', entry: { kind: 'password', user: 'all', hash: HASH } },
          { branch: '/caf%C3%A9 "x"/a.b/', entry: { kind: 'nobody' } },
        ],
        instead: { page: 'soon.html', files: [] },
      },
    ],
  ])('are told so, letter by letter: %s', (name, access) => {
    const kept = (server: string) =>
      readFileSync(new URL(`../../testdata/access/${name}.${server}.txt`, import.meta.url), 'utf8');
    const whole = ({ files }: ReturnType<typeof writeNginxAccess>) =>
      files.map((file) => `--- ${file.name}\n${file.text}`).join('\n');
    expect(whole(writeNginxAccess(access))).toBe(kept('nginx'));
    expect(whole(writeApacheAccess(access))).toBe(kept('apache'));
  });
  it('are told nothing where everyone may visit', () =>
    expect([writeNginxAccess({ rules: [] }), writeApacheAccess({ rules: [] })]).toEqual([
      { files: [] },
      { files: [] },
    ]));
});

/** Rules written for other programs and read from them; that servers take them is held in apps/server/tests/peers/exports.test.ts. */
import fc from 'fast-check';
import { parse as parseHtml } from 'parse5';
import { describe, expect, it } from 'vitest';
import { indexRules, REDIRECT_STATUSES, unread, type Rule } from '../index.ts';
import { readApacheRules, readNginxRules, readRuleTable } from './read/index.ts';
import { writeApacheAliasRules, writeNginxRules, writeRuleData, writeRuleTable, writeStubPages } from './index.ts';

const nothing = new Set<string>();
const brief = ({ rules }: ReturnType<typeof readApacheRules>) =>
  rules.map(({ from, status, to }) => `${from} ${status}${to === undefined ? '' : ` ${to}`}`);

describe('Apache’s plain forms are read', () => {
  // The kinds of lines in the examples of the documentation of mod_alias and mod_rewrite, with other addresses.
  it.each([
    ['Redirect "/service" "https://two.example/service"', '/service 302 https://two.example/service'],
    ['Redirect permanent "/one" "https://two.example/two"', '/one 301 https://two.example/two'],
    ['RedirectPermanent /a.html /b/', '/a.html 301 /b/'],
    ['RedirectTemp /a.html /b/', '/a.html 302 /b/'],
    ['Redirect gone /never-again.html', '/never-again.html 410'],
    ['Redirect 410 /never-again.html', '/never-again.html 410'],
    ['RedirectMatch 301 ^/news/(.*)\\.php$ /journal/$1/', '/news/(.*).php 301 /journal/:0/'],
    ['RedirectMatch permanent "^/a\\.html$" "/b/#c"', '/a.html 301 /b/#c'],
    ['RewriteRule ^old/(\\d+)$ /new/$1 [R=301,L]', '/old/(\\d+) 301 /new/:0'],
    ['RewriteRule "^/Old$" "/new" [NC,R=permanent,L]', '/Old 301 /new'],
    ['RewriteRule ^gone\\.html$ - [G]', '/gone.html 410'],
    ['/café /caf%c3%a9/', '/caf%C3%A9 301 /caf%C3%A9/'],
  ])('%s', (line, rule) => {
    expect(brief(readApacheRules(line))).toEqual([rule]);
    expect(readApacheRules(line).notRead).toEqual([]);
  });

  it('a branch takes along what is below it', () => {
    expect(brief(readApacheRules('Redirect 301 /old/ /new/'))).toEqual(['/old/ 301 /new/', '/old/* 301 /new/:0']);
  });

  it('says line by line what it cannot read, and takes the rest', () => {
    const text = [
      '# comment',
      'RewriteEngine On',
      'RewriteCond %{HTTP_HOST} ^old',
      'RewriteRule ^x$ /y [R=301]',
      'RewriteRule ^a$ /b [L]',
      'RedirectMatch (.*)\\.gif$ /pictures$1.jpg',
      'Redirect 303 /c /d',
      'Redirect /e javascript:alert(1)',
      '<If "true">',
      'Redirect /f /g',
      '</If>',
      'Redirect "/h /i',
      'Options None',
      'Redirect 301 /j /k',
      'Redirect 301 /j /other',
    ];
    const reading = readApacheRules(text.join('\r\n'));
    expect(brief(reading)).toEqual(['/j 301 /k']);
    expect(reading.notRead.map(({ line }) => line)).toEqual([3, 4, 5, 6, 7, 8, 9, 10, 12, 13, 15]);
    expect(reading.notRead.find(({ line }) => line === 15)?.why).toEqual(
      unread('first-counts', { line: 14, from: '/j' }),
    );
  });
});

describe('nginx’s plain forms are read', () => {
  it.each([
    ['location = /old { return 301 /new; }', '/old 301 /new'],
    ['location = /old.html {\n  return 410;\n}', '/old.html 410'],
    ['location /shop/ { return 302 https://shop.example/; }', '/shop/* 302 https://shop.example/'],
    ['location ~* "^/news/(\\d{4})/" { return 301 /archive/$1/; }', '/news/(\\d{4})/* 301 /archive/:0/'],
    ['rewrite ^/users/(.*)$ /people/$1/ permanent;', '/users/(.*) 301 /people/:0/'],
    ['rewrite ^/a\\.html$ /b/? redirect;', '/a.html 302 /b/'],
    ['map $uri $new { default ""; "/with space" /there/; }', '/with%20space 301 /there/'],
    ['/plain/line.php /there/;', '/plain/line.php 301 /there/'],
    ['server { location = /x { return 301 /y$is_args$args; } }', '/x 301 /y'],
  ])('%s', (text, rule) => {
    expect(brief(readNginxRules(text))).toEqual([rule]);
    expect(readNginxRules(text).notRead).toEqual([]);
  });

  it('says line by line what it cannot read, and takes the rest', () => {
    const reading = readNginxRules(
      'if ($host = a) {\n return 301 /b;\n}\nlocation = /x {\n return 301 $scheme://a$request_uri;\n}\nrewrite ^/y$ /z last;\nlocation = /k { return 301 /l; }\nproxy_pass http://a;\nlocation = /open {',
    );
    expect(brief(reading)).toEqual(['/k 301 /l']);
    expect(reading.notRead.map(({ line }) => line)).toEqual([1, 4, 7, 9, 10]);
  });
});

it('whatever is read, it is read to an end and never as a rule that cannot be kept', () => {
  const piece = fc.constantFrom(
    'Redirect ',
    'RewriteRule ',
    '301 ',
    '/a',
    '^',
    '$',
    '(',
    ')',
    '.*',
    '"',
    '\\',
    ' ',
    '\n',
    '{',
    '}',
    ';',
    'return ',
    'location ',
    'map ',
    '%',
    '[R]',
    'https://x.example',
    ':1',
    '\0',
    'é',
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 40 }), (pieces) => {
      for (const { rules } of [readApacheRules(pieces.join('')), readNginxRules(pieces.join(''))]) {
        indexRules(
          rules.map(({ from, status, to, isPattern, ignoreCase }) => ({
            from,
            status,
            ...(to === undefined ? {} : { to }),
            ...(isPattern ? { isPattern } : {}),
            ...(ignoreCase ? { ignoreCase } : {}),
          })),
        );
        for (const { to } of rules) expect(to === undefined || /^(?:\/(?!\/)|https?:\/\/)/.test(to)).toBe(true);
      }
    }),
  );
});

describe('tables', () => {
  const address = fc
    .array(fc.constantFrom('a', 'B', 'caf%C3%A9', 'x.html', '%20'), { minLength: 1, maxLength: 3 })
    .map((parts) => `/${parts.join('/')}`);
  const rule = fc
    .record({
      from: address,
      status: fc.constantFrom(...REDIRECT_STATUSES),
      to: address,
      dropsQuery: fc.boolean(),
      ignoreCase: fc.boolean(),
    })
    .map(({ from, status, to, dropsQuery, ignoreCase }): Rule => ({
      from,
      status,
      ...(status === 410 ? {} : { to }),
      ...(dropsQuery ? { dropsQuery } : {}),
      ...(ignoreCase ? { ignoreCase } : {}),
    }));

  it('written and read again say the same', () => {
    fc.assert(
      fc.property(fc.uniqueArray(rule, { selector: ({ from }) => from, maxLength: 8 }), (rules) => {
        const again = readRuleTable(writeRuleTable(rules));
        expect(again?.notRead).toEqual([]);
        expect(
          again?.rules.map(({ from, status, to, dropsQuery, ignoreCase }) => ({
            from,
            status,
            ...(to === undefined ? {} : { to }),
            ...(dropsQuery ? { dropsQuery } : {}),
            ...(ignoreCase ? { ignoreCase } : {}),
          })),
        ).toEqual(rules);
      }),
    );
  });

  it('with other names, without any, and with the wrong ones', () => {
    expect(
      readRuleTable([
        ['Status', 'New', 'Old'],
        ['', '/b', '/a'],
      ])?.rules,
    ).toMatchObject([{ from: '/a', to: '/b', status: 301, line: 2 }]);
    expect(
      readRuleTable([
        ['/a', '/b'],
        ['/c', ''],
      ]),
    ).toMatchObject({ rules: [{ from: '/a' }], notRead: [{ line: 2 }] });
    expect(
      readRuleTable([
        ['Name', 'Price'],
        ['Lamp', '3'],
      ]),
    ).toBeUndefined();
    expect(
      readRuleTable([
        ['From', 'Weight'],
        ['/a', '3'],
      ]),
    ).toBeUndefined();
    expect(readRuleTable([])).toBeUndefined();
  });
});

describe('what a form cannot say is told', () => {
  it('stub pages', () => {
    const rules: Rule[] = [
      { from: '/a', status: 301, to: '/b?x=1&y="' },
      { from: '/c.php', status: 301, to: '/d' },
      { from: '/e/', status: 410 },
      { from: '/?p=1', status: 301, to: '/f' },
      { from: '/live/', status: 301, to: '/g' },
      { from: '/*', status: 301, to: '/:0', isPattern: true },
    ];
    const { files, leftOut } = writeStubPages(
      rules,
      [{ from: '/known.html', to: '/there' }],
      new Set(['live/index.html']),
    );
    expect(files.map(({ name }) => name)).toEqual(['a/index.html', 'known.html']);
    expect(leftOut.map(({ from }) => from)).toEqual(['/c.php', '/e/', '/?p=1', '/live/']);
    // Read by the HTML standard's own rules, the target is what was meant.
    const text = files[0]?.text ?? '';
    expect(
      JSON.stringify(parseHtml(text), (key, value: unknown) => (key === 'parentNode' ? undefined : value)),
    ).toContain(JSON.stringify({ name: 'content', value: '0; url=/b?x=1&y="' }));
  });

  it('nginx remembers nine groups, and mod_alias no file of another name', () => {
    const many = `/${Array.from({ length: 10 }, (_, n) => `:p${n}`).join('/')}`;
    expect(writeNginxRules([{ from: many, status: 301, to: '/:p9', isPattern: true }]).leftOut).toHaveLength(1);
    expect(writeApacheAliasRules([{ from: '/a', status: 200, to: '/a.html' }], nothing).leftOut).toHaveLength(1);
  });

  it('data holds each rule with its options', () => {
    expect(
      writeRuleData([
        { from: '/a', status: 301, to: '/b', anySlash: true },
        { from: '/x/*', status: 410, isPattern: true },
        { from: '/f', status: 200, to: '/f.html' },
      ]),
    ).toEqual([
      { from: '/a', status: 301, to: '/b', query: 'kept', letterCase: 'exact', lastSlash: 'any' },
      { pattern: '/x/*', status: 410, query: 'kept', letterCase: 'exact', lastSlash: 'exact' },
    ]);
  });
});

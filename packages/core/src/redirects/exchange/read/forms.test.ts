/**
 * Redirects of other programs, form by form. Sources: Apache HTTP Server 2.4 documentation, mod_alias (Redirect,
 * RedirectMatch) and mod_rewrite (RewriteRule flags); nginx documentation, ngx_http_map_module, ngx_http_rewrite_module
 * (return, rewrite) and "location".
 */
import { describe, expect, it } from 'vitest';
import { readApacheRules, readNginxRules } from './index.ts';

const shown = ({ rules, notRead }: ReturnType<typeof readApacheRules>) => [
  ...rules.map(({ from, status, to, isPattern, ignoreCase, dropsQuery, line }) =>
    [`${line}:`, from, status, to, isPattern && 'pattern', ignoreCase && 'any case', dropsQuery && 'no query']
      .filter((each) => each !== undefined && each !== false)
      .join(' '),
  ),
  ...notRead.map(({ line, why }) => `${line}! ${why.code.replace('unread.', '')}`),
];

describe('Apache’s lines', () => {
  it.each<[string, string[]]>([
    ['Redirect /a /b', ['1: /a 302 /b']],
    ['REDIRECT temp /a /b', ['1: /a 302 /b']],
    ['Redirect Permanent /a /b', ['1: /a 301 /b']],
    ['Redirect seeother /a /b', ['1! status-unknown']],
    ['Redirect 307 /a /b', ['1: /a 307 /b']],
    ['Redirect 308 / https://x.example/', ['1: / 308 https://x.example/']],
    ['Redirect 301 /a/ /b/?c', ['1: /a/ 301 /b/?c']],
    ['Redirect 301 /a/ /b/#c', ['1: /a/ 301 /b/#c']],
    ['Redirect gone /a/', ['1: /a/ 410', '1: /a/* 410 pattern']],
    ['Redirect 301 /a*b/ /c:d/', ['1: /a*b/ 301 /c:d/', '1: /a\\*b/* 301 /c\\:d/:0 pattern']],
    ['Redirect 301 a /b', ['1! no-slash']],
    ['RedirectMatch ^/a$ /b', ['1: /a 302 /b']],
    ['RedirectMatch 410 ^/a/', ['1: /a/* 410 pattern']],
    ['RedirectMatch 301 ^/a$ /b?', ['1: /a 301 /b no query']],
    ['RedirectMatch 301 ^/a/(.*)$ /b/$1?', ['1: /a/(.*) 301 /b/:0 pattern no query']],
    ['RewriteRule ^/a$ /b [R]', ['1: /a 302 /b']],
    ['RewriteRule ^/a$ /b [redirect=permanent]', ['1: /a 301 /b']],
    ['RewriteRule ^/a$ /b [R=308,nocase,qsdiscard]', ['1: /a 308 /b any case no query']],
    ['RewriteRule ^/a$ - [gone]', ['1: /a 410']],
    ['RewriteRule ^/a$ /b [L]', ['1! sends-nowhere']],
    ['RewriteRule ^/a$ /b', ['1! sends-nowhere']],
    ['RewriteRule ^/a$ /%1 [R]', ['1! target-variables']],
    ['RewriteRule ^/a$ /%{HTTP_HOST} [R]', ['1! target-variables']],
    ['RewriteRule (?=a) /b [R]', ['1! beyond-groups']],
    ['/a /b', ['1: /a 301 /b']],
    ['https://old.example/a /b', ['1: /a 301 /b']],
    ['/a /b /c', ['1! no-redirect']],
    ['a /b', ['1! no-redirect']],
    ['Redirect "/a \\"b\\"" "/c"', ['1: /a%20%22b%22 302 /c']],
    ['Redirect "/a /b', ['1! quotation-open']],
    [
      'RewriteEngine on\nRewriteBase /\nRewriteOptions x\nRewriteMap a b\n<IfModule mod_alias.c>\nRedirect /a /b\n</IfModule>',
      ['6: /a 302 /b'],
    ],
    ['<If "x">\nRedirect /a /b\n</If>\nRedirect /c /d', ['4: /c 302 /d', '1! for-some-requests', '2! in-section']],
    [
      '<If "x">\n<Files y>\n</Files>\nRedirect /a /b\n</If>\nRedirect /c /d',
      ['6: /c 302 /d', '1! for-some-requests', '2! for-some-requests', '4! in-section'],
    ],
    ['</If>\nRedirect /c /d', ['2: /c 302 /d']],
    [
      'RewriteCond x y\nRewriteRule ^/a$ /b [R]\nRewriteRule ^/c$ /d [R]',
      ['3: /c 302 /d', '1! condition', '2! under-condition'],
    ],
    ['RewriteCond x y\nRedirect /a /b\nRewriteRule ^/c$ /d [R]', ['2: /a 302 /b', '3: /c 302 /d', '1! condition']],
  ])('%j', (text, expected) => expect(shown(readApacheRules(text)).sort()).toEqual([...expected].sort()));
});

describe('nginx’s forms', () => {
  it.each<[string, string[]]>([
    [
      'map $uri $x { /a /b; ~^/c$ /d; "~*^/E$" /f; \\~g /h; default /; include x; }',
      ['1: /a 301 /b', '1: /c 301 /d', '1: /E 301 /f any case', '1: /~g 301 /h'],
    ],
    ['map $uri $x { /a $y; }', ['1! target-variables']],
    ['http { server { location = /a { return 301 /b; } } }', ['1: /a 301 /b no query']],
    ['location = /a { return 302 /b$is_args$args; }', ['1: /a 302 /b']],
    ['location = /a { return /b; }', ['1: /a 302 /b no query']],
    ['location = /a { return 410; }', ['1: /a 410']],
    ['location = /a { return 301 /$host; }', ['1! target-variables']],
    ['location /a/ { return 301 /b; }', ['1: /a/* 301 /b pattern no query']],
    ['location ^~ /a { return 308 /b; }', ['1: /a* 308 /b pattern no query']],
    ['location ~ ^/a/(\\d+)$ { return 301 /b/$1; }', ['1: /a/(\\d+) 301 /b/:0 pattern no query']],
    ['location ~* ^/a/(\\d+)$ { return 301 /b/$1$is_args$args; }', ['1: /a/(\\d+) 301 /b/:0 pattern any case']],
    ['location @a { return 301 /b; }', ['1! named-location']],
    ['location = /a { return 301 /b; return 302 /c; }', ['1! more-than-return']],
    ['location = /a { add_header x y; return 301 /b; }', ['1! more-than-return']],
    ['location = /a { rewrite ^ /b permanent; }', ['1! more-than-return']],
    ['location = /a { root /x; }', ['1! more-than-return']],
    ['rewrite ^/a$ /b permanent;', ['1: /a 301 /b']],
    ['rewrite ^/a$ /b? redirect;', ['1: /a 302 /b no query']],
    ['rewrite ^/a/(.*)$ /b/$1? permanent;', ['1: /a/(.*) 301 /b/:0 pattern no query']],
    ['rewrite ^/a$ /b last;', ['1! sends-nowhere']],
    ['rewrite ^/a$ /$host permanent;', ['1! target-variables']],
    ['rewrite (?=a) /b permanent;', ['1! beyond-groups']],
    ['if ($x) { return 301 /b; }', ['1! for-some-requests']],
    ['listen 80; server_name x; root /y; index z; hostnames; volatile;', []],
    ['proxy_pass http://x;', ['1! no-redirect']],
    ['# a comment { ;\n/a /b; # more\n"/c d" "/e";', ['2: /a 301 /b', '3: /c%20d 301 /e']],
    ['/a /b', ['1! no-semicolon']],
    ['}', ['1! brace-without']],
    ['/a /b;\nlocation = /c {\n return 301 /d;', ['1: /a 301 /b', '2! brace-open', '3! no-redirect']],
    [`${'server { '.repeat(9)}location = /a { return 301 /b; }${' }'.repeat(9)}`, ['1! blocks-deep']],
    [`${'server { '.repeat(7)}location = /a { return 301 /b; }${' }'.repeat(7)}`, ['1: /a 301 /b no query']],
  ])('%j', (text, expected) => expect(shown(readNginxRules(text)).sort()).toEqual([...expected].sort()));
});

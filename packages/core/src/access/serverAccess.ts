/**
 * Who may visit, as configuration of the two common servers. Addresses of a place nobody may visit yet answer 503, and
 * all of a site that has come down 410, with the page shown instead. Redirects are answered without a password, files
 * with it; nginx alone asks for it also where an old address lies in the branch itself, since it looks for files first.
 * Source: nginx documentation, ngx_http_map_module, ngx_http_auth_basic_module (variables in realm and user file since
 * 1.3.10) and ngx_http_core_module (error_page with a named location); Apache HTTP Server 2.4 documentation, mod_auth_basic,
 * mod_authn_file, mod_rewrite (S flag, R with a status outside 3xx) and core (LocationMatch, If). What they leave open was
 * tried on the servers themselves (apps/server/tests/peers/access.test.ts).
 */
import { stripAddressEnding, decodePath } from '../address/index.ts';
import { escapeExpression, quoteInDirective } from '../text/index.ts';
import { isRestricted, type AccessRule, type SiteAccess } from './access.ts';

export interface AccessFiles {
  readonly files: readonly { readonly name: string; readonly text: string }[];
}

const USERS = 'access-users-';
/** Statuses of our own inside nginx, so that pages for 410 and 503 which have other reasons stay theirs. */
const [CLOSED, OVER] = [478, 479];

/** `access-maps.conf` goes inside http behind the maps of redirects, `access-server.conf` inside server before everything else, the users beside nginx.conf. */
export function writeNginxAccess(access: SiteAccess): AccessFiles {
  if (!isRestricted(access)) return { files: [] };
  const nearestFirst = sortByNearness(access.rules);
  const numbered = new Map(nearestFirst.map((rule, index) => [rule, index + 1]));
  const value = (rule: AccessRule) => (rule.entry.kind === 'password' ? String(numbered.get(rule)) : rule.entry.kind);
  const passwords = nearestFirst.filter(({ entry }) => entry.kind === 'password');
  const site = nearestFirst.find(({ branch }) => branch === '/');
  const instead = access.instead ? quoteInDirective(`/${access.instead.page}`) : undefined;
  const maps = [
    'map $uri $visitors {',
    `  default ${site ? value(site) : 'everyone'};`,
    ...openPaths(access).map((path) => `  ${quoteInDirective(path)} everyone;`),
    ...nearestFirst
      .filter(({ branch }) => branch !== '/')
      .map((rule) => `  ${quoteInDirective(`~${writePaths(rule)}`)} ${value(rule)};`),
    '}',
    'map $visitors $visitors_realm {',
    '  default off;',
    ...passwords.map((rule) => `  ${value(rule)} ${quoteInDirective(nameRealm(rule))};`),
    '}',
    'map $visitors $visitors_closed {',
    '  default 0;',
    '  nobody 1;',
    '}',
    ...(access.lastDay === undefined
      ? []
      : [
          '# By the clock and the time zone of this server.',
          'map $time_iso8601 $visitors_day_over {',
          '  default 0;',
          `  ${quoteInDirective(`~^(?:${writeDaysAfter(access.lastDay)})`)} 1;`,
          '}',
          'map $uri $visitors_over {',
          '  default $visitors_day_over;',
          ...openPaths(access).map((path) => `  ${quoteInDirective(path)} 0;`),
          '}',
        ]),
    '',
  ];
  const server = [
    ...(access.lastDay === undefined ? [] : [`if ($visitors_over) { return ${OVER}; }`]),
    `if ($visitors_closed) { return ${CLOSED}; }`,
    `error_page ${CLOSED} =503 @shown_instead_for_now;`,
    `error_page ${OVER} =410 @shown_instead;`,
    ...['@shown_instead_for_now', '@shown_instead'].map(
      (name) =>
        `location ${name} { auth_basic off; ${instead === undefined ? `return ${name === '@shown_instead' ? 410 : 503};` : `rewrite ^ ${instead} break;`} }`,
    ),
    ...(passwords.length === 0 ? [] : ['auth_basic $visitors_realm;', `auth_basic_user_file ${USERS}$visitors;`]),
    '',
  ];
  return {
    files: [
      { name: 'access-maps.conf', text: maps.join('\n') },
      { name: 'access-server.conf', text: server.join('\n') },
      ...passwords.map((rule) => ({ name: `${USERS}${value(rule)}`, text: writeUserLine(rule) })),
    ],
  };
}

/** `access.conf` goes inside VirtualHost, before redirects; it looks for the users in the folder that ACCESS_USERS names. */
export function writeApacheAccess(access: SiteAccess): AccessFiles {
  if (!isRestricted(access)) return { files: [] };
  const nearestFirst = sortByNearness(access.rules);
  const open = openPaths(access);
  const passwords = nearestFirst.filter(({ entry }) => entry.kind === 'password');
  const closes = nearestFirst.some(({ entry }) => entry.kind === 'nobody');
  const isOpen = open.length === 0 ? undefined : `^(?:${open.map(literal).join('|')})$`;
  const isAfterLastDay =
    access.lastDay === undefined
      ? undefined
      : `'%{TIME_YEAR}%{TIME_MON}%{TIME_DAY}' -gt '${access.lastDay.replaceAll('-', '')}'`;
  const lines = [
    '# Who may visit: include this file inside <VirtualHost>, before redirects. It needs mod_auth_basic, mod_authn_file, mod_authz_user, mod_rewrite and mod_alias.',
    ...(closes
      ? [
          'RewriteEngine On',
          ...(isAfterLastDay === undefined
            ? []
            : [
                `RewriteCond expr ${quoteInDirective(isAfterLastDay)}`,
                `RewriteRule "^" "-" [S=${nearestFirst.length + (isOpen === undefined ? 0 : 1)}]`,
              ]),
          // Each rule of a nearer branch jumps over those of the branches around it.
          ...(isOpen === undefined ? [] : [`RewriteRule ${rewriteQuoted(isOpen)} "-" [S=${nearestFirst.length}]`]),
          ...nearestFirst.map((rule, index) =>
            rule.entry.kind === 'nobody'
              ? `RewriteRule ${rewriteQuoted(writePaths(rule))} "-" [R=503,L]`
              : `RewriteRule ${rewriteQuoted(writePaths(rule))} "-" [S=${nearestFirst.length - 1 - index}]`,
          ),
          ...(access.instead ? [`ErrorDocument 503 ${quoteInDirective(`/${access.instead.page}`)}`] : []),
        ]
      : []),
    // A later section takes the place of an earlier one, so the nearest comes last.
    ...[...nearestFirst]
      .reverse()
      .flatMap((rule) => [
        `<LocationMatch ${quoteInDirective(writePaths(rule))}>`,
        ...(rule.entry.kind === 'password'
          ? [
              '  AuthType Basic',
              `  AuthName ${quoteInDirective(nameRealm(rule))}`,
              '  AuthBasicProvider file',
              `  AuthUserFile "\${ACCESS_USERS}/${USERS}${passwords.indexOf(rule) + 1}"`,
              '  Require valid-user',
            ]
          : ['  AuthType None', '  Require all granted']),
        '</LocationMatch>',
      ]),
    ...(isOpen === undefined
      ? []
      : [
          `<LocationMatch ${quoteInDirective(isOpen)}>`,
          '  AuthType None',
          '  Require all granted',
          '</LocationMatch>',
        ]),
    ...(access.lastDay === undefined
      ? []
      : [
          '# By the clock and the time zone of this server.',
          `<If ${quoteInDirective(`${isAfterLastDay ?? ''}${isOpen === undefined ? '' : ` && %{REQUEST_URI} !~ m#${isOpen}#`}`)}>`,
          ...(access.instead ? [`  ErrorDocument 410 ${quoteInDirective(`/${access.instead.page}`)}`] : []),
          '  AuthType None',
          '  Require all granted',
          '  Redirect gone "/"',
          '</If>',
        ]),
    '',
  ];
  return {
    files: [
      { name: 'access.conf', text: lines.join('\n') },
      ...passwords.map((rule, index) => ({ name: `${USERS}${index + 1}`, text: writeUserLine(rule) })),
    ],
  };
}

function sortByNearness(rules: readonly AccessRule[]): AccessRule[] {
  return [...rules].sort(
    (a, b) =>
      stripAddressEnding(b.branch).length - stripAddressEnding(a.branch).length || (a.branch < b.branch ? -1 : 1),
  );
}

/** Paths of the branch as servers compare them, decoded: the page in whatever style, and everything below it. */
function writePaths({ branch }: AccessRule): string {
  if (branch === '/') return '^/';
  const stem = stripAddressEnding(branch);
  return `^${literal(decodePath(stem) ?? stem)}(?:/|\\.html?$|$)`;
}

/** Both the file and the folder it is the page of. */
function openPaths({ instead }: SiteAccess): string[] {
  return instead === undefined
    ? []
    : [...new Set([instead.page, ...instead.files])].flatMap((file) =>
        /(^|\/)index\.html?$/.test(file) ? [`/${file}`, `/${file.slice(0, file.lastIndexOf('/') + 1)}`] : [`/${file}`],
      );
}

/** Shown by browsers when they ask; a quoted string (RFC 9110 section 5.6.4). */
export function nameRealm({ branch }: Pick<AccessRule, 'branch'>): string {
  return branch === '/' ? 'This site' : branch;
}

/** `$2y$` is the mark of the same algorithm that Apache's own library reads; the C library of most systems reads both. */
function writeUserLine({ entry }: AccessRule): string {
  return entry.kind === 'password' ? `${entry.user}:${entry.hash.replace(/^\$2[ab]\$/, '$2y$')}\n` : '';
}

/** A pattern for the days after one, as ISO 8601 writes them. */
function writeDaysAfter(day: string): string {
  const digits = [...day];
  const greater = digits.flatMap((digit, at) =>
    digit === '-' || digit === '9' ? [] : [`${digits.slice(0, at).join('')}[${String(Number(digit) + 1)}-9]`],
  );
  return greater.join('|');
}

/** mod_rewrite reads its own lines: a backslash stands for itself, and the first quotation mark ends the pattern. */
const rewriteQuoted = (text: string): string => `"${text.replaceAll('"', '\\x22')}"`;
/** A number sign would begin a comment. */
const literal = (text: string): string => escapeExpression(text).replaceAll('#', '\\#');

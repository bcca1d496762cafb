/**
 * Files that keep visitors out, letter by letter as the core's tests hold them (packages/core/testdata/access), started
 * in a real nginx and a real Apache (Debian's packages). Statuses: RFC 9110, sections 15.5.2, 15.5.11 and 15.6.4.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeApacheMapRules, writeNginxRules, type ExportedFile } from '@fastigium/core/redirects/exchange';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { temporaryFolder } from './processes.ts';
import { startApache, startNginx, writeFiles, type WebServer } from './webServers.ts';

const SITE = [
  'index.html',
  'about.html',
  'soon.html',
  'soon/index.html',
  'soon/soon.css',
  'soon/more.html',
  'membership/index.html',
  'members/index.html',
  'members/list.csv',
  'members/open/index.html',
  'members/opening/index.html',
  'café "x"/a.b/index.html',
  'café "x"/aXb/index.html',
];
/** The local day, as both servers see it. */
const today = new Date().toLocaleDateString('sv-SE');
const isOver = today > '2027-03-31';
/** Where a last day is said, nobody gets anything behind it. */
const untilThen = (status: number) => (isOver ? 410 : status);

function kept(name: string): ExportedFile[] {
  const text = readFileSync(new URL(`../../../../packages/core/testdata/access/${name}.txt`, import.meta.url), 'utf8');
  return text
    .split(/^--- /m)
    .slice(1)
    .map((part) => ({ name: part.slice(0, part.indexOf('\n')), text: part.slice(part.indexOf('\n') + 1) }));
}

/** Each address with its status, and the file whose text is shown where it is not the address's own. */
const CASES: readonly [string, readonly [string, number, string?][]][] = [
  [
    'branch',
    [
      ['/', 200],
      ['/membership/', 200],
      ['/members/', 401],
      ['/members/list.csv', 401],
      ['/members/nothing', 401],
      ['/members/open/', 200],
      ['/members/opening/', 401],
      ['/%6dembers/list.csv', 401],
      ['/nothing', 404],
    ],
  ],
  [
    'closed',
    [
      ['/', untilThen(503), 'soon/index.html'],
      ['/about.html', untilThen(503), 'soon/index.html'],
      ['/nothing', untilThen(503), 'soon/index.html'],
      ['/soon/', 200],
      ['/soon/soon.css', 200],
      ['/soon/more.html', untilThen(503), 'soon/index.html'],
      ['/members/', untilThen(401)],
      ['/members/open/', untilThen(200)],
    ],
  ],
  [
    'day',
    [
      ['/', untilThen(200)],
      ['/members/', untilThen(200)],
      ['/nothing', untilThen(404)],
    ],
  ],
  [
    'quoted',
    [
      ['/', 401],
      ['/soon.html', 200],
      ['/caf%C3%A9%20%22x%22/a.b/', 503, 'soon.html'],
      ['/caf%C3%A9%20%22x%22/aXb/', 401],
      ['/nothing', 401],
    ],
  ],
];

describe.each(CASES)('who can visit, as it is kept: %s', (name, asked) => {
  let folder: Awaited<ReturnType<typeof temporaryFolder>>;
  const servers: WebServer[] = [];
  beforeAll(async () => {
    folder = await temporaryFolder('access-files');
    const { path } = folder;
    await writeFiles(
      join(path, 'site'),
      SITE.map((file) => ({ name: file, text: file })),
    );
    const nginx = kept(`${name}.nginx`);
    const apache = kept(`${name}.apache`);
    await writeFiles(join(path, 'nginx'), nginx);
    // nginx looks for the files of passwords beside its configuration.
    await writeFiles(
      path,
      nginx.filter((file) => file.name.startsWith('access-users-')),
    );
    await writeFiles(join(path, 'apache'), apache);
    servers.push(await startNginx(path, writeNginxRules([]).files, ['access-server.conf'], ['access-maps.conf']));
    servers.push(await startApache(path, 'apache', writeApacheMapRules([]).files, false, ['access.conf']));
  });
  afterAll(async () => {
    for (const server of servers) await server.stop();
    await folder.remove();
  });

  it('is held by both servers', async () => {
    for (const [path, status, instead] of asked) {
      const answers = await Promise.all(servers.map((server) => server.whole(path)));
      expect([path, ...answers.map((answer) => answer.status)]).toEqual([path, status, status]);
      const shown = instead ?? (status === 200 ? fileAt(path) : undefined);
      if (shown !== undefined)
        expect([path, ...answers.map(({ body }) => body.toString())]).toEqual([path, shown, shown]);
    }
  });
});

function fileAt(path: string): string {
  const file = decodeURIComponent(path.slice(1));
  return file === '' || file.endsWith('/') ? `${file}index.html` : file;
}

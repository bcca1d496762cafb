/** nginx and Apache with exported rules, on free loopback ports, in front of a folder of files. */
import { chmod, mkdir, writeFile } from 'node:fs/promises';
import { Agent, request, type IncomingHttpHeaders } from 'node:http';
import { userInfo } from 'node:os';
import { dirname, join } from 'node:path';
import type { ExportedFile } from '@fastigium/core/redirects/exchange';
import { freePort, listens, startPeer } from './processes.ts';

export interface WebServer {
  ask(path: string): Promise<Asked>;
  /** With headers and body. */
  whole(
    path: string,
    headers?: Readonly<Record<string, string>>,
  ): Promise<{ readonly status: number; readonly headers: IncomingHttpHeaders; readonly body: Buffer }>;
  stop(): Promise<void>;
}

export interface Asked {
  readonly status: number;
  /** Of this server where it names itself: the address alone. */
  readonly location: string | undefined;
}

const isRoot = userInfo().uid === 0;

export async function writeFiles(folder: string, files: readonly ExportedFile[]): Promise<void> {
  for (const { name, text } of files) {
    const path = join(folder, name);
    await mkdir(dirname(path), { recursive: true });
    await writeFile(path, text);
  }
}

/** @param more files that are included before the rules, inside server { } @param maps and those behind the rules' maps, inside http { } */
export async function startNginx(
  folder: string,
  rules: readonly ExportedFile[],
  more: readonly string[] = [],
  maps: readonly string[] = [],
): Promise<WebServer> {
  const port = await freePort();
  await writeFiles(join(folder, 'nginx'), rules);
  const config = join(folder, 'nginx.conf');
  await writeFile(
    config,
    `daemon off; pid ${folder}/nginx.pid; error_log stderr; ${isRoot ? 'user root;' : ''} events {} http { access_log off; large_client_header_buffers 8 32k;
    client_body_temp_path ${folder}/b; proxy_temp_path ${folder}/p; fastcgi_temp_path ${folder}/f; uwsgi_temp_path ${folder}/u; scgi_temp_path ${folder}/s;
    include ${folder}/nginx/redirects-maps.conf; ${maps.map((file) => `include ${folder}/nginx/${file};`).join(' ')}
    server { listen 127.0.0.1:${port}; root ${folder}/site; ${more.map((file) => `include ${folder}/nginx/${file};`).join(' ')} include ${folder}/nginx/redirects-server.conf; } }`,
  );
  return served(await startPeer('/usr/sbin/nginx', ['-p', folder, '-c', config], () => listens(port)), port);
}

const MODULES = [
  'mpm_event',
  'authn_core',
  'authn_file',
  'authz_core',
  'authz_user',
  'auth_basic',
  'alias',
  'rewrite',
  'dir',
  'mime',
  'headers',
];

/** @param inFolder the rules are the settings file of the site's folder; else the host's configuration */
export async function startApache(
  folder: string,
  name: string,
  rules: readonly ExportedFile[],
  inFolder: boolean,
  more: readonly string[] = [],
): Promise<WebServer> {
  const port = await freePort();
  const own = join(folder, name);
  await writeFiles(own, rules);
  await chmod(folder, 0o755);
  const config = join(own, 'apache.conf');
  await writeFile(
    config,
    [
      'ServerRoot /usr/lib/apache2',
      `Listen 127.0.0.1:${port}`,
      'ServerName localhost',
      `PidFile ${own}/pid`,
      `ErrorLog ${own}/errors`,
      `DefaultRuntimeDir ${own}`,
      'TypesConfig /etc/mime.types',
      'LimitRequestLine 32768',
      ...(isRoot ? ['User nobody'] : []),
      ...MODULES.map((module) => `LoadModule ${module}_module modules/mod_${module}.so`),
      `DocumentRoot ${folder}/site`,
      `Define ACCESS_USERS ${own}`,
      inFolder ? 'AccessFileName redirects.htaccess' : `Define REDIRECTS_MAP ${own}/redirects.map`,
      `<Directory ${folder}/site>`,
      `AllowOverride ${inFolder ? 'All' : 'None'}`,
      'Require all granted',
      '</Directory>',
      ...(inFolder
        ? []
        : [
            `<VirtualHost 127.0.0.1:${port}>`,
            `DocumentRoot ${folder}/site`,
            ...more.map((file) => `Include ${own}/${file}`),
            `Include ${own}/redirects.conf`,
            '</VirtualHost>',
          ]),
      '',
    ].join('\n'),
  );
  if (inFolder) await writeFiles(join(folder, 'site'), rules);
  return served(await startPeer('/usr/sbin/apache2', ['-DFOREGROUND', '-f', config], () => listens(port)), port);
}

function served(peer: { stop(): Promise<void> }, port: number): WebServer {
  const agent = new Agent({ keepAlive: true, maxSockets: 16 });
  const own = `http://127.0.0.1:${port}`;
  return {
    ask: (path) =>
      new Promise((resolve, reject) => {
        request({ host: '127.0.0.1', port, path, agent }, (answer) => {
          const { location } = answer.headers;
          answer.resume().on('end', () =>
            resolve({
              status: answer.statusCode ?? 0,
              location: location?.startsWith(own) ? location.slice(own.length) : location,
            }),
          );
        })
          .on('error', reject)
          .end();
      }),
    whole: (path, headers = {}) =>
      new Promise((resolve, reject) => {
        request({ host: '127.0.0.1', port, path, agent, headers: { ...headers } }, (answer) => {
          const pieces: Buffer[] = [];
          answer
            .on('data', (piece: Buffer) => pieces.push(piece))
            .on('end', () =>
              resolve({ status: answer.statusCode ?? 0, headers: answer.headers, body: Buffer.concat(pieces) }),
            );
        })
          .on('error', reject)
          .end();
      }),
    async stop() {
      agent.destroy();
      await peer.stop();
    },
  };
}

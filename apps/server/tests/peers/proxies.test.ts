/**
 * As a team runs it: two processes of the built server on one database, without stand-ins, behind Debian's nginx and
 * HAProxy with TLS from an authority of our own, asked by curl over HTTP/2.
 */
import { execFile, fork, spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { chmod, mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { promisify } from 'node:util';
import { userInfo } from 'node:os';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { connect } from '../../src/db/database.ts';
import { freshDatabase, OWNER, SMALL_SITE, zip } from '../harness.ts';
import { freePort, listens, startPeer, temporaryFolder } from './processes.ts';

const run = promisify(execFile);
const NAME = 'fastigium.test';
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
let database: Awaited<ReturnType<typeof freshDatabase>>;
const ends: (() => Promise<unknown>)[] = [];
const ports = { nginx: 0, haproxy: 0 };
const processes: { child: ChildProcess; port: number; previewPort: number }[] = [];

/** An authority of our own, and a certificate for both names. */
async function makeCertificates(path: string): Promise<void> {
  const openssl = (...args: string[]) => run('openssl', args, { cwd: path });
  await openssl(
    ...['req', '-x509', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:P-256', '-nodes', '-days', '2'],
    ...['-subj', '/CN=Test authority', '-keyout', 'ca.key', '-out', 'ca.pem'],
  );
  await openssl(
    ...['req', '-newkey', 'ec', '-pkeyopt', 'ec_paramgen_curve:P-256', '-nodes', '-subj', `/CN=${NAME}`],
    ...['-keyout', 'server.key', '-out', 'server.csr'],
  );
  await writeFile(join(path, 'names'), `subjectAltName=DNS:${NAME},DNS:*.previews.test`);
  await openssl(
    ...['x509', '-req', '-in', 'server.csr', '-CA', 'ca.pem', '-CAkey', 'ca.key', '-CAcreateserial', '-days', '2'],
    ...['-extfile', 'names', '-out', 'server.pem'],
  );
  await writeFile(
    join(path, 'both.pem'),
    Buffer.concat([await readFile(join(path, 'server.pem')), await readFile(join(path, 'server.key'))]),
  );
}

async function startServer(): Promise<(typeof processes)[number]> {
  const [port, previewPort] = [await freePort(), await freePort()];
  const child = fork(inject('serverFile'), [], {
    execArgv: [],
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    env: {
      PATH: process.env.PATH,
      FASTIGIUM_DATABASE_URL: database.url,
      FASTIGIUM_SECRET: 's'.repeat(40),
      FASTIGIUM_SEAL_KEY: '5e'.repeat(32),
      FASTIGIUM_PORT: String(port),
      FASTIGIUM_PREVIEW_PORT: String(previewPort),
      FASTIGIUM_PUBLIC_URL: `https://${NAME}`,
      FASTIGIUM_PREVIEW_URL: 'https://*.previews.test',
      FASTIGIUM_TRUST_PROXY: '1',
      FASTIGIUM_HOST_FOLDERS: join(folder.path, 'sites'),
      FASTIGIUM_JOB_LEASE_SECONDS: '3',
      FASTIGIUM_LOG_LEVEL: 'silent',
    },
  });
  await new Promise<void>((resolve, reject) => {
    child.once('message', () => resolve());
    child.once('exit', (code) => reject(new Error(`the server ended while starting: ${code}`)));
  });
  return { child, port, previewPort };
}

async function kill({ child }: { child: ChildProcess }): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await ended;
}

const sample = (name: string) => readFile(new URL(`../../../../deploy/${name}`, import.meta.url), 'utf8');

/** A sample of deploy/, word by word but for names, ports and where certificates lie. */
async function asHere(name: string, port: number, files: Readonly<Record<string, string>>): Promise<string> {
  const [one, two] = processes;
  const places: Readonly<Record<string, string>> = {
    '127.0.0.1:4300': `127.0.0.1:${one?.port}`,
    '127.0.0.1:4310': `127.0.0.1:${two?.port}`,
    '127.0.0.1:4301': `127.0.0.1:${one?.previewPort}`,
    '127.0.0.1:4311': `127.0.0.1:${two?.previewPort}`,
    'listen 443': `listen 127.0.0.1:${port}`,
    'bind :443': `bind 127.0.0.1:${port}`,
    'fastigium.example': NAME,
    'previews.example': 'previews.test',
    'inter 1s': 'inter 200ms',
    ...files,
  };
  let text = await sample(name);
  for (const [from, to] of Object.entries(places)) text = text.replaceAll(from, to);
  expect(text).not.toMatch(/:43[01][01]\b|example/);
  return text;
}

const nginxConfig = async (path: string, port: number) => `daemon off; pid ${path}/nginx.pid; error_log stderr;
${userInfo().uid === 0 ? 'user root;' : ''} events {}
http {
  access_log off; client_body_temp_path ${path}/b; proxy_temp_path ${path}/p; fastcgi_temp_path ${path}/f; uwsgi_temp_path ${path}/u; scgi_temp_path ${path}/s;
  ${await asHere('nginx.conf', port, {
    '/etc/nginx/fastigium.pem': `${path}/server.pem`,
    '/etc/nginx/fastigium.key': `${path}/server.key`,
  })}
}`;

const haproxyConfig = async (path: string, port: number) => `global
  maxconn 200
${await asHere('haproxy.cfg', port, { '/etc/haproxy/fastigium.pem': `${path}/both.pem` })}`;

beforeAll(async () => {
  folder = await temporaryFolder('proxies');
  await chmod(folder.path, 0o755);
  await mkdir(join(folder.path, 'sites'));
  database = await freshDatabase();
  await makeCertificates(folder.path);
  processes.push(await startServer(), await startServer());
  [ports.nginx, ports.haproxy] = [await freePort(), await freePort()];
  const nginx = join(folder.path, 'nginx.conf');
  await writeFile(nginx, await nginxConfig(folder.path, ports.nginx));
  const peers = [await startPeer('/usr/sbin/nginx', ['-p', folder.path, '-c', nginx], () => listens(ports.nginx))];
  const haproxy = join(folder.path, 'haproxy.cfg');
  await writeFile(haproxy, await haproxyConfig(folder.path, ports.haproxy));
  peers.push(await startPeer('/usr/sbin/haproxy', ['-db', '-f', haproxy], () => listens(ports.haproxy)));
  ends.push(...peers.map((peer) => () => peer.stop()));
});
afterAll(async () => {
  for (const end of ends) await end();
  for (const each of processes) await kill(each);
  await database.drop();
  await folder.remove();
});

interface Heard {
  readonly status: number;
  readonly version: string;
  readonly body: string;
  readonly headers: string;
}

/** A browser's worth of curl: its own jar of cookies, the token, the authority. */
class Person {
  readonly #port: number;
  readonly #jar: string;
  #csrf = '';

  constructor(port: number, name: string) {
    this.#port = port;
    this.#jar = join(folder.path, `jar-${name}`);
  }

  args(path: string, host = NAME): string[] {
    return [
      ...['-s', '--http2', '--cacert', join(folder.path, 'ca.pem'), '-b', this.#jar, '-c', this.#jar],
      ...['--connect-to', `${host}:443:127.0.0.1:${this.#port}`, `https://${host}${path}`],
    ];
  }

  async ask(path: string, more: readonly string[] = [], host = NAME): Promise<Heard> {
    const { stdout } = await run(
      'curl',
      [...this.args(path, host), '-D', '-', '-w', '\n%{http_version} %{http_code}', ...more],
      {
        maxBuffer: 64 * 1024 * 1024,
      },
    );
    const end = stdout.lastIndexOf('\n');
    const [version = '', status = ''] = stdout.slice(end + 1).split(' ');
    // Answers of before the last, such as "100 Continue", have heads of their own.
    const parts = stdout.slice(0, end).split('\r\n\r\n');
    return {
      version,
      status: Number(status),
      headers: parts.slice(0, -1).join('\n').toLowerCase(),
      body: parts.at(-1) ?? '',
    };
  }

  post<T>(path: string, body: object, more: readonly string[] = []): Promise<Heard & { json: T }> {
    return this.#send('POST', path, body, more);
  }

  put<T>(path: string, body: object): Promise<Heard & { json: T }> {
    return this.#send('PUT', path, body, []);
  }

  async #send<T>(method: string, path: string, body: object, more: readonly string[]): Promise<Heard & { json: T }> {
    const heard = await this.ask(path, [
      '-X',
      method,
      '-H',
      'content-type: application/json',
      '-H',
      `x-csrf-token: ${this.#csrf}`,
      '-d',
      JSON.stringify(body),
      ...more,
    ]);
    const json = JSON.parse(heard.body) as T & { csrfToken?: string };
    if (json.csrfToken !== undefined) this.#csrf = json.csrfToken;
    return { ...heard, json };
  }

  async get<T>(path: string): Promise<T> {
    const json = JSON.parse((await this.ask(path)).body) as T & { csrfToken?: string };
    if (json.csrfToken !== undefined) this.#csrf = json.csrfToken;
    return json;
  }

  async upload(path: string, file: string): Promise<Heard> {
    return this.ask(path, [
      '-X',
      'POST',
      '-H',
      'content-type: application/zip',
      '-H',
      `x-csrf-token: ${this.#csrf}`,
      '--data-binary',
      `@${file}`,
    ]);
  }

  async ended(job: string): Promise<{ state: string; error: { code: string } | null }> {
    for (let tries = 0; tries < 400; tries += 1) {
      const found = await this.get<{ state: string; error: { code: string } | null }>(`/api/jobs/${job}`);
      if (found.state !== 'waiting' && found.state !== 'running' && found.state !== undefined) return found;
      await pause(50);
    }
    throw new Error('the job did not end');
  }
}

describe.each(['nginx', 'haproxy'] as const)('behind %s', (proxy) => {
  let person: Person;
  let site: string;

  it('the first visit makes the owner, over HTTP/2, with a cookie that only TLS carries', async () => {
    person = new Person(ports[proxy], proxy);
    const { needsOwner, demo } = await person.get<{ needsOwner: boolean; demo: unknown }>('/api/session');
    expect(demo).toBe(null);
    const heard = needsOwner
      ? await person.post('/api/owner', OWNER)
      : await person.post('/api/session', { email: OWNER.email, password: OWNER.password });
    expect([heard.version, heard.status]).toEqual(['2', needsOwner ? 201 : 200]);
    expect(heard.headers).toMatch(
      /set-cookie: __host-fastigium=[^;]+; path=\/; expires=[^;]+; httponly; secure; samesite=strict/,
    );
    expect(heard.headers).toContain('strict-transport-security: max-age=');
  });

  it('a large archive goes up and comes in; without a host nothing goes out, and that is said', async () => {
    site = (await person.post<{ id: string }>('/api/sites', { name: `Behind ${proxy}` })).json.id;
    const archive = join(folder.path, `large-${proxy}.zip`);
    await writeFile(archive, await zip({ ...SMALL_SITE, 'film.bin': randomBytes(30_000_000) }));
    const { status, body } = await person.upload(`/api/sites/${site}/imports?fileName=large.zip`, archive);
    expect([status, body.slice(0, 100)]).toEqual([202, expect.stringContaining('job')]);
    expect((await person.ended((JSON.parse(body) as { job: string }).job)).state).toBe('done');
    const { version } = await person.get<{ version: number }>(`/api/sites/${site}`);
    const asked = await person.post<{ job?: string; error?: { code: string } }>(`/api/sites/${site}/releases`, {
      version,
    });
    const why = asked.json.error?.code ?? (await person.ended(asked.json.job ?? '')).error?.code;
    expect(why).toBe('host-needed');
  });

  it('events come as they happen', async () => {
    const stream = spawn('curl', ['-N', ...person.args(`/api/sites/${site}/events`)], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    let heard = '';
    stream.stdout.on('data', (piece: Buffer) => (heard += piece.toString()));
    const until = async (is: () => boolean) => {
      for (let tries = 0; !is(); tries += 1) {
        expect(tries).toBeLessThan(100);
        await pause(50);
      }
    };
    await until(() => heard.includes('retry:'));
    const { version } = await person.get<{ version: number }>(`/api/sites/${site}`);
    await person.post(`/api/sites/${site}/decisions`, {
      version,
      decision: { kind: 'redirect', from: `/old-${proxy}`, to: { status: 410 } },
    });
    await until(() => heard.includes('"kind":"draft"'));
    stream.kill();
  });

  it('previews stand under a name of their own, with the same certificate', async () => {
    const { json } = await person.post<{ origins: { seen: string } }>(`/api/sites/${site}/previews`, {});
    const { hostname, protocol } = new URL(json.origins.seen);
    expect(protocol).toBe('https:');
    expect(hostname.split('.').slice(1).join('.')).toBe('previews.test');
    const page = await person.ask('/welcome/', [], hostname);
    expect([page.version, page.status, page.body]).toEqual(['2', 200, SMALL_SITE['welcome/index.html']]);
    expect(page.headers).not.toContain('set-cookie');
  });

  it('the visitor counts, as the proxy saw them, and not what they say of themselves', async () => {
    const liar = new Person(ports[proxy], `${proxy}-liar`);
    await liar.get('/api/session');
    const { status } = await liar.post('/api/session', { email: OWNER.email, password: OWNER.password }, [
      ...['-H', 'X-Forwarded-For: 198.51.100.1'],
    ]);
    expect(status).toBe(200);
    const db = connect(
      () => database.url,
      () => {},
    );
    const { address } = await db.one<{ address: string }>(
      'select address from session order by created_at desc limit 1',
    );
    await db.close();
    expect(address).toBe('127.0.0.1');
  });
});

describe('one of two processes that is killed', () => {
  it('is not noticed by whoever asks, and what it was publishing is finished by the other', async () => {
    const person = new Person(ports.haproxy, 'killed');
    await person.get('/api/session');
    await person.post('/api/session', { email: OWNER.email, password: OWNER.password });
    const site = (await person.post<{ id: string }>('/api/sites', { name: 'Goes on' })).json.id;
    const archive = join(folder.path, 'many.zip');
    await writeFile(
      archive,
      await zip({
        ...SMALL_SITE,
        ...Object.fromEntries(
          Array.from({ length: 400 }, (_, n) => [
            `p/${n}.html`,
            `<!DOCTYPE html><title>${n}</title>${'x'.repeat(5000)}`,
          ]),
        ),
      }),
    );
    const upload = JSON.parse((await person.upload(`/api/sites/${site}/imports?fileName=many.zip`, archive)).body) as {
      job: string;
    };
    expect((await person.ended(upload.job)).state).toBe('done');
    await mkdir(join(folder.path, 'sites', 'goes-on'));
    const connected = await person.put(`/api/sites/${site}/hosting/account`, {
      kind: 'folder',
      folder: join(folder.path, 'sites', 'goes-on'),
    });
    expect(connected.status).toBe(200);
    for (const { key, severity, dismissed } of (
      await person.get<{ snags: { key: string; severity: string; dismissed: unknown }[] }>(`/api/sites/${site}/snags`)
    ).snags)
      if (severity === 'must' && !dismissed)
        await person.put(`/api/sites/${site}/snags/${key}/dismissal`, { reason: 'as it is' });
    const { version } = await person.get<{ version: number }>(`/api/sites/${site}`);
    const { json } = await person.post<{ job: string }>(`/api/sites/${site}/releases`, { version });
    await pause(250);
    // Whichever of them has it: one is killed in the middle, and the other one is there.
    const first = processes[0];
    if (!first) throw new Error('no process');
    await kill(first);
    const statuses: number[] = [];
    for (let n = 0; n < 40; n += 1) statuses.push((await person.ask('/api/sites')).status);
    expect(new Set(statuses)).toEqual(new Set([200]));
    expect(await person.ended(json.job)).toMatchObject({ state: 'done', error: null });
    expect(await readFile(join(folder.path, 'sites/goes-on/current/p/399.html'), 'utf8')).toContain(
      '<title>399</title>',
    );
  });
});

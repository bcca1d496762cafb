/**
 * Certificates against pebble (Debian's package, a full RFC 8555 authority) and the stand-in's own
 * authority, by the same adapter and the same checks; openssl judges the chains.
 */
import { execFile } from 'node:child_process';
import { createPrivateKey, X509Certificate } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { request } from 'node:https';
import { join } from 'node:path';
import { promisify } from 'node:util';
import acme from 'acme-client';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { worldSeed } from '../../../standins/src/registrar/registry.ts';
import { NO_PORTS, startWorld, type World } from '../../../standins/src/world/world.ts';
import { createAcmePort, type AcmePort } from '../../src/adapters/acme/acme.ts';
import { createHttpHost } from '../../src/adapters/host/httpHost.ts';
import { createWebPort } from '../../src/adapters/web/web.ts';
import { freePort, startPeer, temporaryFolder, type Peer } from './processes.ts';

const run = promisify(execFile);
const soa =
  '$TTL 60\n@ SOA ns1.registrar.test. hostmaster.registrar.test. 1 7200 900 1209600 600\n@ NS ns1.registrar.test.\n';
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
let world: World;
let host: ReturnType<typeof createHttpHost>;
let peer: Peer;
const ports = { acme: 0, management: 0 };

beforeAll(async () => {
  folder = await temporaryFolder('acme');
  const held = { heldBy: 'account', registeredYearsAgo: 1, yearsLeft: 1 } as const;
  world = await startWorld({
    folder: join(folder.path, 'world'),
    token: 'token-of-the-test-host',
    ports: NO_PORTS,
    seed: worldSeed.parse({
      holdings: [
        // Pebble connects to the address itself; the stand-in by its routes.
        { ...held, name: 'pebble.example', zone: `${soa}@ A 127.0.0.1\nwww A 127.0.0.1\n` },
        {
          ...held,
          name: 'quay.example',
          zone: `${soa}@ A 198.51.100.24\nwww CNAME edge.host.test.\nforbidden A 198.51.100.24\nforbidden CAA 0 issue ";"\n`,
        },
      ],
    }),
  });
  host = createHttpHost({
    controlUrl: `http://127.0.0.1:${world.ports.control}`,
    token: 'token-of-the-test-host',
    urlOf: () => '',
  });
  ports.acme = await freePort();
  ports.management = await freePort();
  const [cert, key, config] = ['cert.pem', 'key.pem', 'pebble.json'].map((name) => join(folder.path, name)) as [
    string,
    string,
    string,
  ];
  await run('openssl', [
    'req',
    '-x509',
    '-newkey',
    'ec',
    '-pkeyopt',
    'ec_paramgen_curve:P-256',
    '-nodes',
    '-keyout',
    key,
    '-out',
    cert,
    '-days',
    '2',
    '-subj',
    '/CN=localhost',
    '-addext',
    'subjectAltName=DNS:localhost,IP:127.0.0.1',
  ]);
  await writeFile(
    config,
    JSON.stringify({
      pebble: {
        listenAddress: `127.0.0.1:${ports.acme}`,
        managementListenAddress: `127.0.0.1:${ports.management}`,
        certificate: cert,
        privateKey: key,
        httpPort: world.ports.live,
        tlsPort: world.ports.tls,
        ocspResponderURL: '',
        externalAccountBindingRequired: false,
        certificateValidityPeriod: 90 * 86_400,
      },
    }),
  );
  peer = await startPeer(
    '/usr/bin/pebble',
    ['-config', config, '-dnsserver', `127.0.0.1:${world.ports.dns}`],
    async () => (await insecure(`https://127.0.0.1:${ports.acme}/dir`)).length > 0,
    { PEBBLE_VA_NOSLEEP: '1', PEBBLE_WFE_NONCEREJECT: '0', PEBBLE_AUTHZREUSE: '0' },
  );
});
afterAll(async () => {
  await peer.stop();
  host.close();
  await world.stop();
  await folder.remove();
});

function insecure(url: string): Promise<string> {
  return new Promise((resolve, reject) => {
    request(url, { rejectUnauthorized: false }, (answer) => {
      let body = '';
      answer.on('data', (piece: Buffer) => (body += piece.toString()));
      answer.on('end', () => resolve(body));
    })
      .on('error', reject)
      .end();
  });
}

const order = async (port: AcmePort, names: readonly string[]) =>
  port.order({
    names,
    accountKey: await port.newAccountKey(),
    signal: new AbortController().signal,
    onStep: () => {},
    answer: (token, key) => host.challenge('quay', token, key),
  });

async function expectVerified(chain: string, root: string, names: readonly string[]): Promise<void> {
  const pems = chain.match(/-----BEGIN CERTIFICATE-----[\s\S]+?-----END CERTIFICATE-----/g) ?? [];
  expect(pems.length).toBeGreaterThanOrEqual(2);
  const [leaf, rest, rootFile] = ['leaf.pem', 'rest.pem', 'root.pem'].map((name) => join(folder.path, name)) as [
    string,
    string,
    string,
  ];
  await writeFile(leaf, pems[0] ?? '');
  await writeFile(rest, pems.slice(1).join('\n'));
  await writeFile(rootFile, root);
  for (const name of names) {
    const { stdout } = await run('openssl', [
      'verify',
      '-x509_strict',
      '-purpose',
      'sslserver',
      '-verify_hostname',
      name,
      '-CAfile',
      rootFile,
      '-untrusted',
      rest,
      leaf,
    ]);
    expect(stdout).toContain(': OK');
  }
  await expect(
    run('openssl', ['verify', '-verify_hostname', 'other.example', '-CAfile', rootFile, '-untrusted', rest, leaf]),
  ).rejects.toBeTruthy();
}

describe.each(['pebble', 'the stand-in'] as const)('an order at %s', (which) => {
  const names = which === 'pebble' ? ['www.pebble.example', 'pebble.example'] : ['www.quay.example', 'quay.example'];
  let port: AcmePort;
  let root: string;
  beforeAll(async () => {
    if (which === 'pebble') {
      port = createAcmePort({
        directory: `https://localhost:${ports.acme}/dir`,
        ca: await readFile(join(folder.path, 'cert.pem'), 'utf8'),
        caaIdentity: 'pebble.test',
      });
      root = await insecure(`https://127.0.0.1:${ports.management}/roots/0`);
    } else {
      port = createAcmePort({
        directory: world.environment.FASTIGIUM_ACME_DIRECTORY ?? '',
        ca: world.rootPem,
        caaIdentity: 'ca.test',
      });
      root = world.rootPem;
    }
  });

  it('is proved by http-01 and gives a chain that openssl verifies for every name', async () => {
    const { chain, key } = await order(port, names);
    await expectVerified(chain, root, names);
    expect(new X509Certificate(chain).checkPrivateKey(createPrivateKey(key))).toBe(true);
  });

  it('fails with the authority’s own words when the challenge is not answered', async () => {
    await expect(
      port.order({
        names: names.slice(0, 1),
        accountKey: await port.newAccountKey(),
        signal: new AbortController().signal,
        onStep: () => {},
        answer: async () => {},
      }),
    ).rejects.toMatchObject({ code: 'certificate-refused' });
  });

  it('gives the same account back for the same key, a fresh one for another', async () => {
    const key = await port.newAccountKey();
    const account = async (accountKey: Buffer) => {
      const client = new acme.Client({ directoryUrl: port.directory, accountKey });
      await client.createAccount({ termsOfServiceAgreed: true, contact: [] });
      return client.getAccountUrl();
    };
    expect(await account(key)).toBe(await account(key));
    expect(await account(await port.newAccountKey())).not.toBe(await account(key));
  });
});

describe('the stand-in authority', () => {
  const port = () =>
    createAcmePort({
      directory: world.environment.FASTIGIUM_ACME_DIRECTORY ?? '',
      ca: world.rootPem,
      caaIdentity: 'ca.test',
    });

  it('keeps to CAA (RFC 8659), which pebble does not look at', async () => {
    await expect(order(port(), ['forbidden.quay.example'])).rejects.toMatchObject({
      code: 'certificate-refused',
      details: { detail: expect.stringContaining('CAA') as string },
    });
  });

  it('refuses names without an address, and what is no name', async () => {
    await expect(order(port(), ['nothing.quay.example'])).rejects.toMatchObject({ code: 'certificate-refused' });
    await expect(order(port(), ['-bad-.example'])).rejects.toMatchObject({ code: 'certificate-refused' });
  });

  it('a served certificate is read from the wire, with its chain judged by the roots given', async () => {
    const names = ['www.quay.example', 'quay.example'];
    const { chain, key } = await order(port(), names);
    await host.naming?.setNames('quay', {
      main: 'www.quay.example',
      others: [{ name: 'quay.example', status: 308 }],
      forceHttps: true,
      hstsSeconds: null,
    });
    await host.naming?.setCertificate('quay', { names, chain, key });
    const routes = () => ({ address: '127.0.0.1', port: world.ports.tls });
    const trusted = await createWebPort(routes, [new X509Certificate(world.rootPem)], () => true).handshake(
      '198.51.100.24',
      'quay.example',
    );
    const stranger = await createWebPort(
      routes,
      [new X509Certificate(await insecure(`https://127.0.0.1:${ports.management}/roots/0`))],
      () => true,
    ).handshake('198.51.100.24', 'quay.example');
    expect(trusted).toMatchObject({ ok: true, certificate: { trusted: true, names, issuer: 'Stand-in authority' } });
    expect(stranger).toMatchObject({ ok: true, certificate: { trusted: false } });
    expect(await createWebPort(routes, [], () => true).handshake('198.51.100.24', 'nobody.example')).toMatchObject({
      ok: false,
      reason: { code: 'answer.no-certificate' },
    });
    const { stdout } = await run('bash', [
      '-c',
      `echo | openssl s_client -connect 127.0.0.1:${world.ports.tls} -servername www.quay.example -verify_hostname www.quay.example -CAfile ${world.environment.FASTIGIUM_TRUSTED_ROOTS} 2>&1 | grep -i 'verif'`,
    ]);
    expect(stdout).toContain('Verify return code: 0 (ok)');
  });
});

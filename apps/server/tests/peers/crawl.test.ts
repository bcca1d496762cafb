/** A crawl of a real site as a real nginx serves it, against the files on disk: Debian's developers-reference. */
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openHouse, type House } from '../harness.ts';
import { freePort, listens, startPeer, temporaryFolder, type Peer } from './processes.ts';

const SITE = '/usr/share/developers-reference';
let house: House;
let nginx: Peer;
let port: number;
let folder: Awaited<ReturnType<typeof temporaryFolder>>;
beforeAll(async () => {
  folder = await temporaryFolder('nginx');
  port = await freePort();
  house = await openHouse({ env: { FASTIGIUM_OPEN_NETWORKS: '127.0.0.0/8', FASTIGIUM_CRAWL_PER_SECOND: '1000' } });
  const config = join(folder.path, 'nginx.conf');
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi']
    .map((name) => `${name}_temp_path ${folder.path}/${name};`)
    .join(' ');
  writeFileSync(
    config,
    `daemon off; pid ${folder.path}/nginx.pid; error_log stderr; ${process.getuid?.() === 0 ? 'user root;' : ''} events {} http { access_log off; include /etc/nginx/mime.types; gzip on; gzip_types text/css; ${temporary}
    server { listen 127.0.0.1:${port}; root ${SITE}; index index.html; } }`,
  );
  nginx = await startPeer('/usr/sbin/nginx', ['-p', folder.path, '-c', config], () => listens(port));
});
afterAll(async () => {
  await nginx.stop();
  await house.stop();
  await folder.remove();
});

describe('a static site crawled', () => {
  it('comes in byte for byte as it lies on the server’s disk, each file under its own name', async () => {
    const site = await house.owner.newSite('Crawled');
    expect(await house.owner.crawl(site, `http://127.0.0.1:${port}/`)).toMatchObject({ state: 'done', error: null });
    const files = await house.server.deps.db.many<{ path: string; hash: string }>(
      'select f.path, f.hash from source_file f join site s on s.current_import = f.import_id where s.id = $1',
      [site],
    );
    expect(files.length).toBeGreaterThan(10);
    const differing = files.filter(
      ({ path, hash }) =>
        !existsSync(join(SITE, path)) ||
        createHash('sha256')
          .update(readFileSync(join(SITE, path)))
          .digest('hex') !== hash,
    );
    expect(differing).toEqual([]);
    // No address has changed, so none has to lead on, but for the front page's other name.
    const known = await house.server.deps.db.many<{ address: string }>(
      'select address from crawled_address c join site s on s.current_import = c.import_id where s.id = $1',
      [site],
    );
    expect(
      known.map(({ address }) => address.replace(/[?#].*/, '')).filter((address) => address !== '/index.html'),
    ).toEqual([]);
  });
});

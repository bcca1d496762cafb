/** One browser for all pictures: shared by sites at a time, with nothing shared between their pages. */
import { readdirSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openStudio, type Studio } from '../../src/adapters/browser/browser.ts';

/** White for who comes for the first time, black for who has been here before. */
const REMEMBERS = `<!DOCTYPE html><title>Remembers</title><body><script>document.body.style.background = localStorage.been ? '#000' : '#fff'; localStorage.been = 'yes'</script>`;
/** Nobody has answered these when the next page is to be shown. */
const INSISTS = `<!DOCTYPE html><title>Insists</title><body style="background:#fff"><script>alert('one'); confirm('two'); window.onbeforeunload = () => 'stay'; open('/window')</script>`;

const ANSWERS: Readonly<Record<string, string>> = { '/': REMEMBERS, '/insists': INSISTS };

let server: Server;
let origin: string;
let studio: Studio;
beforeAll(async () => {
  server = createServer((req, res) => {
    if (req.url === '/cut') req.socket.destroy();
    else res.setHeader('content-type', 'text/html').end(ANSWERS[req.url ?? ''] ?? '');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  studio = openStudio('/usr/bin/chromium', '127.0.0.1');
});
afterAll(async () => {
  await studio.close();
  server.closeAllConnections();
  server.close();
});

/** Mean brightness, 0 to 255. */
const brightness = async (picture: Buffer) => (await sharp(picture).greyscale().stats()).channels[0]?.mean ?? -1;

/** Browsers that this process started, and not their helpers: proc_pid_stat(5), field 4. */
function browsers(): number {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((name) => {
      try {
        const stat = readFileSync(`/proc/${name}/stat`, 'latin1');
        return (
          stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1] === String(process.pid) &&
          readFileSync(`/proc/${name}/cmdline`, 'latin1').includes('/chromium')
        );
      } catch {
        return false;
      }
    }).length;
}

it('is started once for all who come at once, and remembers for each site alone', async () => {
  const before = browsers();
  const [one, other] = await Promise.all([studio.enter(), studio.enter()]);
  expect(browsers() - before).toBe(1);
  expect(await brightness(await one.take(`${origin}/`))).toBeGreaterThan(250);
  // In the same tab, of the same site.
  expect(await brightness(await one.take(`${origin}/`))).toBeLessThan(5);
  expect(await brightness(await other.take(`${origin}/`))).toBeGreaterThan(250);
  await Promise.all([one.leave(), other.leave()]);
});

it('comes again to one that stays, and that has forgotten', async () => {
  const before = browsers();
  const again = await studio.enter();
  expect(browsers()).toBe(before);
  expect(await brightness(await again.take(`${origin}/`))).toBeGreaterThan(250);
  await again.leave();
});

it('goes on after a page that answers nothing, and after one that asks and will not be left', async () => {
  const photographer = await studio.enter();
  await expect(photographer.take(`${origin}/cut`)).rejects.toThrow(/ERR_EMPTY_RESPONSE/);
  expect(await brightness(await photographer.take(`${origin}/insists`))).toBeGreaterThan(250);
  expect(await brightness(await photographer.take(`${origin}/`))).toBeGreaterThan(250);
  await photographer.leave();
});

it('is started anew after it was closed', async () => {
  await studio.close();
  expect(browsers()).toBe(0);
  const photographer = await studio.enter();
  expect(await brightness(await photographer.take(`${origin}/`))).toBeGreaterThan(250);
  await photographer.leave();
});

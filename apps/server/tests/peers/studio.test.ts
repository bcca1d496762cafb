/** One browser for all pictures: shared by sites at a time, with nothing shared between their pages. */
import { execFile } from 'node:child_process';
import { createSocket } from 'node:dgram';
import { readdirSync, readFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createServer as createNetServer, type AddressInfo } from 'node:net';
import { promisify } from 'node:util';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { contain } from '../../src/adapters/browser/contained.ts';
import { openStudio, type Studio } from '../../src/adapters/browser/browser.ts';

/** White for who comes for the first time, black for who has been here before. */
const REMEMBERS = `<!DOCTYPE html><title>Remembers</title><body><script>document.body.style.background = localStorage.been ? '#000' : '#fff'; localStorage.been = 'yes'</script>`;
/** Nobody has answered these when the next page is to be shown. */
const INSISTS = `<!DOCTYPE html><title>Insists</title><body style="background:#fff"><script>alert('one'); confirm('two'); window.onbeforeunload = () => 'stay'; open('/window')</script>`;

const ANSWERS: Readonly<Record<string, string>> = { '/': REMEMBERS, '/insists': INSISTS };

/** Everything a page can try to reach somebody by, other than what it came from. */
const escapes = (ports: {
  tcp: number;
  udp: number;
}) => `<!DOCTYPE html><title>Escapes</title><body style="background:#fff">
<img src="http://127.0.0.1:${ports.tcp}/picture"><img src="http://localhost:${ports.tcp}/named"><link rel="stylesheet" href="http://[::1]:${ports.tcp}/style">
<link rel="preconnect" href="http://127.0.0.1:${ports.tcp}"><link rel="dns-prefetch" href="//evil.example">
<iframe src="http://127.0.0.1:${ports.tcp}/frame"></iframe><object data="http://127.0.0.1:${ports.tcp}/object"></object>
<form id="post" method="post" action="http://127.0.0.1:${ports.tcp}/form" target="_blank"><input name="a" value="b"></form>
<form id="own" method="post" action="/own" target="other"><input name="a" value="b"></form>
<script>
const tcp = 'http://127.0.0.1:${ports.tcp}/';
document.getElementById('post').submit(); document.getElementById('own').submit();
open(tcp + 'window'); open('/window');
fetch(tcp + 'fetch', { mode: 'no-cors', method: 'POST', body: 'x' }).catch(() => {}); navigator.sendBeacon(tcp + 'beacon', 'x');
fetch('/own-post', { method: 'POST', body: 'x' }).catch(() => {});
new EventSource(tcp + 'events'); try { new WebSocket('ws://127.0.0.1:${ports.tcp}/socket'); } catch {}
try { new Worker(URL.createObjectURL(new Blob(['fetch("' + tcp + 'worker", {mode:"no-cors"}); importScripts("' + tcp + 'script")']))); } catch {}
const peer = new RTCPeerConnection({ iceServers: [{ urls: 'stun:127.0.0.1:${ports.udp}' }, { urls: 'turn:127.0.0.1:${ports.tcp}?transport=tcp', username: 'a', credential: 'b' }] });
peer.createDataChannel('a'); peer.createOffer().then((offer) => peer.setLocalDescription(offer));
</script>`;

let server: Server;
let origin: string;
let studio: Studio;
/** Another server of this machine, which has to hear nothing; and what was sent to the page's own. */
const heard: string[] = [];
const stranger = createNetServer();
const packets = createSocket('udp4');
let ports: { tcp: number; udp: number };
beforeAll(async () => {
  server = createServer((req, res) => {
    if (req.method !== 'GET') heard.push(`${req.method} ${req.url}`);
    if (req.url === '/cut') req.socket.destroy();
    else if (req.url === '/escapes') res.setHeader('content-type', 'text/html').end(escapes(ports));
    else res.setHeader('content-type', 'text/html').end(ANSWERS[req.url ?? ''] ?? '');
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  stranger.on('connection', (socket) => {
    heard.push('a connection');
    socket.destroy();
  });
  await new Promise<void>((resolve) => stranger.listen(0, '127.0.0.1', resolve));
  packets.on('message', () => heard.push('a packet'));
  await new Promise<void>((resolve) => packets.bind(0, '127.0.0.1', resolve));
  ports = { tcp: (stranger.address() as AddressInfo).port, udp: packets.address().port };
  studio = openStudio('/usr/bin/chromium', '127.0.0.1');
});
afterAll(async () => {
  await studio.close();
  stranger.close();
  packets.close();
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
  const [one, other] = await Promise.all([studio.enter(origin), studio.enter(origin)]);
  expect(browsers() - before).toBe(1);
  expect(await brightness(await one.take(`${origin}/`))).toBeGreaterThan(250);
  // In the same tab, of the same site.
  expect(await brightness(await one.take(`${origin}/`))).toBeLessThan(5);
  expect(await brightness(await other.take(`${origin}/`))).toBeGreaterThan(250);
  await Promise.all([one.leave(), other.leave()]);
});

it('comes again to one that stays, and that has forgotten', async () => {
  const before = browsers();
  const again = await studio.enter(origin);
  expect(browsers()).toBe(before);
  expect(await brightness(await again.take(`${origin}/`))).toBeGreaterThan(250);
  await again.leave();
});

it('goes on after a page that answers nothing, and after one that asks and will not be left', async () => {
  const photographer = await studio.enter(origin);
  await expect(photographer.take(`${origin}/cut`)).rejects.toThrow(/ERR_CONNECTION_RESET/);
  expect(await brightness(await photographer.take(`${origin}/insists`))).toBeGreaterThan(250);
  expect(await brightness(await photographer.take(`${origin}/`))).toBeGreaterThan(250);
  await photographer.leave();
});

it('has no way out: a page reaches nobody but what it came from, and sends nothing there', async () => {
  const photographer = await studio.enter(origin);
  expect(await brightness(await photographer.take(`${origin}/escapes`))).toBeGreaterThan(200);
  // What it began has the time of two more pages to arrive.
  expect(await brightness(await photographer.take(`${origin}/`))).toBeGreaterThan(250);
  expect(await brightness(await photographer.take(`${origin}/insists`))).toBeGreaterThan(250);
  await photographer.leave();
  expect(heard).toEqual([]);
});

it('stands in a network of its own, where the system allows it', async () => {
  const contained = await contain('/usr/bin/chromium');
  expect(contained.isApart).toBe(true);
  // By what stands in its place: there is no interface but a loopback that is down.
  const { stdout } = await promisify(execFile)('sh', [
    '-c',
    `sed 's#exec unshare#unshare#; s#/usr/bin/chromium.*#cat /proc/net/dev#' ${contained.program} | sh`,
  ]);
  expect(
    stdout
      .split('\n')
      .slice(2)
      .filter((line) => line.trim() !== '')
      .map((line) => line.trim().split(':')[0]),
  ).toEqual(['lo']);
  await contained.remove();
});

it('is started anew after it was closed', async () => {
  await studio.close();
  expect(browsers()).toBe(0);
  const photographer = await studio.enter(origin);
  expect(await brightness(await photographer.take(`${origin}/`))).toBeGreaterThan(250);
  await photographer.leave();
});

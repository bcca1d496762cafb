/**
 * A stranger in a process of its own: does one thing, as hard as one process can, to a server of this machine, and ends.
 *   node strangers.attacker.mjs ATTACK PORT PREVIEW_PORT SECONDS
 */
import { request } from 'node:http';
import { connect } from 'node:net';

const [, , attack, portText, previewText, secondsText] = process.argv;
const [port, previewPort] = [Number(portText), Number(previewText)];
const until = performance.now() + Number(secondsText) * 1000;

const ask = (method, path, body, headers = {}, to = port, host = 'localhost') =>
  new Promise((resolve) => {
    const outgoing = request(
      { host: '127.0.0.1', port: to, method, path, agent: false, headers: { host, ...headers } },
      (answer) => {
        let text = '';
        answer.on('data', (piece) => (text += piece));
        answer.on('end', () => resolve(text));
        answer.on('error', () => resolve(''));
      },
    );
    outgoing.on('error', () => resolve(''));
    outgoing.end(body);
  });

const { csrfToken } = JSON.parse(await ask('GET', '/api/session'));
const json = { 'content-type': 'application/json', 'x-csrf-token': csrfToken };
const owner = (n) => JSON.stringify({ name: 'S', email: `s${n}@evil.example`, password: 'long enough for me' });

const ATTACKS = {
  'JSON of 16 MB, nested': () => ask('POST', '/api/sites', '['.repeat(16 * 1024 * 1024), json),
  'JSON of 16 MB to the sign-in': () => ask('POST', '/api/session', `{"email":"${'x'.repeat(16 * 1024 * 1024)}`, json),
  'a first owner, again and again': (n) => ask('POST', '/api/owner', owner(n), json),
  'invitations that are none': (n) => ask('POST', `/api/join/${'x'.repeat(30)}${n}`, owner(n), json),
  'passwords guessed': (n) =>
    ask('POST', '/api/session', JSON.stringify({ email: `a${n % 5}@b.example`, password: 'guess' }), json),
  'questions without an end': () => ask('GET', '/api/session'),
  'names that are not its own': () => ask('GET', '/', undefined, {}, port, 'evil.example'),
  'previews that nobody signed': (n) =>
    ask('GET', '/', undefined, {}, previewPort, `${'0v'.repeat(26)}-s${n}.preview.localhost:${previewPort}`),
  'heads of 15 KB': () =>
    ask('GET', '/api/session', undefined, { 'x-a': 'a'.repeat(15_000), cookie: 'fastigium=s%3A'.padEnd(8000, 'x') }),
  'uploads that stand still': () =>
    new Promise((resolve) => {
      const socket = connect(port, '127.0.0.1');
      socket.on('error', () => {}).on('close', resolve);
      socket.write(
        `POST /api/sites/00000000-0000-4000-8000-000000000000/imports?fileName=a.zip HTTP/1.1\r\nhost: localhost\r\ncontent-length: 1000000\r\n\r\nx`,
      );
      setTimeout(() => socket.destroy(), 500);
    }),
};

const one = ATTACKS[attack];
let n = 0;
const attacker = async () => {
  while (performance.now() < until) await one((n += 1));
};
await Promise.all(Array.from({ length: 16 }, attacker));
console.log(n);

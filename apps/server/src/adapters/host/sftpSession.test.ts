/**
 * A server that says "written" and keeps less: ssh2's own server, over a real connection, since OpenSSH does not lie so.
 * Packages over ssh2 have told such a file as written.
 */
import { generateKeyPairSync } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import ssh2, { type SFTPWrapper } from 'ssh2';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { NotWritten, openSession, type SftpSession } from './sftpSession.ts';

const { Server, utils } = ssh2;
const { OK, FAILURE, NO_SUCH_FILE } = utils.sftp.STATUS_CODE;
const FILE_MODE = 0o100_644;
const HANDLE = Buffer.from('one');

/** How much of a file is kept, whatever is said. */
let keeps = Infinity;
let keptBytes = 0;

function answer(sftp: SFTPWrapper): void {
  sftp
    .on('OPEN', (id: number) => {
      keptBytes = 0;
      sftp.handle(id, HANDLE);
    })
    .on('WRITE', (id: number, _handle: Buffer, offset: number, data: Buffer) => {
      keptBytes = Math.min(keeps, Math.max(keptBytes, offset + data.length));
      sftp.status(id, OK);
    })
    .on('FSTAT', (id: number) => {
      sftp.attrs(id, { mode: FILE_MODE, uid: 0, gid: 0, size: keptBytes, atime: 0, mtime: 0 });
    })
    .on('STAT', (id: number) => {
      sftp.status(id, NO_SUCH_FILE);
    })
    .on('READLINK', (id: number, path: string) => {
      sftp.status(id, path === '/broken' ? utils.sftp.STATUS_CODE.CONNECTION_LOST : FAILURE);
    })
    .on('CLOSE', (id: number) => {
      sftp.status(id, OK);
    });
}

const { privateKey } = generateKeyPairSync('rsa', {
  modulusLength: 2048,
  privateKeyEncoding: { type: 'pkcs1', format: 'pem' },
  publicKeyEncoding: { type: 'pkcs1', format: 'pem' },
});
const server = new Server({ hostKeys: [privateKey] }, (client) => {
  client
    .on('authentication', (context) => context.accept())
    .on('ready', () => client.on('session', (accept) => accept().on('sftp', (acceptSftp) => answer(acceptSftp()))))
    .on('error', () => {});
});
let session: SftpSession;

beforeAll(async () => {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  session = await openSession({ host: '127.0.0.1', port, username: 'x', password: 'y', hostVerifier: () => true });
});
afterAll(() => {
  session.end();
  server.close();
});

it('a file that is kept whole is written', async () => {
  keeps = Infinity;
  await expect(session.write('/whole', Buffer.alloc(100_000))).resolves.toBeUndefined();
});

it.each([0, 1, 32_768, 99_999])('one of which %i of 100,000 bytes are kept is not, and says so', async (kept) => {
  keeps = kept;
  const failed = await session.write('/short', Buffer.alloc(100_000)).catch((error: unknown) => error);
  expect(failed).toBeInstanceOf(NotWritten);
  expect((failed as NotWritten).message).toBe(`${kept} of 100000 bytes were kept`);
});

it('what is not there is told from what could not be asked', async () => {
  expect(await session.stat('/nothing')).toBe(undefined);
  expect(await session.readLink('/no-link')).toBe(undefined);
  // A release must not be taken for none because the line broke.
  await expect(session.readLink('/broken')).rejects.toThrow();
});

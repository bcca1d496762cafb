/**
 * Many files at once to a server whose account may run commands: as one tar (POSIX.1-2001, "ustar" and pax), unpacked
 * there, each content held against its hash by the server itself before it is kept. An account that may only speak
 * SFTP gets them one by one, as before.
 */
import { randomUUID } from 'node:crypto';
import type { Client } from 'ssh2';
import { pack } from 'tar-stream';
import type { Pack } from 'tar-stream';

/** What a server has to answer, so that one that starts something else instead is told apart. */
const READY = 'fastigium-ready';
const ANSWER_WITHIN_MS = 3000;

export interface PackedFile {
  readonly hash: string;
  readonly bytes: Uint8Array;
}

export interface PackedLink {
  readonly path: string;
  /** Path of a file that is there. */
  readonly to: string;
}

export interface SshPacks {
  /** Keeps contents at the paths their hashes have; throws where the server could not, or the bytes came otherwise. */
  contents(files: readonly PackedFile[], pathOf: (hash: string) => string): Promise<void>;
  /** Makes names for files that are there, and the folders they stand in. */
  links(links: readonly PackedLink[]): Promise<void>;
}

/** Undefined where the account may run nothing, or the server knows neither tar nor sha256sum. */
export async function sshPacks(client: Client, folder: string): Promise<SshPacks | undefined> {
  const said = await run(client, `tar --version >/dev/null 2>&1 && sha256sum --version >/dev/null 2>&1 && cp --version >/dev/null 2>&1 && echo ${READY}`, undefined, ANSWER_WITHIN_MS).catch(() => '');
  if (said.trim() !== READY) return undefined;
  return {
    async contents(files, pathOf) {
      const arriving = `arriving-${randomUUID()}`;
      const inside = `cd ${quoted(folder)} && mkdir ${arriving} && cd ${arriving}`;
      // Linked into place one whole file at a time, so that whoever is killed leaves no half content under its hash.
      const command = `${inside} && tar -xf - && sha256sum -c --quiet sums >&2 && rm sums && mkdir -p ../contents && cp -rlf . ../contents/ && cd .. && rm -rf ${arriving} && echo ${READY}`;
      try {
        await expectReady(run(client, command, (archive) => {
          for (const { hash, bytes } of files) entry(archive, { name: insideContents(pathOf(hash)), type: 'file' }, bytes);
          entry(archive, { name: 'sums', type: 'file' }, Buffer.from(files.map(({ hash }) => `${hash}  ${insideContents(pathOf(hash))}\n`).join('')));
        }));
      } catch (error) {
        await run(client, `cd ${quoted(folder)} && rm -rf ${arriving}`).catch(() => '');
        throw error;
      }
    },
    links: (links) => expectReady(run(client, `cd ${quoted(folder)} && tar -xf - && echo ${READY}`, (archive) => {
      for (const { path, to } of links) entry(archive, { name: path, type: 'link', linkname: to });
    })),
  };
}

const insideContents = (path: string): string => path.replace(/^contents\//, '');
/** A word of the shell (POSIX.1-2017, section 2.2.2 of the shell language). */
const quoted = (text: string): string => `'${text.replaceAll('\'', '\'\\\'\'')}'`;

/** Whole at once, so nobody waits for it; what is wrong with it, the archive itself says. */
function entry(archive: Pack, header: { name: string; type: 'file' | 'link'; linkname?: string }, bytes: Uint8Array = new Uint8Array()): void {
  archive.entry({ ...header, mode: 0o644 }, Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength));
}

async function expectReady(said: Promise<string>): Promise<void> {
  if ((await said).trim() !== READY) throw new Error('the server did not unpack what was sent');
}

async function packed(feed: (archive: Pack) => void): Promise<Buffer> {
  const archive = pack();
  const pieces: Buffer[] = [];
  const read = (async () => { for await (const piece of archive as AsyncIterable<Buffer>) pieces.push(piece); })();
  feed(archive);
  archive.finalize();
  await read;
  return Buffer.concat(pieces);
}

/** @returns what the command wrote; throws with what it complained of where it failed */
function run(client: Client, command: string, feed?: (archive: Pack) => void, withinMs?: number): Promise<string> {
  return new Promise((resolve, reject) => {
    const timer = withinMs === undefined ? undefined : setTimeout(() => reject(new Error('no answer in time')), withinMs);
    client.exec(command, (error, channel) => {
      if (error) {
        clearTimeout(timer);
        reject(error);
        return;
      }
      let said = '';
      let complaint = '';
      channel.on('data', (piece: Buffer) => (said += piece.toString()));
      channel.stderr.on('data', (piece: Buffer) => (complaint = (complaint + piece.toString()).slice(-500)));
      channel.on('close', (code: number | null) => {
        clearTimeout(timer);
        if (code === 0) resolve(said);
        else reject(new Error(complaint.trim() || `the server ended with ${code ?? 'nothing'}`));
      });
      channel.on('error', reject);
      if (!feed) {
        channel.end();
        return;
      }
      // Written in one go: an archive's many small pieces would each be a packet of their own.
      packed(feed).then((archive) => { channel.end(archive); }, reject);
    });
  });
}

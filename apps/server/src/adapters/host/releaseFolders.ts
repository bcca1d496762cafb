/**
 * A host that is only a place for files: contents by hash, each release a folder of links to them, and
 * `current` a symbolic link to one of the folders, which a web server has as its root. The switch is one
 * rename, so no visitor ever sees half a release. How files are written is the place's own affair.
 *
 *   contents/ab/ab12…        every content once
 *   releases/RELEASE/…       the site as it is served, hard links into contents
 *   releases/RELEASE.json    manifest entries and rules, for the next difference
 *   current -> releases/RELEASE
 *   challenges/              answers for certificate authorities, linked into each release
 */
import { reason } from '@fastigium/contracts/messages/reason';
import { DomainError } from '@fastigium/contracts/errors';
import type { HostPort, StagedRelease } from '@fastigium/contracts/ports/host';
import { manifestEntry } from '@fastigium/contracts/ports/host';
import { applyDelta, emptyManifest, computeRoot, type ManifestEntry } from '@fastigium/core/release';
import { createFileLog, type LogPlace } from './logFile.ts';
import type { PackedLink, SshPacks } from './sshPacks.ts';
import { createHash, randomUUID } from 'node:crypto';
import { z } from 'zod';

/** The few things that are done to files; all paths but logs' are relative to the site's folder. Errors are the place's own. */
export interface FilePlace extends LogPlace {
  exists(path: string): Promise<boolean>;
  read(path: string): Promise<Buffer | undefined>;
  /** Writes a new file or replaces one, whole or not at all. Makes the folders it stands in. */
  write(path: string, bytes: Uint8Array): Promise<void>;
  /** A second name for a file that is there; in place of one that another content has. */
  link(from: string, to: string): Promise<void>;
  remove(path: string): Promise<void>;
  makeFolder(path: string): Promise<void>;
  /** Points a symbolic link somewhere else in one step. */
  pointLink(path: string, target: string): Promise<void>;
  readLink(path: string): Promise<string | undefined>;
  /** Nothing where there is no such folder. */
  list(path: string): Promise<readonly { readonly name: string; readonly sizeBytes: number }[]>;
  /** Many at once, where the place knows how. */
  readonly packs?: (() => Promise<SshPacks | undefined>) | undefined;
}

const noted = z.object({ entries: z.array(manifestEntry), rules: z.string().nullable() });
/** So that a distant server is not waited for at each. */
const AT_ONCE = 32;
/** Up to here one by one costs less than unpacking. */
const FEW = 50;
const hashSha256 = (data: Uint8Array | string): string => createHash('sha256').update(data).digest('hex');
const folderOf = (release: string): string => `releases/${release}`;
const notePath = (release: string): string => `releases/${release}.json`;
const nameInPack = (release: string, { path, hash }: ManifestEntry): PackedLink => ({
  path: `${folderOf(release)}/${path}`,
  to: placeContent(hash),
});
const placeContent = (hash: string): string => `contents/${hash.slice(0, 2)}/${hash}`;

/** @param log whole path of the web server's access log; undefined where none may be read */
export function createReleaseFolders(
  withPlace: <T>(work: (place: FilePlace) => Promise<T>) => Promise<T>,
  url: string,
  log: string | undefined,
): HostPort {
  /** Names that came with their contents, before the release was whole. */
  const named = new Map<string, Set<string>>();
  const namedIn = (release: string): Set<string> => {
    const paths = named.get(release) ?? new Set();
    named.set(release, paths);
    return paths;
  };
  return {
    naming: undefined,
    asksPasswords: false,
    accessLog: log === undefined ? undefined : createFileLog(withPlace, log),
    putFrom: undefined,
    putMany: (_site, contents, pack) =>
      withPlace(async (place) => {
        const packs = await place.packs?.();
        if (packs) {
          // An archive is held against its hashes where it is unpacked.
          await packs.contents(
            contents,
            pack.entries.map((entry) => nameInPack(pack.release, entry)),
          );
          const paths = namedIn(pack.release);
          for (const { path } of pack.entries) paths.add(path);
        } else {
          await mapInTurns(contents, async ({ hash, bytes }) => {
            refuseOther(hash, bytes);
            await place.write(placeContent(hash), bytes);
          });
        }
        return contents.reduce((sum, { bytes }) => sum + bytes.length, 0);
      }),
    urlOf: () => (url === '' ? undefined : url),
    missing: (_site, sizes) => withPlace((place) => findMissing(place, sizes)),
    put: (_site, hash, bytes) =>
      withPlace(async (place) => {
        refuseOther(hash, bytes);
        await place.write(placeContent(hash), bytes);
        return bytes.length;
      }),
    stage: (_site, release) =>
      withPlace(async (place) => {
        const bytes = await stage(place, release, namedIn(release.id));
        named.clear();
        return bytes;
      }),
    switchTo: (_site, release, expected) =>
      withPlace(async (place) => {
        const current = await readCurrent(place);
        if (current === release) return;
        if (current !== expected) throw new DomainError('host-refused', { detail: reason('another-became-current') });
        if (!(await readEntries(place, release)))
          throw new DomainError('host-refused', { detail: reason('never-staged') });
        await place.pointLink('current', `releases/${release}`);
      }),
    current: () => withPlace(readCurrent),
    letGo: (_site, release) => withPlace((place) => letGo(place, release)),
    challenge: (_site, token, keyAuthorization) =>
      withPlace(async (place) => {
        const current = await readCurrent(place);
        if (current === null) throw new DomainError('host-refused', { detail: reason('nothing-published') });
        const path = `releases/${current}/.well-known/acme-challenge/${token}`;
        if (keyAuthorization === null) await place.remove(path);
        else await place.write(path, Buffer.from(keyAuthorization));
      }),
  };
}

function refuseOther(hash: string, bytes: Uint8Array): void {
  if (hashSha256(bytes) !== hash) throw new DomainError('host-refused', { detail: reason('hash-differs') });
}

/** Tries the place as a publish would: write, read, link, switch, take away. */
export async function probe(place: FilePlace): Promise<void> {
  const name = `fastigium-probe-${randomUUID()}`;
  const bytes = Buffer.from(name);
  try {
    await place.write(`${name}/file`, bytes);
    await place.link(`${name}/file`, `${name}/second`);
    await place.pointLink(`${name}/pointer`, 'second');
    if (!(await place.read(`${name}/pointer`))?.equals(bytes)) throw new Error('what was written does not come back');
  } finally {
    await place.remove(name).catch(() => {});
  }
}

async function readCurrent(place: FilePlace): Promise<string | null> {
  const target = await place.readLink('current');
  return target?.split('/').at(-1) ?? null;
}

/** A disk that has no room left, with what it has where that is known. */
export function describeFullHost(freeBytes: number | undefined, cause: unknown): DomainError {
  const detail = freeBytes === undefined ? reason('no-room') : reason('room-left', { free: freeBytes });
  return new DomainError('host-full', { detail }, { cause });
}

/** Contents that are not there, or are there in another size than theirs: a disk that ran full leaves such. */
async function findMissing(place: FilePlace, sizes: ReadonlyMap<string, number>): Promise<readonly string[]> {
  const beginnings = new Set([...sizes.keys()].map((hash) => hash.slice(0, 2)));
  const folders = (await place.list('contents')).filter(({ name }) => beginnings.has(name));
  const found = (await mapInTurns(folders, ({ name }) => place.list(`contents/${name}`))).flat();
  const there = new Map(found.map(({ name, sizeBytes }) => [name, sizeBytes]));
  return [...sizes].filter(([hash, sizeBytes]) => there.get(hash) !== sizeBytes).map(([hash]) => hash);
}

async function stage(place: FilePlace, release: StagedRelease, named: ReadonlySet<string>): Promise<number> {
  const note = notePath(release.id);
  if (await readEntries(place, release.id)) return 0;
  const isSpoiled = await place.exists(note);
  // A note that cannot be read says nothing of what stands beside it.
  if (isSpoiled) await place.remove(folderOf(release.id));
  const all = await applyToEntries(place, release);
  // Without a base nothing of it comes from the place, and there is nothing to hold against the root.
  if (release.base !== null && computeRootOfAll(all) !== release.root)
    throw new DomainError('host-refused', { detail: reason('root-differs') });
  // Also what came with earlier releases: nothing gets a name in this one that is not whole.
  const lacking = await findMissing(place, new Map(all.map(({ hash, sizeBytes }) => [hash, sizeBytes])));
  if (lacking.length > 0)
    throw release.base === null
      ? new DomainError('host-refused', { detail: reason('contents-missing', { count: lacking.length }) })
      : new DomainError('host-lost-base', { detail: reason('contents-not-whole', { count: lacking.length }) });
  const unnamed = isSpoiled ? all : all.filter(({ path }) => !named.has(path));
  const packs = unnamed.length > FEW ? await place.packs?.() : undefined;
  if (packs) await packs.links(unnamed.map((entry) => nameInPack(release.id, entry)));
  else {
    await makeFolders(place, release.id, unnamed);
    await mapInTurns(unnamed, ({ path, hash }) => place.link(placeContent(hash), `${folderOf(release.id)}/${path}`));
  }
  const text = JSON.stringify({ entries: all, rules: release.rules });
  // Last, so that a release without its note was never whole.
  await place.write(note, Buffer.from(text));
  return text.length;
}

/** Whole manifest of a release that is told as what differs from its base. */
async function applyToEntries(
  place: FilePlace,
  { base, put, remove }: Pick<StagedRelease, 'base' | 'put' | 'remove'>,
): Promise<readonly ManifestEntry[]> {
  const before = base === null ? [] : await readEntries(place, base);
  if (!before) throw new DomainError('host-lost-base', { detail: reason('note-unreadable') });
  const entries = new Map(before.map((entry) => [entry.path, entry]));
  for (const path of remove) entries.delete(path);
  for (const entry of put) entries.set(entry.path, entry);
  return [...entries.values()];
}

function computeRootOfAll(entries: readonly ManifestEntry[]): string {
  return computeRoot(applyDelta(emptyManifest, () => '', { put: entries, remove: [] }, hashSha256).shards, hashSha256);
}

async function makeFolders(place: FilePlace, release: string, entries: readonly ManifestEntry[]): Promise<void> {
  const folder = folderOf(release);
  const folders = new Set([folder]);
  for (const { path } of entries) {
    for (let end = path.indexOf('/'); end !== -1; end = path.indexOf('/', end + 1))
      folders.add(`${folder}/${path.slice(0, end)}`);
  }
  // Parents were met before what is in them.
  for (const folder of folders) await place.makeFolder(folder);
}

/**
 * The note goes first: a release without it is none. Contents go last, and only those no other release has; where
 * another one's note cannot be read nobody knows what it has, so all of them stay.
 */
async function letGo(place: FilePlace, release: string): Promise<void> {
  if ((await readCurrent(place)) === release)
    throw new DomainError('host-refused', { detail: reason('release-is-current') });
  if (!(await place.exists(notePath(release)))) return;
  const staged = await readEntries(place, release);
  await place.remove(notePath(release));
  await place.remove(folderOf(release));
  const others = (await place.list('releases')).flatMap(({ name }) => /^(.+)\.json$/.exec(name)?.[1] ?? []);
  const entries = await mapInTurns(others, (other) => readEntries(place, other));
  if (entries.includes(undefined)) return;
  const needed = new Set(entries.flatMap((each) => each ?? []).map(({ hash }) => hash));
  const candidates = staged?.map(({ hash }) => hash) ?? (await readAllContents(place));
  await mapInTurns(
    [...new Set(candidates)].filter((hash) => !needed.has(hash)),
    (hash) => place.remove(placeContent(hash)),
  );
}

async function readAllContents(place: FilePlace): Promise<readonly string[]> {
  const folders = await place.list('contents');
  const files = (await mapInTurns(folders, ({ name }) => place.list(`contents/${name}`))).flat();
  return files.map(({ name }) => name).filter((name) => /^[0-9a-f]{64}$/.test(name));
}

/** Undefined where the place has no such release, or its note cannot be read: a disk that ran full leaves it empty. */
async function readEntries(place: FilePlace, release: string): Promise<readonly ManifestEntry[] | undefined> {
  const bytes = await place.read(notePath(release));
  if (!bytes) return undefined;
  try {
    return noted.parse(JSON.parse(bytes.toString('utf8'))).entries;
  } catch {
    return undefined;
  }
}

async function mapInTurns<T, R>(items: readonly T[], work: (item: T) => Promise<R>): Promise<R[]> {
  const out: R[] = [];
  const queue = items.entries();
  const worker = async () => {
    for (const [index, item] of queue) out[index] = await work(item);
  };
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, items.length) }, worker));
  return out;
}

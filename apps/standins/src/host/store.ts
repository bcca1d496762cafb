/**
 * What the host keeps, in a folder: contents by hash, each site's releases, and which one is
 * current. Everything is written beside its place and renamed into it, so a host killed at any
 * moment starts again with whole files and one whole release for each site.
 */
import { releaseDescription, type StagedRelease } from '@fastigium/contracts/ports/host';
import { OPEN_TO_ALL, parseServing, type SiteAccess } from '@fastigium/core/access';
import { indexRules, type RuleIndex } from '@fastigium/core/redirects';
import {
  applyDelta,
  emptyManifest,
  computeRoot,
  serialiseShard,
  findShard,
  findTouchedShards,
  type ManifestEntry,
  type ShardHashes,
} from '@fastigium/core/release';
import { createHash, randomUUID } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { access, mkdir, open, readdir, readFile, rename, rm, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Refusal } from '../world/http.ts';

export const hashSha256 = (data: Uint8Array | string): string => createHash('sha256').update(data).digest('hex');

export interface HostedFile extends ManifestEntry {
  /** When this path last changed, in whole seconds since 1970, as Last-Modified can say it. */
  readonly modifiedSeconds: number;
}

export interface HostedRelease {
  readonly id: string;
  readonly shards: ShardHashes;
  /** Files by path, one map a shard, shared between releases where they do not differ. */
  readonly files: readonly ReadonlyMap<string, HostedFile>[];
  /** Names of the files that keep the shards here; empty for one that is not written yet. */
  readonly names: readonly string[];
  readonly rules: RuleIndex;
  readonly access: SiteAccess;
  readonly rulesHash: string | null;
  readonly root: string;
}

interface Site {
  current: HostedRelease | undefined;
  readonly staged: Map<string, HostedRelease>;
}

const LATELY_MS = 86_400_000;
const NO_FILES: ReadonlyMap<string, HostedFile> = new Map();

export function findFile(release: HostedRelease, path: string): HostedFile | undefined {
  return release.files[findShard(path)]?.get(path);
}

export class HostStore {
  readonly #folder: string;
  readonly #now: () => number;
  readonly #sites = new Map<string, Promise<Site>>();

  constructor(folder: string, now: () => number) {
    this.#folder = folder;
    this.#now = now;
  }

  contentFile(hash: string): string {
    return join(this.#folder, 'contents', hash.slice(0, 2), hash);
  }

  missing(hashes: readonly string[]): string[] {
    return hashes.filter((hash) => !existsSync(this.contentFile(hash)));
  }

  /** Keeps a content if its bytes have the hash it was sent under. */
  async keep(hash: string, pieces: AsyncIterable<Uint8Array>): Promise<void> {
    const place = this.contentFile(hash);
    const temporary = join(this.#folder, 'arriving', randomUUID());
    const digest = createHash('sha256');
    await mkdir(dirname(temporary), { recursive: true });
    try {
      const file = await open(temporary, 'wx');
      try {
        for await (const piece of pieces) {
          digest.update(piece);
          await file.write(piece);
        }
      } finally {
        await file.close();
      }
      if (digest.digest('hex') !== hash) throw new Refusal(422, 'the bytes do not have the hash they were sent under');
      await mkdir(dirname(place), { recursive: true });
      await rename(temporary, place);
    } catch (error) {
      await rm(temporary, { force: true });
      throw error;
    }
  }

  async current(name: string): Promise<HostedRelease | undefined> {
    return (await this.#site(name)).current;
  }

  async stage(name: string, release: StagedRelease): Promise<void> {
    const site = await this.#site(name);
    if (site.staged.has(release.id) || site.current?.id === release.id) return;
    const base = release.base === null ? undefined : await this.#release(name, site, release.base);
    if (release.base !== null && !base) throw new Refusal(409, 'this host does not have the release it is based on');
    const lacking = this.missing([
      ...release.put.map(({ hash }) => hash),
      ...(release.rules === null ? [] : [release.rules]),
    ]);
    if (lacking.length > 0) throw new Refusal(409, `${lacking.length} contents are missing`);
    const staged = build(release, base, this.#readServing(release.rules), Math.floor(this.#now() / 1000));
    if (staged.root !== release.root) throw new Refusal(409, 'the release does not add up to its root');
    site.staged.set(release.id, await this.#writeRelease(name, staged));
  }

  async switchTo(name: string, id: string, expected: string | null): Promise<void> {
    const site = await this.#site(name);
    if (site.current?.id === id) return;
    if ((site.current?.id ?? null) !== expected) throw new Refusal(409, 'another release became current in between');
    const release = await this.#release(name, site, id);
    if (!release) throw new Refusal(404, 'this release was never staged here');
    await this.#write(join(this.#siteFolder(name), 'current.json'), JSON.stringify({ release: id }));
    // One assignment: a request before it gets the old release whole, one after it the new one.
    site.current = release;
    site.staged.clear();
  }

  /** Contents that no release of any site has go too, but for those that came lately: a release they are for may be on its way. */
  async letGo(name: string, id: string): Promise<void> {
    const site = await this.#site(name);
    if (site.current?.id === id) throw new Refusal(409, 'this release is the current one');
    const release = await this.#release(name, site, id);
    if (!release) return;
    site.staged.delete(id);
    await rm(join(this.#siteFolder(name), 'releases', `${id}.json`), { force: true });
    const candidates = new Set([
      ...release.files.flatMap((files) => [...files.values()].map(({ hash }) => hash)),
      ...(release.rulesHash === null ? [] : [release.rulesHash]),
    ]);
    for (const hash of await this.#neededHashes()) candidates.delete(hash);
    const latest = Date.now() - LATELY_MS;
    for (const hash of candidates) {
      const file = this.contentFile(hash);
      const kept = await stat(file).catch(() => undefined);
      if (!kept || kept.mtimeMs > latest) continue;
      for (const form of ['', '.br', '.gzip']) await rm(file + form, { force: true });
    }
  }

  /** Of every release of every site here. */
  async #neededHashes(): Promise<Set<string>> {
    const needed = new Set<string>();
    const sites = join(this.#folder, 'sites');
    for (const name of await readdir(sites)) {
      const shards = new Set<string>();
      for (const file of await readdir(join(sites, name, 'releases')).catch(() => [])) {
        if (!file.endsWith('.json')) continue;
        const { names, rules } = JSON.parse(await readFile(join(sites, name, 'releases', file), 'utf8')) as {
          names: string[];
          rules: string | null;
        };
        for (const shard of names) if (shard !== '') shards.add(shard);
        if (rules !== null) needed.add(rules);
      }
      for (const shard of shards)
        for (const { hash } of JSON.parse(await readFile(join(sites, name, 'shards', shard), 'utf8')) as HostedFile[])
          needed.add(hash);
    }
    return needed;
  }

  async #release(name: string, site: Site, id: string): Promise<HostedRelease | undefined> {
    return site.current?.id === id ? site.current : (site.staged.get(id) ?? this.#readRelease(name, id));
  }

  #siteFolder(name: string): string {
    return join(this.#folder, 'sites', name);
  }

  #site(name: string): Promise<Site> {
    let site = this.#sites.get(name);
    if (!site) this.#sites.set(name, (site = this.#openSite(name)));
    return site;
  }

  async #openSite(name: string): Promise<Site> {
    const text = await readIfThere(join(this.#siteFolder(name), 'current.json'));
    const id = text === undefined ? undefined : (JSON.parse(text) as { release: string }).release;
    return { current: id === undefined ? undefined : await this.#readRelease(name, id), staged: new Map() };
  }

  #readServing(hash: string | null): Pick<HostedRelease, 'rules' | 'access'> {
    const { rules, access } =
      hash === null ? { rules: [], access: OPEN_TO_ALL } : parseServing(readFileSync(this.contentFile(hash), 'utf8'));
    return { rules: indexRules(rules), access };
  }

  /** Writes the shards that are new, then the release that names them all. */
  async #writeRelease(name: string, release: HostedRelease): Promise<HostedRelease> {
    const names = [...release.names];
    for (const [index, hash] of release.shards.entries()) {
      if (hash === '' || names[index] !== '') continue;
      const text = JSON.stringify([...(release.files[index] ?? NO_FILES).values()]);
      const file = hashSha256(text);
      names[index] = file;
      const place = join(this.#siteFolder(name), 'shards', file);
      if (!existsSync(place)) await this.#write(place, text);
    }
    await this.#write(
      join(this.#siteFolder(name), 'releases', `${release.id}.json`),
      JSON.stringify({
        shards: release.shards,
        names,
        rules: release.rulesHash,
        root: release.root,
      }),
    );
    return { ...release, names };
  }

  async #readRelease(name: string, id: string): Promise<HostedRelease | undefined> {
    const text = await readIfThere(join(this.#siteFolder(name), 'releases', `${id}.json`));
    if (text === undefined) return undefined;
    const { shards, names, rules, root } = JSON.parse(text) as {
      shards: string[];
      names: string[];
      rules: string | null;
      root: string;
    };
    const files = await Promise.all(
      names.map(async (file) => {
        if (file === '') return NO_FILES;
        const entries = JSON.parse(
          await readFile(join(this.#siteFolder(name), 'shards', file), 'utf8'),
        ) as HostedFile[];
        return new Map(entries.map((entry) => [entry.path, entry]));
      }),
    );
    return { id, shards, files, names, ...this.#readServing(rules), rulesHash: rules, root };
  }

  async #write(place: string, text: string): Promise<void> {
    await mkdir(dirname(place), { recursive: true });
    const temporary = `${place}.${randomUUID()}`;
    const file = await open(temporary, 'wx');
    try {
      await file.writeFile(text);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(temporary, place);
  }
}

function build(
  release: StagedRelease,
  base: HostedRelease | undefined,
  serving: Pick<HostedRelease, 'rules' | 'access'>,
  nowSeconds: number,
): HostedRelease {
  const shards = base?.shards ?? emptyManifest;
  const before = base?.files ?? emptyManifest.map(() => NO_FILES);
  const textByHash = new Map(
    findTouchedShards(release).map((index) => [shards[index] ?? '', serialiseShard(before[index]?.values() ?? [])]),
  );
  const changed = applyDelta(shards, (hash) => textByHash.get(hash) ?? '', release, hashSha256);
  const files = [...before];
  const names = [...(base?.names ?? emptyManifest)];
  const removed = new Set(release.remove);
  for (const index of findTouchedShards(release)) {
    names[index] = '';
    files[index] = new Map([...(before[index] ?? NO_FILES)].filter(([path]) => !removed.has(path)));
  }
  for (const entry of release.put) {
    const shard = files[findShard(entry.path)] as Map<string, HostedFile>;
    const was = before[findShard(entry.path)]?.get(entry.path);
    // Only a changed content moves the date; a client with the old one keeps its 304.
    const modifiedSeconds = was?.hash === entry.hash ? was.modifiedSeconds : nowSeconds;
    shard.set(entry.path, { ...entry, modifiedSeconds });
  }
  return {
    id: release.id,
    shards: changed.shards,
    files,
    names,
    ...serving,
    rulesHash: release.rules,
    root: computeRoot(changed.shards, hashSha256),
  };
}

async function readIfThere(file: string): Promise<string | undefined> {
  try {
    await access(file);
  } catch {
    return undefined;
  }
  return readFile(file, 'utf8');
}

export function readDescription(body: unknown): Omit<StagedRelease, 'id'> {
  const parsed = releaseDescription.safeParse(body);
  if (!parsed.success) throw new Refusal(400, 'this is not a release description');
  return parsed.data;
}

/** A release as an archive that any host can serve: its files, and what servers have to be told beside them. */
import { DomainError } from '@fastigium/contracts/errors';
import { writeApacheAccess, isRestricted, writeNginxAccess, type Serving } from '@fastigium/core/access';
import { splitHost } from '@fastigium/core/redirects';
import {
  writeApacheMapRules,
  writeNginxRules,
  writeRuleData,
  filterRulesOfSite,
} from '@fastigium/core/redirects/exchange';
import { writeApacheHeaders, writeNginxHeaders, type ManifestEntry, type ShardHashes } from '@fastigium/core/release';
import { ZipFile } from 'yazl';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { SITE_FOLDER } from '../shared/sitePaths.ts';
import { readAllEntries } from '../shared/manifests.ts';
import { readServing } from '../shared/serving.ts';
import { speak } from '../../words.ts';

interface Row extends Record<string, unknown> {
  readonly shards: ShardHashes;
  readonly rulesHash: string | null;
  readonly at: Date;
  readonly name: string;
}

/** @returns the archive as it is written, one content after the other */
export async function takeAlong(deps: Deps, site: string, number: number): Promise<NodeJS.ReadableStream> {
  const row = await deps.db.maybeOne<Row>(
    `select r.shards, r.rules_hash as "rulesHash", coalesce(r.live_at, r.created_at) as at, s.name from release r join site s on s.id = r.site_id where r.site_id = $1 and r.number = $2 and r.shards is not null`,
    [site, number],
  );
  if (!row) throw new DomainError('release-not-kept', { number });
  const entries = [...(await readAllEntries(deps.db, row.shards)).values()].sort((a, b) => (a.path < b.path ? -1 : 1));
  const serving = await readServing(deps.db, row.rulesHash);
  const archive = new ZipFile();
  for (const { name, text } of writeBeside(entries, serving, { ...row, number }))
    archive.addBuffer(Buffer.from(text), name, { mtime: row.at });
  // A content is read when it is its turn, so that a site of any size is nobody's memory.
  const addFrom = (at: number): void => {
    const entry = entries[at];
    if (!entry) {
      archive.end();
      return;
    }
    readContent(deps.db, entry.hash).then(
      (bytes) => {
        archive.addBuffer(bytes, SITE_FOLDER + entry.path, { mtime: row.at });
        setImmediate(addFrom, at + 1);
      },
      (error: unknown) =>
        void (archive.outputStream as unknown as { destroy(error: Error): void }).destroy(error as Error),
    );
  };
  addFrom(0);
  return archive.outputStream;
}

function writeBeside(
  entries: readonly ManifestEntry[],
  { rules, access }: Serving,
  { name, number, at }: { name: string; number: number; at: Date },
): { name: string; text: string }[] {
  const ownRules = filterRulesOfSite(rules);
  const elsewhere = rules.filter(({ from }) => splitHost(from).host !== undefined).length;
  const [nginx, apache] = [writeNginxRules(ownRules), writeApacheMapRules(ownRules)];
  const leftOut = [
    ...new Set([...nginx.leftOut, ...apache.leftOut].map(({ from, why }) => `  ${from}: ${speak(why)}`)),
  ];
  return [
    {
      name: 'release.json',
      text: `${JSON.stringify({ site: name, release: number, at: at.toISOString(), files: entries, redirects: writeRuleData(ownRules) }, undefined, 2)}\n`,
    },
    { name: 'nginx/headers-server.conf', text: writeNginxHeaders(entries) },
    ...nginx.files.map((file) => ({ ...file, name: `nginx/${file.name}` })),
    { name: 'apache/headers.conf', text: writeApacheHeaders(entries) },
    ...apache.files.map((file) => ({ ...file, name: `apache/${file.name}` })),
    ...writeNginxAccess(access).files.map(({ name: file, text }) => ({ name: `nginx/${file}`, text })),
    ...writeApacheAccess(access).files.map(({ name: file, text }) => ({ name: `apache/${file}`, text })),
    {
      name: 'read-me.txt',
      text: `${[
        `${name}, release ${number}, ${at.toISOString()}`,
        '',
        'site/     what visitors get; its folder is the root of the server',
        'nginx/    include redirects-maps.conf inside http { }, then headers-server.conf and redirects-server.conf inside server { }',
        'apache/   inside <VirtualHost>: Define REDIRECTS_MAP /path/to/redirects.map, then include headers.conf and redirects.conf',
        ...(isRestricted(access)
          ? [
              '',
              'Who can visit is restricted, and only the server can hold to it:',
              'nginx/    access-maps.conf goes inside http { } behind redirects-maps.conf, access-server.conf inside server { } before the others, access-users-* beside nginx.conf',
              'apache/   Define ACCESS_USERS /path/to/apache, then include access.conf before redirects.conf',
              'Neither slows down whoever tries passwords out; the host stand-in does. In nginx, limit_req does it for all requests alike.',
              '',
            ]
          : []),
        'release.json   every file with its SHA-256 and its headers, and the redirects as data',
        ...(leftOut.length > 0 ? ['', 'These redirects could not be said to one of the servers:', ...leftOut] : []),
        ...(elsewhere > 0
          ? ['', `${elsewhere} redirects of old domains are not in here; Fastigium writes them under Redirects, Files.`]
          : []),
        '',
        'Brought into Fastigium, this archive is the site again.',
      ].join('\n')}\n`,
    },
  ];
}

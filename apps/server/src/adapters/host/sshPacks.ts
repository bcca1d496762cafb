/**
 * Many files at once to a server whose account may run commands: as one archive, unpacked there, each content held
 * against its hash by the server itself before it is kept. An account that may only speak SFTP gets them one by one.
 */
import { randomUUID } from 'node:crypto';
import type { Client } from 'ssh2';
import type { HashedBytes } from '@fastigium/contracts/ports/host';
import type { Recipe } from '@fastigium/core/pieces';
import { openShell, quoteForShell } from './remoteShell.ts';
import { packUstar } from './ustar.ts';

export interface PackedLink {
  readonly path: string;
  /** Path of a file that is there. */
  readonly to: string;
}

export interface SshPacks {
  /** Keeps contents in `contents/`, each in a folder of the first two letters of its hash; throws where the server could not, or the bytes came otherwise. Then makes names for them. */
  contents(files: readonly HashedBytes[], links: readonly PackedLink[]): Promise<void>;
  /** Keeps a content that is put together there of one it has and what is sent. @returns bytes on the wire */
  assembled(hash: string, from: string, recipe: Recipe): Promise<number>;
  /** Writes a file or replaces one, whole or not at all; its folder is there. @param path without anything a shell would take apart */
  file(path: string, bytes: Buffer): Promise<void>;
  /** Makes names for files that are there, with the folders they stand in. */
  links(links: readonly PackedLink[]): Promise<void>;
}

/** Undefined where the account may run nothing, or the server knows neither tar nor sha256sum. */
export async function openSshPacks(client: Client, folder: string): Promise<SshPacks | undefined> {
  const shell = await openShell(client, setUp(folder)).catch(() => undefined);
  if (!shell) return undefined;
  const give = (command: string, archive: Buffer) => shell.give(`arriving-${randomUUID()}`, command, archive);
  return {
    contents: (files, links) =>
      give(
        'keep',
        packUstar([
          ...files.map(({ hash, bytes }) => ({ type: 'file', path: `contents/${pathOf(hash)}`, bytes }) as const),
          {
            type: 'file',
            path: 'sums',
            bytes: Buffer.from(files.map(({ hash }) => `${hash}  ${pathOf(hash)}\n`).join('')),
          },
          { type: 'file', path: 'names', bytes: encodeNames(links) },
        ]),
      ),
    async assembled(hash, from, { parts, sent }) {
      const archive = packUstar([
        { type: 'file', path: `contents/${pathOf(hash)}`, bytes: new Uint8Array() },
        { type: 'file', path: 'parts', bytes: Buffer.from(writePartLines(parts)) },
        { type: 'file', path: 'sent', bytes: sent },
        { type: 'file', path: 'sums', bytes: Buffer.from(`${hash}  ${pathOf(hash)}\n`) },
      ]);
      await give(`assemble ${pathOf(from)} ${pathOf(hash)}`, archive);
      return archive.length;
    },
    file: (path, bytes) => give(`become ${bytes.length} ${path}`, bytes),
    links: (links) => give('unpack', encodeNames(links)),
  };
}

const encodeNames = (links: readonly PackedLink[]): Buffer =>
  packUstar(links.map(({ path, to }) => ({ type: 'link', path, to })));
/** `FILE OFFSET LENGTH`, of the old content or of what is sent. */
function writePartLines(parts: Recipe['parts']): string {
  let at = 0;
  return parts
    .map((part) => {
      if ('copy' in part) return `old ${part.copy} ${part.length}\n`;
      at += part.sent;
      return `sent ${at - part.sent} ${part.sent}\n`;
    })
    .join('');
}

const pathOf = (hash: string): string => `${hash.slice(0, 2)}/${hash}`;

/**
 * What a shell there is taught. Times and owners of what is unpacked are those of whoever unpacks, as with files that
 * are written one by one. Contents are renamed into place once they are whole and checked, whole folders where there is
 * none yet, so that whoever is killed in between leaves no half content under its hash; a folder that another archive
 * has made meanwhile is filled like one that was there. What a cut line left is swept a day later.
 */
const setUp = (folder: string): string => `
LC_ALL=C; export LC_ALL
cd ${quoteForShell(folder)} && { tar --version && sha256sum --version && mv --version && head --version && tail --version; } >/dev/null 2>&1 || exit 1
find . -maxdepth 1 -name 'arriving-*' -mtime +0 -exec rm -rf {} +
unpack() { tar -xmof -; }
place() {
  new=
  for d in *; do if [ -e "../../contents/$d" ]; then mv -f "$d"/* "../../contents/$d/" || return 1; else new="$new $d"; fi; done
  [ -z "$new" ] || mv -t ../../contents $new 2>/dev/null || for d in $new; do [ ! -e "$d" ] || mv -f "$d"/* "../../contents/$d/" || return 1; done
}
checked() { cd contents && sha256sum -c --quiet ../sums >&2 && place; }
keep() { mkdir -p contents "$name.d" && ( cd "$name.d" && unpack && checked ) && unpack < "$name.d/names"; }
become() { [ "$(wc -c < "$name")" -eq "$1" ] && mv -f "$name" "$2"; }
assemble() {
  mkdir "$name.d" && cd "$name.d" && unpack && ln "../contents/$1" old || return 1
  while read -r file at length; do tail -c "+$((at + 1))" "$file" | head -c "$length" || return 1; done < parts > "contents/$2"
  checked
}`;

/** A folder of this machine; which of them may be used is its operator's to say, links in the way followed. */
import { DomainError } from '@fastigium/contracts/errors';
import type { FolderRequest } from '@fastigium/contracts/hosts/folder';
import { host } from '@fastigium/contracts/messages/address';
import { reason } from '@fastigium/contracts/messages/reason';
import { z } from 'zod';
import { createFolderHost, probeFolder } from '../folderHost.ts';
import { createRefusingHost } from '../noHost.ts';
import { isWithin, placeShut } from '../places.ts';
import type { HostKind } from './kind.ts';

const settings = z.object({
  folder: z.string().default(''),
  url: z.string().optional(),
  log: z.string().optional(),
});
const secret = z.object({});

export const folder: HostKind<FolderRequest, z.infer<typeof settings>, z.infer<typeof secret>> = {
  settings,
  secret,
  async probe({ folder: path, url, log }, { places }) {
    if (!path.startsWith('/')) throw new DomainError('host-folder-unusable', { reason: reason('whole-path') });
    await refuseOutside(path, places.folders, 'FASTIGIUM_HOST_FOLDERS');
    if (log !== undefined) await refuseOutside(log, places.logs, 'FASTIGIUM_HOST_LOGS');
    await probeFolder(path);
    return { settings: { folder: path, url, log }, secret: {}, pinnedKey: undefined };
  },
  async open({ settings: { folder: path, url = '', log } }, { places }) {
    if (!(await isWithin(path, places.folders)))
      return createRefusingHost(() => placeShut(path, places.folders, 'FASTIGIUM_HOST_FOLDERS'), url);
    return createFolderHost(path, url, log !== undefined && (await isWithin(log, places.logs)) ? log : undefined);
  },
  message: ({ folder: path }) => host('folder', { folder: path }),
};

async function refuseOutside(path: string, open: readonly string[], setting: string): Promise<void> {
  if (!(await isWithin(path, open))) throw placeShut(path, open, setting);
}

/** A folder of the machine Fastigium runs on, which a web server there serves. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { accessLogPath, answersAt, folderPath } from './parts.ts';

export const folderRequest = z.object({
  kind: z.literal('folder'),
  folder: folderPath,
  url: answersAt,
  log: accessLogPath,
});
export type FolderRequest = z.infer<typeof folderRequest>;

export const folderMessages = { folder: { folder: 'text' } } as const satisfies Definitions;

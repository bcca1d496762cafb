/** An account on a server that takes files over SFTP. */
import type { Definitions } from '@fastigium/core/messages';
import { z } from 'zod';
import { accessLogPath, answersAt, folderPath } from './parts.ts';

export const sftpServer = {
  server: z.string().trim().min(1).max(253),
  port: z.number().int().min(1).max(65_535).default(22),
};
export const sftpRequest = z.object({
  kind: z.literal('sftp'),
  ...sftpServer,
  user: z.string().trim().min(1).max(100),
  folder: folderPath,
  password: z.string().max(1000).optional(),
  /** A private key, PEM or OpenSSH’s own form. */
  key: z.string().max(20_000).optional(),
  /** The fingerprint that was shown and agreed to. */
  fingerprint: z.string().max(200).optional(),
  url: answersAt,
  log: accessLogPath,
});
export type SftpRequest = z.infer<typeof sftpRequest>;

export const sftpMessages = { sftp: { user: 'text', server: 'text', folder: 'text' } } as const satisfies Definitions;

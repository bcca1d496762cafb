/** How the certificate, the host and names that are looked for stand. */
import { folderMessages } from '../hosts/folder.ts';
import { sftpMessages } from '../hosts/sftp.ts';
import { standInMessages } from '../hosts/standIn.ts';
import { defineMessages, type MessageOf } from '@fastigium/core/messages';

export const certificate = defineMessages('certificate', {
  'being-ordered': {},
  'order-failed': {},
  'none-served': {},
  'new-being-ordered': {},
  'ran-out': {},
  'not-trusted': {},
  'other-names': {},
  served: {},
});
export type CertificateMessage = MessageOf<typeof certificate>;

/** Where a site is published. */
export const host = defineMessages('host', { ...standInMessages, ...folderMessages, ...sftpMessages });
export type HostMessage = MessageOf<typeof host>;

/** Whether a name can be had. */
export const nameFound = defineMessages('name-found', {
  free: {},
  held: {},
  'held-until': { day: 'day' },
  'not-sold': {},
  'registry-silent': { reason: 'part' },
});

/** How the certificate, the host and names that are looked for stand. */
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
export const host = defineMessages('host', {
  none: {},
  plan: { host: 'text', plan: 'text' },
  'no-plan': { host: 'text' },
  folder: { folder: 'text' },
  sftp: { user: 'text', server: 'text', folder: 'text' },
});
export type HostMessage = MessageOf<typeof host>;

/** Whether a name can be had. */
export const nameFound = defineMessages('name-found', {
  free: {},
  held: {},
  'held-until': { day: 'day' },
  'not-sold': {},
  'registry-silent': { reason: 'part' },
});

/** Every kind of account of one's own; the host this Fastigium came with needs none. */
import type { HostKindName, HostRequest } from '@fastigium/contracts/hosts/request';
import { folder } from './folder.ts';
import type { HostKind } from './kind.ts';
import { sftp } from './sftp.ts';

export type OwnKindName = Exclude<HostKindName, 'stand-in'>;
export type OwnHostRequest = Extract<HostRequest, { readonly kind: OwnKindName }>;

const KINDS: { readonly [K in OwnKindName]: HostKind<Extract<HostRequest, { readonly kind: K }>> } = { folder, sftp };

/** Its definition, which takes requests and accounts of that kind. */
export const findHostKind = (kind: OwnKindName): HostKind<OwnHostRequest> => KINDS[kind] as HostKind<OwnHostRequest>;
